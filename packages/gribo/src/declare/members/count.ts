import { Broken, handOut, handOutBroken, MemberRef, referenceOf } from '../references/member.js';
import type { ListRef, Value } from '../types/member-types.js';

type NullIf<T, Null> = Null extends true ? T | null : T;

/**
 * How many rows are behind a to-many link. Over `some(…)`, how many of them are selected.
 *
 * @param rows a to-many link
 * @returns a whole number; null where the link is reached through a missing row
 * @example
 * count(v.portCalls)
 */
export const count = <M, K, Null extends boolean>(
  rows: ListRef<M, K, Null>,
): Value<NullIf<number, Null>, NullIf<number, Null>> => {
  const reference = referenceOf(rows);
  if (reference instanceof Broken) return handOutBroken(reference);
  if (reference === null || reference instanceof MemberRef || reference.kind !== 'rows') {
    return handOutBroken('count takes a to-many link: count(v.links)');
  }
  const { path, link, selection, home } = reference;
  return handOut(new MemberRef({ kind: 'count', path, link, selection }, home));
};
