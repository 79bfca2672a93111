import type { ConditionNode } from '../../plan/condition.js';
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
import type { Conditional, Either, Fields, Given, Member, SaidBy } from '../types/member-types.js';
import type { ValueFields, ValueMember } from '../types/values-types.js';

/** Whether the situation settles a condition before a request is read: by whom it is, and in which edition. */
const isOfCallers = (condition: ConditionNode): boolean =>
  leavesOf(condition).every(({ kind }) => kind === 'audience' || kind === 'edition');

/** A filter for some audiences or editions: for the others it does not exist. */
const givenFilter = (
  { node }: BuiltCondition,
  filter: BuiltFilter,
  otherwise: BuiltFilter | null,
): BuiltFilter | Broken => {
  if (isOfCallers(node)) return { ...filter, when: node, otherwise };
  return new Broken('a filter is there for audiences or not: given(audience(…), equals(c.column))');
};

const notFor = 'only an edition decides between two: given(editionFrom(…), member, the one before)';

/** The member of a shape. */
const shown = <Seen>(condition: BuiltCondition, member: unknown, other: unknown): Seen => {
  const all = [member, ...(other === undefined ? [] : [other])].map((one) => memberNode(one));
  const broken = all.find((one) => one instanceof Broken);
  if (broken instanceof Broken) return handOutBroken(broken);
  const [inner, otherwise] = all.filter((one): one is MemberRef => one instanceof MemberRef);
  if (inner === undefined) return handOutBroken('given takes a member');
  const homes = [condition.home, inner.home, otherwise?.home ?? null].filter((home) => home !== null);
  if (new Set(homes.map((home) => home.origin)).size > 1) {
    return handOutBroken('the condition is about the row of another shape');
  }
  const seals = [...new Set([...inner.seals, ...(otherwise?.seals ?? [])])];
  const parts = { condition: condition.node, node: inner.node };
  const node =
    otherwise === undefined
      ? ({ kind: 'given', ...parts } as const)
      : ({ kind: 'either', ...parts, otherwise: otherwise.node } as const);
  return handOut(new MemberRef(node, homes[0] ?? null, seals));
};

/** A filter under a condition, and the one in its place where that does not hold. */
const filterGiven = <Seen>(condition: BuiltCondition, member: unknown, other: unknown): Seen => {
  const filter = filterOf(member);
  const otherwise = other === undefined ? null : filterOf(other);
  if (filter instanceof Broken) return handOutCondition(filter);
  return handOutCondition(
    otherwise instanceof Broken ? otherwise : givenFilter(condition, filter, otherwise),
  );
};

/** What can be under a condition: a member, a filter, what comes in; of an API, what it is declared of. */
type Givable =
  | Member
  | Fields
  | FilterMember
  | InputMember
  | InputFields
  | ValueMember
  | ValueFields
  | { readonly plan: object }
  | { readonly plans: object }
  | { readonly takes: object };

/** A filter stays one; anything else is there under the condition, or the other is in its place. */
type GivenOf<C, M, N> = 0 extends 1 & M
  ? Given<C, M>
  : M extends FilterMember
    ? FilterMember
    : // What is left out is not guessed from what is wanted of the whole.
      [N] extends [infer Other]
      ? [Other] extends [never]
        ? Given<C, M>
        : Either<C, M, Other>
      : never;

/**
 * A member that is included only where a condition holds. What the situation decides is decided
 * before rows are written; where it cannot hold, the member is neither written nor loaded.
 *
 * @param condition `audience(…)`, `asked(…)`, `editionFrom(…)`, `editionBefore(…)`, a comparison such as `equals(…)`,
 * `some(…)` for that there are such rows, `holds(…)`, or `all`, `any`, `not` of these
 * @param member a value, a nested shape, or a group; in `filters`, a filter, and in an input what comes in: there for
 * some audiences, and for the others it does not exist. Under conditions on editions alone, a body, an input, an endpoint
 * or a collection too
 * @param otherwise what stands there where the condition does not hold: for conditions on editions alone
 * @example
 * tonnage: given(audience('agent', 'harbourMaster'), v.grossTonnage)
 * @example
 * length: given(editionFrom('2026-05'), { value: v.length, unit: constant('m') }, asNumber(v.length))
 */
export const given = <X, const M extends Givable, const N extends Givable = never>(
  condition: X extends Conditional
    ? X
    : 'expected a condition, such as audience(…), asked(…), equals(…) or holds(…)',
  member: M,
  otherwise?: N,
): GivenOf<SaidBy<X>, M, N> => {
  const built = conditionOf(condition);
  if (built instanceof Broken) return isFilter(member) ? handOutCondition(built) : handOutBroken(built);
  if (otherwise !== undefined && leavesOf(built.node).some(({ kind }) => kind !== 'edition'))
    return isFilter(member) ? handOutCondition(new Broken(notFor)) : handOutBroken(notFor);
  if (isFilter(member)) return filterGiven(built, member, otherwise);
  // What an input may have is another matter, and so is what an API is made of: they ask what was given.
  return noteGiven(shown(built, member, otherwise), { condition: built.node, member, otherwise });
};
