import { conditionOf } from '../conditions/conditions.js';
import { Broken, handOut, handOutBroken, MemberRef } from '../references/member.js';
import { memberNode } from '../references/member-node.js';
import type { Condition, Fields, Given, Member } from '../types/member-types.js';

/**
 * A member that is included only where a condition holds. What the situation decides is decided
 * before rows are written; where it cannot hold, the member is neither written nor loaded.
 *
 * @param condition `audience(…)`, `asked(…)`, `holds(…)`, or `all`, `any`, `not` of these
 * @param member a value, a nested shape, or a group
 * @example
 * tonnage: given(audience('agent', 'harbourMaster'), v.grossTonnage)
 */
export const given = <X, const M extends Member | Fields>(
  condition: X extends Condition<unknown>
    ? X
    : 'expected a condition, such as audience(…), asked(…) or holds(…)',
  member: M,
): Given<X extends Condition<infer C> ? C : never, M> => {
  const built = conditionOf(condition);
  if (built instanceof Broken) return handOutBroken(built);
  const inner = memberNode(member);
  if (inner instanceof Broken) return handOutBroken(inner);
  const homes = [built.home, inner.home].filter((home) => home !== null);
  if (new Set(homes.map((home) => home.origin)).size > 1) {
    return handOutBroken('the condition is about the row of another shape');
  }
  const node = { kind: 'given', condition: built.node, node: inner.node } as const;
  return handOut(new MemberRef(node, homes[0] ?? null, inner.seals));
};
