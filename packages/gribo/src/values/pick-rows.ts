import type { PickRows, RowLook, SortKey } from '../plan/condition.js';
import { compareBy } from './orders.js';

/** A row with the values that decide where it stands. */
interface Candidate {
  readonly row: unknown;
  readonly values: readonly unknown[];
}

const compareCandidates = (sort: readonly SortKey[], a: Candidate, b: Candidate): number => {
  for (const [i, key] of sort.entries()) {
    const order = compareBy(key, a.values[i], b.values[i]);
    if (order !== 0) return order;
  }
  return 0;
};

/** Reads what a row is put in order by: null where its value is not shown. */
const orderedBy = ({ path, column, shown }: SortKey, look: RowLook): ReturnType<RowLook['value']> => {
  const value = look.value({ kind: 'column', path, column });
  if (shown === null) return value;
  const isShown = look.test(shown);
  return (row, index) => (isShown(row, index) ? value(row, index) : null);
};

/** The rows of a list that its selection asks for, in its order. */
export const pickRows: PickRows = (rows, { where, sort, limit }, look) => {
  const tests = where.map((condition) => look.test(condition));
  const keys = sort.map((key) => orderedBy(key, look));
  const kept: Candidate[] = [];
  for (let i = 0; i < rows.length; i++) {
    const row = rows[i];
    if (tests.every((test) => test(row, i))) kept.push({ row, values: keys.map((key) => key(row, i)) });
  }
  if (sort.length > 0) kept.sort((a, b) => compareCandidates(sort, a, b));
  return (limit === null ? kept : kept.slice(0, limit)).map(({ row }) => row);
};
