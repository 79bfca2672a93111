import type { Compares, FilterOperator, SortKey } from '../plan/condition.js';
import type { ColumnPlan, LinkPlan } from '../plan/entity-plan.js';
import { freeze } from '../util/freeze.js';
import { compares } from './compares.js';

const here = freeze([]);

/**
 * A comparison of a column with a value.
 *
 * @param column the column
 * @param operator how it is compared
 * @param value what it is compared with, in the form that rows hold
 * @param path the to-one links that lead to the column's row. Default: it is the row itself
 * @example
 * const [id] = db.vessel.entity.columns;
 * comparison(id, 'equals', 17).right // => {"kind":"value","value":17}
 */
export const comparison = (
  column: ColumnPlan,
  operator: FilterOperator,
  value: unknown,
  path: readonly LinkPlan[] = here,
): Compares =>
  freeze({
    kind: 'compares',
    left: freeze({ kind: 'column', path, column }),
    operator,
    right: freeze({ kind: 'value', value }),
    compare: compares,
  });

/**
 * An order by a column of a row itself.
 *
 * @param column the column
 * @param descending whether the highest come first
 * @example
 * const [id] = db.vessel.entity.columns;
 * ordering(id, true).descending // => true
 */
export const ordering = (column: ColumnPlan, descending = false): SortKey =>
  freeze({ path: here, column, descending, shown: null });
