import { thereSeals } from '../references/link-seals.js';
import { Broken, handOut, handOutBroken, MemberRef, referenceOf } from '../references/member.js';
import type { ListRef, ManyRows, Value } from '../types/member-types.js';

type NullIf<T, Null> = Null extends true ? T | null : T;

/**
 * How many rows are behind a to-many link. Over `some(…)`, how many of them are selected.
 *
 * @param rows a to-many link
 * @returns a whole number; null where the link is reached through a missing row
 * @example
 * count(v.portCalls)
 */
export const count = <R>(
  rows: ManyRows<R, 'count takes a to-many link: count(v.links)'>,
): R extends ListRef<unknown, unknown, infer Null>
  ? Value<NullIf<number, Null>, NullIf<number, Null>>
  : never => {
  const reference = referenceOf(rows);
  if (reference instanceof Broken) return handOutBroken(reference);
  if (reference === null || reference instanceof MemberRef || reference.kind !== 'rows') {
    return handOutBroken('count takes a to-many link: count(v.links)');
  }
  const { path, link, selection, home } = reference;
  const seals = thereSeals(link);
  return handOut(new MemberRef({ kind: 'figure', path, link, selection, of: null }, home, seals));
};
