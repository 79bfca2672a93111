import type { ColumnPlan } from '../../plan/entity-plan.js';
import type { FilterOperator, RowFilter } from '../../plan/filter.js';
import { freeze } from '../../util/freeze.js';
import { handles } from '../references/handles.js';
import { Broken, MemberRef, referenceOf } from '../references/member.js';
import type { Comparison, FilterMember } from '../types/comparison.js';
import type { Sealed, Value } from '../types/member-types.js';

/** Comparisons as they are handed out. */
const comparisons = handles<RowFilter | Broken>();

/** Stands for the value that a caller will send. */
const UNSET: unique symbol = Symbol('unset');

/** What a comparison compares, or why it is none. */
export const comparisonOf = (value: unknown): RowFilter | Broken => {
  const filter =
    comparisons.behind(value) ?? new Broken('where takes comparisons such as equals(c.status, …)');
  if (filter instanceof Broken || filter.value !== UNSET) return filter;
  return new Broken(
    `${filter.operator} compares a column of the row with a value: ${filter.operator}(c.column, value)`,
  );
};

const compare = (operator: FilterOperator, left: unknown, value: unknown): Comparison =>
  comparisons.handOut(filterOf(operator, left, value));

const filterOf = (operator: FilterOperator, left: unknown, value: unknown): RowFilter | Broken => {
  const reference = referenceOf(left);
  if (reference instanceof Broken) return reference;
  if (!(reference instanceof MemberRef) || reference.node.kind !== 'column') {
    return new Broken(`${operator} compares a column of the row: ${operator}(c.column, value)`);
  }
  if (reference.node.path.length > 0) {
    return new Broken(`${operator} compares a column of the row itself, not of a link`);
  }
  if (reference.seals.length > 0) return new Broken('a sealed column cannot decide which rows are shown');
  return freeze({ column: reference.node.column, operator, value });
};

/** What a filter compares: the column and how. */
interface FilterTarget {
  readonly column: ColumnPlan;
  readonly operator: FilterOperator;
}

/** What a member of `filters` compares, or why it is no filter. */
export const filterMemberOf = (value: unknown): FilterTarget | Broken => {
  const filter = comparisons.behind(value);
  if (filter instanceof Broken) return filter;
  const isOpen = filter !== null && (filter.value === UNSET || filter.operator === 'isNull');
  if (filter === null || !isOpen) {
    return new Broken(
      'a filter names a column only, such as equals(v.flagState); the caller sends the value',
    );
  }
  return { column: filter.column, operator: filter.operator };
};

type Both = Comparison & FilterMember;

/** Makes a comparison with a value, or without one a filter. */
const made = (operator: FilterOperator, column: unknown, given: readonly unknown[]): Both =>
  compare(operator, column, given.length === 0 ? UNSET : given[0]) as Both;

/** The column that is compared, said in the words of the run time where it cannot be. */
type Compared<V, Held = unknown> =
  V extends Value<Held, unknown>
    ? V
    : V extends Sealed<unknown, unknown>
      ? 'a sealed column cannot decide which rows are shown'
      : 'a comparison is of a column of the row, such as equals(c.status)';

/** What a column is compared with. */
type Wanted<V> = V extends Value<infer T, unknown> ? NonNullable<T> : never;

/**
 * The value is this one.
 *
 * @param column a column of the row itself that is not sealed
 * @param value what it is compared with; left out in `filters`: the one the caller sends
 * @returns a comparison for `some(…, { where })`, or a filter of a collection. Null equals nothing: see `isNull`
 * @example
 * equals(c.status, 'berthed')
 */
export function equals<V>(column: Compared<V>): FilterMember;
export function equals<V>(column: Compared<V>, value: Wanted<V>): Comparison;
export function equals(column: unknown, ...value: unknown[]): Both {
  return made('equals', column, value);
}

/**
 * The value is one of these.
 *
 * @param column a column of the row itself that is not sealed
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
    values.map((list) => freeze([...list])),
  );
}

/**
 * The value is this one or above.
 *
 * @param column a column of the row itself that is not sealed, and has an order
 * @param value the lowest; left out in `filters`: the one the caller sends
 * @example
 * atLeast(c.eta, new Date('2026-01-01'))
 */
export function atLeast<V>(column: Compared<V>): FilterMember;
export function atLeast<V>(column: Compared<V>, value: Wanted<V>): Comparison;
export function atLeast(column: unknown, ...value: unknown[]): Both {
  return made('atLeast', column, value);
}

/**
 * The value is this one or below.
 *
 * @param column a column of the row itself that is not sealed, and has an order
 * @param value the highest; left out in `filters`: the one the caller sends
 * @example
 * atMost(c.dues, '5000.00')
 */
export function atMost<V>(column: Compared<V>): FilterMember;
export function atMost<V>(column: Compared<V>, value: Wanted<V>): Comparison;
export function atMost(column: unknown, ...value: unknown[]): Both {
  return made('atMost', column, value);
}

/**
 * The text has this in it, in upper or lower case.
 *
 * @param column a column of the row itself that is not sealed, of text
 * @param value what is looked for, as it is: nothing in it is a wildcard; left out in `filters`: what the caller sends
 * @example
 * contains(i.commodity, 'grain')
 */
export function contains<V>(column: Compared<V, string | null>): FilterMember;
export function contains<V>(column: Compared<V, string | null>, value: string): Comparison;
export function contains(column: unknown, ...value: unknown[]): Both {
  return made('contains', column, value);
}

/**
 * The value is null.
 *
 * @param column a column of the row itself that is not sealed
 * @param value `false`: it is not null
 * @example
 * isNull(c.etd)
 */
export function isNull<V>(column: Compared<V>, value = true): Comparison & FilterMember {
  return compare('isNull', column, value) as Both;
}
