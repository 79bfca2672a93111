import { freeze } from '../../util/freeze.js';
import { Broken, handOut, handOutBroken, MemberRef, valueNode } from '../references/member.js';
import type { ForAudience, Given, Sealed, Value } from '../types/member-types.js';

/**
 * Lets a sealed value out, for these audiences and no other. For one endpoint only, put it
 * inside `at`: `token: at({ create: unseal('agent', k.token) })`.
 *
 * @param audience the audience's name, or several
 * @param member a sealed column, or a value derived from one
 * @example
 * masterPhone: unseal('harbourMaster', v.masterPhone)
 */
export const unseal = <const A extends string | readonly [string, ...string[]], T, W>(
  audience: A,
  member: Sealed<T, W>,
): Given<ForAudience<A extends readonly string[] ? A[number] : A & string>, Value<T, W>> => {
  const inner = valueNode(member, 'unseal');
  if (inner instanceof Broken) return handOutBroken(inner);
  if (inner.seals.length === 0)
    return handOutBroken('this value is not sealed: use it as it is, or given(audience(…), …)');
  const audiences = freeze(typeof audience === 'string' ? [audience] : [...audience]);
  return handOut(new MemberRef({ kind: 'unsealed', audiences, node: inner.node }, inner.home));
};
