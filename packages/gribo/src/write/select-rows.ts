import type { ColumnPlan } from '../plan/entity-plan.js';
import type { ListSelection, RowFilter, SortKey } from '../plan/filter.js';
import { compareDecimals } from './values/compare-decimals.js';

/** Reads one column of a row of the list, which stands at this index of the loaded ones. */
type ReadColumn = (column: ColumnPlan, row: unknown, index: number) => unknown;

const compareBytes = (a: Uint8Array, b: Uint8Array): number => {
  const shared = Math.min(a.length, b.length);
  for (let i = 0; i < shared; i++) {
    const difference = (a[i] ?? 0) - (b[i] ?? 0);
    if (difference !== 0) return difference;
  }
  return a.length - b.length;
};

/** Below zero where `a` comes first. Text is ordered by its UTF-16 units, as JavaScript compares it. */
const compare = (column: ColumnPlan, a: unknown, b: unknown): number => {
  switch (column.type.kind) {
    case 'decimal':
      return compareDecimals(a as string, b as string);
    case 'timestamp':
      return (a as Date).getTime() - (b as Date).getTime();
    case 'bytes':
      return compareBytes(a as Uint8Array, b as Uint8Array);
    case 'json':
      return compareOrdered(JSON.stringify(a), JSON.stringify(b));
    case 'text':
    case 'integer':
    case 'bigint':
    case 'real':
    case 'bool':
    case 'date':
    case 'time':
    case 'uuid':
    case 'oneOf':
      return compareOrdered(a as string, b as string);
    default:
      return column.type satisfies never;
  }
};

const compareOrdered = (a: string, b: string): number => {
  if (a === b) return 0;
  return a < b ? -1 : 1;
};

const passes = (filter: RowFilter, value: unknown): boolean => {
  const { column, operator } = filter;
  if (operator === 'isNull') return (value === null) === filter.value;
  if (value === null) return false;
  switch (operator) {
    case 'equals':
      return compare(column, value, filter.value) === 0;
    case 'oneOfThese':
      return (filter.value as readonly unknown[]).some((choice) => compare(column, value, choice) === 0);
    case 'atLeast':
      return compare(column, value, filter.value) >= 0;
    case 'atMost':
      return compare(column, value, filter.value) <= 0;
    case 'contains':
      return String(value).toLowerCase().includes(String(filter.value).toLowerCase());
    default:
      return operator satisfies never;
  }
};

/** Nulls last, whichever way the rest is sorted. */
const compareBy = ({ column, descending }: SortKey, a: unknown, b: unknown): number => {
  if (a === null || b === null) return (a === null ? 1 : 0) - (b === null ? 1 : 0);
  const order = compare(column, a, b);
  return descending ? -order : order;
};

/** A row with the values that decide whether and where it is shown. */
interface Candidate {
  readonly row: unknown;
  readonly values: ReadonlyMap<ColumnPlan, unknown>;
}

const compareCandidates = (sort: readonly SortKey[], a: Candidate, b: Candidate): number => {
  for (const key of sort) {
    const order = compareBy(key, a.values.get(key.column), b.values.get(key.column));
    if (order !== 0) return order;
  }
  return 0;
};

/** The rows of a list that its selection asks for, in its order. */
export const selectRows = (
  rows: ArrayLike<unknown>,
  selection: ListSelection,
  read: ReadColumn,
): ArrayLike<unknown> => {
  const { where, sort, limit } = selection;
  if (where.length === 0 && sort.length === 0 && limit === null) return rows;
  const columns = [...new Set([...where, ...sort].map(({ column }) => column))];
  const kept = Array.from(
    rows,
    (row, index): Candidate => ({
      row,
      values: new Map(columns.map((column) => [column, read(column, row, index)])),
    }),
  ).filter(({ values }) => where.every((filter) => passes(filter, values.get(filter.column))));
  kept.sort((a, b) => compareCandidates(sort, a, b));
  return (limit === null ? kept : kept.slice(0, limit)).map(({ row }) => row);
};
