import type { Operation } from '../../plan/api-plan.js';
import type { Case, DeclaredNode } from '../../plan/declared.js';
import { freeze } from '../../util/freeze.js';
import { isPlainLiteral } from '../../util/is-plain-literal.js';
import { Broken, type Home, handOut, handOutBroken, MemberRef } from '../references/member.js';
import { memberNode } from '../references/member-node.js';
import { allBroken } from '../references/read-literal.js';
import type { Cases, Fields, Member } from '../types/member-types.js';

/** Members by endpoint; those of collections and `otherwise` are completed. */
type AtCases = { readonly [endpoint: string]: Member | Fields } & {
  readonly [Name in Operation | 'otherwise']?: Member | Fields;
};

/**
 * One member, different at each endpoint, and absent at those that are not named.
 *
 * @param cases members by endpoint: the full name (`'vessels.read'`) or its last part (`read`);
 * `otherwise` is the member everywhere else
 * @example
 * notes: at({ list: shorten(v.notes, 80), read: v.notes })
 */
export const at = <const C extends AtCases>(cases: C): Cases<C> => {
  if (!isPlainLiteral(cases)) return handOutBroken('at takes members by endpoint: at({ list: …, read: … })');
  const made: Case[] = [];
  const broken: Broken[] = [];
  const seals: string[] = [];
  let home: Home | null = null;
  let otherwise: DeclaredNode | null = null;
  for (const endpoint of Object.keys(cases)) {
    const inner = memberNode(cases[endpoint]);
    if (inner instanceof Broken) {
      broken.push(inner.saying(`at ${endpoint}: `));
      continue;
    }
    if (home !== null && inner.home !== null && home.origin !== inner.home.origin) {
      return handOutBroken(`at ${endpoint}: it was made from the row of another shape`);
    }
    home ??= inner.home;
    seals.push(...inner.seals);
    if (endpoint === 'otherwise') otherwise = inner.node;
    else made.push(freeze({ endpoint, node: inner.node }));
  }
  const wrong = allBroken(broken);
  if (wrong !== null) return handOutBroken(wrong);
  return handOut(new MemberRef({ kind: 'cases', cases: freeze(made), otherwise }, home, seals));
};
