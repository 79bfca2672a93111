import { looked } from '../../plan/behind.js';
import type { ColumnNode, FilterOperator, Operand } from '../../plan/condition.js';
import { valueType } from '../../plan/value-type.js';
import { freeze } from '../../util/freeze.js';
import { compares } from '../../values/compares.js';
import { Broken, type Home, MemberRef, referenceOf } from '../references/member.js';
import type { Comparison, FilterMember } from '../types/comparison.js';
import type { Sealed, Value } from '../types/member-types.js';
import { handOutCondition } from './condition-of.js';

/** The column that is compared, and the row that it is of. */
interface Left {
  readonly node: ColumnNode;
  readonly home: Home | null;
}

const leftOf = (operator: FilterOperator, column: unknown): Left | Broken => {
  const reference = referenceOf(column);
  if (reference instanceof Broken) return reference;
  if (!(reference instanceof MemberRef) || reference.node.kind !== 'column')
    return new Broken(`${operator} compares a column of the row: ${operator}(c.column, value)`);
  if (reference.seals.length > 0) return new Broken('a sealed column cannot decide which rows are shown');
  const { path, column: plan } = reference.node;
  if (plan.coded !== null && !OF_FORMS.includes(operator))
    return new Broken(`${operator} compares an order, and ${plan.name} is stored in a form of its own`);
  if ((plan.type.kind === 'array' || plan.type.kind === 'duration') && operator !== 'isNull')
    return new Broken(
      `${plan.type.kind === 'array' ? 'an array' : 'a duration'} is compared with nothing: only isNull asks about it`,
    );
  return { node: freeze({ kind: 'column', path: looked(path), column: plan }), home: reference.home };
};

/** What can be asked of a column that is stored in a form of its own. */
const OF_FORMS: readonly FilterOperator[] = ['equals', 'oneOfThese', 'isNull'];

/** Kinds whose values are compared with each other as they are. */
const TEXTS: readonly string[] = ['text', 'oneOf'];

const areAlike = (one: string, other: string): boolean =>
  one === other || (TEXTS.includes(one) && TEXTS.includes(other));

const wrongOperand = (operator: FilterOperator): Broken =>
  new Broken(
    operator === 'oneOfThese'
      ? 'oneOfThese compares with values: oneOfThese(c.column, [value, …])'
      : `${operator} compares with a value, a column, a fact about the caller or now`,
  );

/** What a column is compared with: a value, another column of the row, or a fact about the caller. */
const rightOf = (operator: FilterOperator, left: Left, value: unknown): Operand | Broken => {
  const reference = referenceOf(value);
  if (reference === null) return freeze({ kind: 'value', value });
  if (reference instanceof Broken) return reference;
  if (!(reference instanceof MemberRef) || operator === 'oneOfThese') return wrongOperand(operator);
  const { node, home, seals } = reference;
  if (node.kind !== 'fact' && (node.kind !== 'column' || operator === 'contains'))
    return wrongOperand(operator);
  if (seals.length > 0) return new Broken('a sealed column cannot decide which rows are shown');
  if (home !== null && left.home !== null && home.origin !== left.home.origin)
    return new Broken(`${operator} compares columns of one row, these are of two`);
  if (node.kind === 'column' && (node.column.coded !== null || left.node.column.coded !== null))
    return new Broken(`${operator} compares two columns, and one of them is stored in a form of its own`);
  const [one, other] = [left.node.column.type.kind, valueType(node).kind];
  if (!areAlike(one, other))
    return new Broken(`${operator} compares two of one kind; these are ${one} and ${other}`);
  return node.kind === 'fact'
    ? node
    : freeze({ kind: 'column', path: looked(node.path), column: node.column });
};

type Both = Comparison & FilterMember;

/** Makes a comparison with a value, or without one a filter. */
const made = (operator: FilterOperator, column: unknown, given: readonly unknown[]): Both => {
  const left = leftOf(operator, column);
  if (left instanceof Broken) return handOutCondition(left);
  const { node, home } = left;
  if (given.length === 0)
    return handOutCondition({ kind: 'filter', left: node, operator, home, when: null, otherwise: null });
  const right = rightOf(operator, left, given[0]);
  if (right instanceof Broken) return handOutCondition(right);
  const condition = freeze({ kind: 'compares', left: node, operator, right, compare: compares } as const);
  return handOutCondition({ kind: 'condition', node: condition, home });
};

/** The column that is compared, said in the words of the run time where it cannot be. */
type Compared<V, Held = unknown> =
  V extends Value<Held, unknown>
    ? V
    : V extends Sealed<unknown, unknown>
      ? 'a sealed column cannot decide which rows are shown'
      : 'a comparison is of a column of the row, such as equals(c.status)';

/** The value that a column is compared with. */
type Wanted<V> = V extends Value<infer T, unknown> ? NonNullable<T> : never;

/**
 * The value is this one.
 *
 * @param column a column of the row, or of one behind its to-one links, that is not sealed
 * @param value what it is compared with: a value, another column, a fact about the caller, `now`; left out in `filters`: the
 * one the caller sends
 * @returns a condition, or a filter of a collection. Null equals nothing: see `isNull`
 * @example
 * equals(c.status, 'berthed')
 */
export function equals<V>(column: Compared<V>): FilterMember;
export function equals<V>(
  column: Compared<V>,
  value: Wanted<V> | Value<Wanted<V> | null, unknown>,
): Comparison;
export function equals(column: unknown, ...value: unknown[]): Both {
  return made('equals', column, value);
}

/**
 * The value is one of these.
 *
 * @param column a column of the row, or of one behind its to-one links, that is not sealed
 * @param values what it may be; left out in `filters`: those the caller sends, separated by commas
 * @example
 * oneOfThese(c.status, ['announced', 'confirmed'])
 */
export function oneOfThese<V>(column: Compared<V>): FilterMember;
export function oneOfThese<V>(column: Compared<V>, values: readonly Wanted<V>[]): Comparison;
export function oneOfThese(column: unknown, ...values: (readonly unknown[])[]): Both {
  return made(
    'oneOfThese',
    column,
    // What is no list is told apart from values with the others.
    values.map((list) => (Array.isArray(list) ? freeze([...list]) : list)),
  );
}

/**
 * The value is this one or above.
 *
 * @param column a column of the row, or of one behind its to-one links, that is not sealed, and has an order
 * @param value the lowest; left out in `filters`: the one the caller sends
 * @example
 * atLeast(c.eta, new Date('2026-01-01'))
 */
export function atLeast<V>(column: Compared<V>): FilterMember;
export function atLeast<V>(
  column: Compared<V>,
  value: Wanted<V> | Value<Wanted<V> | null, unknown>,
): Comparison;
export function atLeast(column: unknown, ...value: unknown[]): Both {
  return made('atLeast', column, value);
}

/**
 * The value is this one or below.
 *
 * @param column a column of the row, or of one behind its to-one links, that is not sealed, and has an order
 * @param value the highest; left out in `filters`: the one the caller sends
 * @example
 * atMost(c.dues, '5000.00')
 */
export function atMost<V>(column: Compared<V>): FilterMember;
export function atMost<V>(
  column: Compared<V>,
  value: Wanted<V> | Value<Wanted<V> | null, unknown>,
): Comparison;
export function atMost(column: unknown, ...value: unknown[]): Both {
  return made('atMost', column, value);
}

/**
 * The text has this in it, in upper or lower case.
 *
 * @param column a column of the row, or of one behind its to-one links, that is not sealed, of text
 * @param value what is looked for, as it is: nothing in it is a wildcard; left out in `filters`: what the caller sends
 * @example
 * contains(i.commodity, 'grain')
 */
export function contains<V>(column: Compared<V, string | null>): FilterMember;
export function contains<V>(
  column: Compared<V, string | null>,
  value: string | Value<string | null, unknown>,
): Comparison;
export function contains(column: unknown, ...value: unknown[]): Both {
  return made('contains', column, value);
}

/**
 * The value is null.
 *
 * @param column a column of the row, or of one behind its to-one links, that is not sealed
 * @param value `false`: it is not null
 * @example
 * isNull(c.etd)
 */
export function isNull<V>(column: Compared<V>, value = true): Comparison & FilterMember {
  return made('isNull', column, [value]);
}
