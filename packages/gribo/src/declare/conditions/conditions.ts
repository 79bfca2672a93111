import { isFrom } from '../../editions/edition-order.js';
import { freeze } from '../../util/freeze.js';
import { combine } from '../references/combine.js';
import { Broken } from '../references/member.js';
import type {
  AllOf,
  AnyOf,
  AnyValue,
  Arguments,
  Asks,
  BeforeEdition,
  Condition,
  Conditional,
  ForAudience,
  FromEdition,
  NotThat,
  SaidBy,
  Sometimes,
} from '../types/member-types.js';
import { type BuiltCondition, conditionOf, handOutCondition } from './condition-of.js';

/**
 * The response is for one of these audiences.
 *
 * @param names audiences of the API; `api` throws for one that it does not have
 * @returns a condition, settled before any row is read: never true for callers of no audience
 * @example
 * given(audience('agent'), v.grossTonnage)
 */
export const audience = <const Names extends readonly [string, ...string[]]>(
  ...names: Names
): Condition<ForAudience<Names[number]>> =>
  handOutCondition({
    kind: 'condition',
    node: freeze({ kind: 'audience', names: freeze([...names]) }),
    home: null,
  });

/**
 * The caller asked for it: `?with=name`.
 *
 * @param name what the caller asks by
 * @returns a condition, settled before any row is read: what nobody asked for is not loaded
 * @example
 * given(asked('operator'), OperatorBrief(v.operator))
 */
export const asked = <const Name extends string>(name: Name): Condition<Asks<Name>> =>
  handOutCondition({ kind: 'condition', node: freeze({ kind: 'asked', name }), home: null });

/**
 * The API is asked in this edition or a later one.
 *
 * @param edition the name of an edition of the API; `api` throws for one that it does not have
 * @returns a condition, settled before any request is answered: it costs nothing for a row
 * @example
 * flag: given(editionFrom('2026-05'), v.flagState)
 */
export const editionFrom = <const Name extends string>(edition: Name): Condition<FromEdition<Name>> =>
  handOutCondition({
    kind: 'condition',
    node: freeze({ kind: 'edition', from: edition, holds: (asked?: string) => isFrom(asked, edition) }),
    home: null,
  });

/**
 * The API is asked in an edition before this one.
 *
 * @param edition the name of an edition of the API; `api` throws for one that it does not have
 * @returns a condition, settled before any request is answered: it costs nothing for a row
 * @example
 * flagState: given(editionBefore('2026-05'), v.flagState)
 */
export const editionBefore = <const Name extends string>(edition: Name): Condition<BeforeEdition<Name>> =>
  negated(editionFrom(edition));

/**
 * The row satisfies a test.
 *
 * @param dependencies the values that the test is given, in its order: columns of one row, or what is made of them
 * @param test says whether it holds; called once for each row, and never where a link on the way leads to no row
 * @returns a condition that each row decides; writing throws `ROW_FUNCTION` where the test throws
 * @example
 * given(holds([c.hazardous], (hazardous) => hazardous), c.hazardDetail)
 */
export const holds = <const A extends readonly AnyValue[]>(
  dependencies: A,
  test: (...values: Arguments<A>) => boolean,
): Condition<Sometimes> => {
  const combined = combine(dependencies, 'holds');
  if (combined instanceof Broken) return handOutCondition(combined);
  const { inputs, home } = combined;
  const call = test as (...inputs: never[]) => unknown;
  const node = freeze({ kind: 'holds', guard: home?.base ?? [], inputs, test: call } as const);
  return handOutCondition({ kind: 'condition', node, home });
};

const joined = <C>(kind: 'all' | 'any', conditions: readonly unknown[]): Condition<C> => {
  const parts = conditions.map(conditionOf);
  const broken = parts.find((part) => part instanceof Broken);
  if (broken instanceof Broken) return handOutCondition(broken);
  const sound = parts.filter((part): part is BuiltCondition => !(part instanceof Broken));
  const homes = sound.map((part) => part.home).filter((home) => home !== null);
  if (new Set(homes.map((home) => home.origin)).size > 1) {
    return handOutCondition(new Broken(`${kind} takes conditions on one row, these are on several`));
  }
  const node = freeze({ kind, of: freeze(sound.map((part) => part.node)) });
  return handOutCondition({ kind: 'condition', node, home: homes[0] ?? null });
};

/**
 * Every one of these holds; of none, it does.
 *
 * @param conditions conditions on one row, or on none
 * @example
 * given(all(audience('agent'), asked('dues')), c.dues)
 */
export const all = <const Cs extends readonly Conditional[]>(
  ...conditions: Cs
): Condition<AllOf<SaidBy<Cs[number]>>> => joined('all', conditions);

/**
 * At least one of these holds; of none, it does not.
 *
 * @param conditions conditions on one row, or on none
 * @example
 * given(any(audience('harbourMaster'), holds([c.embargoUntil], isOver)), c.remarks)
 */
export const any = <const Cs extends readonly Conditional[]>(
  ...conditions: Cs
): Condition<AnyOf<SaidBy<Cs[number]>>> => joined('any', conditions);

/**
 * This does not hold.
 *
 * @param condition any condition; `not(audience(…))` holds for callers of no audience
 * @example
 * given(not(audience('public')), c.dues)
 */
export const not = <X extends Conditional>(condition: X): Condition<NotThat<SaidBy<X>>> => negated(condition);

const negated = <C>(condition: Conditional): Condition<C> => {
  const part = conditionOf(condition);
  if (part instanceof Broken) return handOutCondition(part);
  return handOutCondition({
    kind: 'condition',
    node: freeze({ kind: 'not', of: part.node }),
    home: part.home,
  });
};
