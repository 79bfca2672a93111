import type { ColumnPlan } from '../plan/entity-plan.js';
import type { RowFilter, SortKey } from '../plan/filter.js';
import { compareDecimals } from './compare-decimals.js';

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

/** Whether a row with this value in the filter's column is among the rows it selects. */
export const passes = (filter: RowFilter, value: unknown): boolean => {
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
export const compareBy = ({ column, descending }: SortKey, a: unknown, b: unknown): number => {
  if (a === null || b === null) return (a === null ? 1 : 0) - (b === null ? 1 : 0);
  const order = compare(column, a, b);
  return descending ? -order : order;
};
