import type { DeprecationNotice } from '../../plan/declared.js';
import { freeze } from '../../util/freeze.js';
import { Broken, handOut, handOutBroken, MemberRef } from '../references/member.js';
import { memberNode } from '../references/member-node.js';
import type { Fields, Member } from '../types/member-types.js';

export interface Deprecation {
  /** The day it was announced, as `YYYY-MM-DD`. */
  readonly since?: string;
  /** The day after which it may be gone, as `YYYY-MM-DD`. */
  readonly sunset?: string;
  /** What to use instead: a member, or an endpoint. */
  readonly instead?: string;
}

/** A notice as data, or why it is none. */
export const noticeOf = (notice: Deprecation): DeprecationNotice | Broken => {
  const { since = null, sunset = null, instead = null } = notice;
  if (isDay(since) && isDay(sunset)) return freeze({ since, sunset, instead });
  return new Broken('since and sunset are days, written as YYYY-MM-DD');
};

const isDay = (text: string | null): boolean => text === null || /^\d{4}-\d\d-\d\d$/.test(text);

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
  if (inner instanceof Broken) return handOutBroken(inner);
  const made = noticeOf(notice);
  if (made instanceof Broken) return handOutBroken(made);
  const node = { kind: 'deprecated', notice: made, node: inner.node } as const;
  return handOut(new MemberRef(node, inner.home, inner.seals));
};
