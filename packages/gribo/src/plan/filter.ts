import type { ColumnPlan } from './entity-plan.js';

export type FilterOperator = 'equals' | 'oneOfThese' | 'atLeast' | 'atMost' | 'contains' | 'isNull';

/** A comparison of one column with a value known when it was declared. */
export interface RowFilter {
  readonly column: ColumnPlan;
  readonly operator: FilterOperator;
  readonly value: unknown;
}

/** An order by one column. Nulls come last either way. */
export interface SortKey {
  readonly column: ColumnPlan;
  readonly descending: boolean;
}

/** Which rows behind a to-many link, in what order, and how many. Nothing set: all of them, as loaded. */
export interface ListSelection {
  readonly where: readonly RowFilter[];
  readonly sort: readonly SortKey[];
  readonly limit: number | null;
}
