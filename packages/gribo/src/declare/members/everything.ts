import { columnSeals } from '../references/link-seals.js';
import { Broken, handOut, handOutBroken, MemberRef, referenceOf } from '../references/member.js';
import type { RowBrand, Value } from '../types/member-types.js';

/** Every open column of a row reference: its values, without links and sealed columns. */
type OpenColumns<R> = { readonly [C in keyof R as R[C] extends Value<unknown, unknown> ? C : never]: R[C] };

/**
 * Every column that is not sealed, under its own name. Quick to begin with: a column that is
 * added to the entity later goes out too, so replace it by a list before others rely on it.
 *
 * @param row the row, or a to-one link
 * @returns the members, to be spread
 * @example
 * shape(db.berth, (b) => ({ ...everything(b) }))
 */
export const everything = <R extends RowBrand<unknown, unknown, boolean>>(row: R): OpenColumns<R> => {
  const reference = referenceOf(row);
  if (reference instanceof Broken) return handOutBroken(reference);
  if (reference === null || reference instanceof MemberRef || reference.kind !== 'row') {
    return handOutBroken('everything takes a row: everything(v)');
  }
  const { path, home, bound } = reference;
  const open = bound.entity.columns.filter((column) => columnSeals(reference, column).length === 0);
  const members = open.map((column) => {
    return [column.name, handOut(new MemberRef({ kind: 'column', path, column, unnamed: true }, home))];
  });
  return Object.fromEntries(members);
};
