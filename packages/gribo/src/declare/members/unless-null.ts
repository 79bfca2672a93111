import { Broken, handOut, handOutBroken, MemberRef, referenceOf } from '../references/member.js';
import type { Nested, Optional, Stored, Value } from '../types/member-types.js';

/** A member without its null. */
type Present<M> =
  M extends Stored<infer N, infer T, infer W>
    ? Stored<N, NonNullable<T>, NonNullable<W>>
    : M extends Value<infer T, infer W>
      ? Value<NonNullable<T>, NonNullable<W>>
      : M extends Nested<infer F, 'oneOrNull'>
        ? Nested<F, 'one'>
        : M extends Nested<infer F, 'manyOrNull'>
          ? Nested<F, 'many'>
          : M;

/**
 * Leaves a member out where its value is null, instead of writing `null`: also where there always is a row behind a link, and a row
 * rule hides it from the caller.
 *
 * @param member a value, or a nested shape over a link to one row
 * @example
 * callSign: unlessNull(v.callSign)
 */
export const unlessNull = <M>(
  member: M extends Value<unknown, unknown> | Nested<unknown, 'one' | 'oneOrNull' | 'manyOrNull'>
    ? M
    : 'unlessNull takes a value, or a nested shape over a link to one row',
): Optional<Present<M>> => {
  const reference = referenceOf(member);
  if (reference instanceof Broken) return handOutBroken(reference);
  if (!(reference instanceof MemberRef))
    return handOutBroken('unlessNull takes a member: unlessNull(v.column)');
  return handOut(
    new MemberRef({ kind: 'unlessNull', node: reference.node }, reference.home, reference.seals),
  );
};
