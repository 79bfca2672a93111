import type { ColumnPlan } from '../plan/entity-plan.js';
import { compareValues } from './orders.js';

/** What lacks a value comes last. */
const compared = ({ type }: ColumnPlan, a: unknown, b: unknown): number => {
  const [lacks, lacksToo] = [a === undefined || a === null, b === undefined || b === null];
  return lacks || lacksToo ? Number(lacks) - Number(lacksToo) : compareValues(type, a, b);
};

/**
 * Things in the order of the rows that they are about: where everybody takes rows in one order, nobody waits for somebody who
 * waits for him. Those about one row stay in the order in which they came.
 *
 * @param columns the columns that rows are known by
 * @param valueFor the value that a thing has for a column, by its name
 */
export const inKeyOrder = <T>(
  columns: readonly ColumnPlan[],
  all: readonly T[],
  valueFor: (one: T, column: string) => unknown,
): readonly T[] =>
  [...all].sort((one, other) => {
    for (const column of columns) {
      const order = compared(column, valueFor(one, column.name), valueFor(other, column.name));
      if (order !== 0) return order;
    }
    return 0;
  });
