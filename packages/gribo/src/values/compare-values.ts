import type { ColumnPlan } from '../plan/entity-plan.js';
import type { RowFilter, SortKey } from '../plan/filter.js';
import { valueKind } from './kinds.js';

const compare = (column: ColumnPlan, a: unknown, b: unknown): number =>
  valueKind(column.type).compare(a as never, b as never);

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
