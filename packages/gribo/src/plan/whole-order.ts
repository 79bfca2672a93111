import { freeze } from '../util/freeze.js';
import type { SortKey } from './condition.js';
import type { EntityPlan } from './entity-plan.js';

/** The order of rows, made whole: what it was asked to be, then the key, so that no two rows tie. */
export const wholeOrder = (entity: EntityPlan, sort: readonly SortKey[]): readonly SortKey[] => {
  // A value that counts as null in some rows does not tell them apart.
  const sorted = sort
    .filter(({ path, shown }) => path.length === 0 && shown === null)
    .map(({ column }) => column);
  const key = entity.columns.filter((column) => column.key && !sorted.includes(column));
  return freeze([
    ...sort,
    ...key.map((column) => freeze({ path: freeze([]), column, descending: false, shown: null })),
  ]);
};
