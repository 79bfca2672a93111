import { freeze } from '../util/freeze.js';
import { contentShape, type EnvelopePlan } from './declared.js';
import type { ColumnPlan } from './entity-plan.js';

/** The columns that put the rows of a page in order: those it is sorted by, then the key, so that no two rows tie. */
export const pageColumns = (plan: EnvelopePlan): readonly ColumnPlan[] => {
  const { entity } = contentShape(plan);
  const sorted = (plan.page?.sort ?? []).map(({ column }) => column);
  const key = entity.columns.filter((column) => column.key && !sorted.includes(column));
  return freeze([...sorted, ...key]);
};
