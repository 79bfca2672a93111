import { freeze } from '../util/freeze.js';
import type { EntityPlan } from './entity-plan.js';
import type { SortKey } from './filter.js';

/** The order of rows, made whole: what it was asked to be, then the key, so that no two rows tie. */
export const wholeOrder = (entity: EntityPlan, sort: readonly SortKey[]): readonly SortKey[] => {
  const sorted = sort.map(({ column }) => column);
  const key = entity.columns.filter((column) => column.key && !sorted.includes(column));
  return freeze([...sort, ...key.map((column) => freeze({ column, descending: false }))]);
};
