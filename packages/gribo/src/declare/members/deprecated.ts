import { Broken, handOut, handOutBroken, MemberRef } from '../member.js';
import { memberNode } from '../member-node.js';
import type { Fields, Member } from '../member-types.js';

export interface Deprecation {
  /** The day it was announced, as `YYYY-MM-DD`. */
  readonly since?: string;
  /** The day after which it may be gone, as `YYYY-MM-DD`. */
  readonly sunset?: string;
  /** The member to read instead. */
  readonly instead?: string;
}

const isDay = (text: string | undefined): boolean => text === undefined || /^\d{4}-\d\d-\d\d$/.test(text);

/**
 * A member that will go. It is still written; every description says so.
 *
 * @param member any member
 * @param notice `since` and `sunset` as `YYYY-MM-DD`, `instead`: the member to read instead
 * @example
 * flag: deprecated(v.flagState, { since: '2026-01-01', sunset: '2026-12-31', instead: 'flagState' })
 */
export const deprecated = <const M extends Member | Fields>(member: M, notice: Deprecation): M => {
  const inner = memberNode(member);
  if (inner instanceof Broken) return handOutBroken(inner.message);
  if (!isDay(notice.since) || !isDay(notice.sunset)) {
    return handOutBroken('since and sunset are days, written as YYYY-MM-DD');
  }
  const { since = null, sunset = null, instead = null } = notice;
  const node = { kind: 'deprecated', notice: { since, sunset, instead }, node: inner.node } as const;
  return handOut(new MemberRef(node, inner.home, inner.seals));
};
