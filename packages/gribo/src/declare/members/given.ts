import { leavesOf } from '../../plan/leaves-of.js';
import {
  type BuiltCondition,
  type BuiltFilter,
  conditionOf,
  filterOf,
  handOutCondition,
  isFilter,
} from '../conditions/condition-of.js';
import { noteGiven } from '../references/given-behind.js';
import { Broken, handOut, handOutBroken, MemberRef } from '../references/member.js';
import { memberNode } from '../references/member-node.js';
import type { FilterMember } from '../types/comparison.js';
import type { InputFields, InputMember } from '../types/input-types.js';
import type { Conditional, Fields, Given, Member, SaidBy } from '../types/member-types.js';
import type { ValueFields, ValueMember } from '../types/values-types.js';

/** A filter for some audiences: for the others it does not exist. */
const givenFilter = (condition: unknown, filter: BuiltFilter): BuiltFilter | Broken => {
  const built = conditionOf(condition);
  if (built instanceof Broken) return built;
  if (leavesOf(built.node).some(({ kind }) => kind !== 'audience'))
    return new Broken('a filter is there for audiences or not: given(audience(…), equals(c.column))');
  return { ...filter, when: built.node };
};

/** A filter stays one; anything else is a member. */
type IfFilter<M, Else> = 0 extends 1 & M ? Else : M extends FilterMember ? FilterMember : Else;

/** The member of a shape. */
const shown = <Seen>(condition: BuiltCondition, member: unknown): Seen => {
  const inner = memberNode(member);
  if (inner instanceof Broken) return handOutBroken(inner);
  const homes = [condition.home, inner.home].filter((home) => home !== null);
  if (new Set(homes.map((home) => home.origin)).size > 1) {
    return handOutBroken('the condition is about the row of another shape');
  }
  const node = { kind: 'given', condition: condition.node, node: inner.node } as const;
  return handOut(new MemberRef(node, homes[0] ?? null, inner.seals));
};

/**
 * A member that is included only where a condition holds. What the situation decides is decided
 * before rows are written; where it cannot hold, the member is neither written nor loaded.
 *
 * @param condition `audience(…)`, `asked(…)`, a comparison such as `equals(…)`, `some(…)` for that there are such rows,
 * `holds(…)`, or `all`, `any`, `not` of these
 * @param member a value, a nested shape, or a group; in `filters`, a filter, and in an input what comes in: there for
 * some audiences, and for the others it does not exist
 * @example
 * tonnage: given(audience('agent', 'harbourMaster'), v.grossTonnage)
 */
export const given = <
  X,
  const M extends Member | Fields | FilterMember | InputMember | InputFields | ValueMember | ValueFields,
>(
  condition: X extends Conditional
    ? X
    : 'expected a condition, such as audience(…), asked(…), equals(…) or holds(…)',
  member: M,
): IfFilter<M, Given<SaidBy<X>, M>> => {
  if (isFilter(member)) {
    const filter = filterOf(member);
    return handOutCondition(filter instanceof Broken ? filter : givenFilter(condition, filter));
  }
  const built = conditionOf(condition);
  if (built instanceof Broken) return handOutBroken(built);
  // What an input may have is another matter: it asks what was given.
  return noteGiven(shown(built, member), { condition: built.node, member });
};
