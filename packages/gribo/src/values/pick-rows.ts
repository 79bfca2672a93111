import type { PickRows, RowLook, SortKey } from '../plan/condition.js';
import { compareInOrder, type Placed } from './orders.js';

/** A row with the values that decide where it stands. */
interface Candidate extends Placed {
  readonly row: unknown;
}

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
  if (sort.length > 0) kept.sort((a, b) => compareInOrder(sort, a, b));
  return (limit === null ? kept : kept.slice(0, limit)).map(({ row }) => row);
};
