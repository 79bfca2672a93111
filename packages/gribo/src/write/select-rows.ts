import type { ColumnPlan } from '../plan/entity-plan.js';
import type { ListSelection, SortKey } from '../plan/filter.js';
import { compareBy, passes } from '../values/compare-values.js';

/** Reads one column of a row of the list, which stands at this index of the loaded ones. */
type ReadColumn = (column: ColumnPlan, row: unknown, index: number) => unknown;

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
