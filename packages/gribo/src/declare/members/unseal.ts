import { freeze } from '../../util/freeze.js';
import { Broken, handOut, handOutBroken, MemberRef, referenceOf } from '../references/member.js';
import type { ForAudience, Given, Nested, Sealed, Value, Wrap } from '../types/member-types.js';

/** What can be under a seal: a value, or nested rows that are behind one. */
export type Unsealable = Sealed<unknown, unknown> | Value<unknown, unknown> | Nested<unknown, Wrap>;

/** The same without its seal. */
export type Unsealed<M> = M extends Sealed<infer T, infer W> ? Value<T, W> : M;

/**
 * Lets a sealed value out, for these audiences and no other. For one endpoint only, put it
 * inside `at`: `token: at({ create: unseal('agent', k.token) })`.
 *
 * @param audience the audience's name, or several
 * @param member a sealed column, a value derived from one, or nested rows that are behind one
 * @example
 * masterPhone: unseal('harbourMaster', v.masterPhone)
 */
export const unseal = <const Name extends string, M extends Unsealable>(
  audience: Name | readonly [Name, ...Name[]],
  member: M,
): Given<ForAudience<Name>, Unsealed<M>> => {
  const inner = referenceOf(member);
  if (inner instanceof Broken) return handOutBroken(inner);
  if (!(inner instanceof MemberRef))
    return handOutBroken('unseal takes a sealed column, a value of one, or nested rows that are behind one');
  if (inner.seals.length === 0)
    return handOutBroken('this value is not sealed: use it as it is, or given(audience(…), …)');
  const audiences = freeze(typeof audience === 'string' ? [audience] : [...audience]);
  return handOut(new MemberRef({ kind: 'unsealed', audiences, node: inner.node }, inner.home));
};
