import type { EntityPlan } from '../plan/entity-plan.js';
import { freeze } from '../util/freeze.js';
import type { LoadPlan } from './plan-load.js';

/**
 * A load plan with more columns of its entity; the same plan where it has them already.
 *
 * @param plan what is loaded
 * @param entity the plan's entity
 * @param names the columns to load too, by property name
 * @example
 * addColumns(loadPlan(VesselCard), db.vessel.entity, ['name'])
 */
export const addColumns = (plan: LoadPlan, entity: EntityPlan, names: readonly string[]): LoadPlan => {
  const known = new Set(plan.columns.map(({ name }) => name));
  if (names.every((name) => known.has(name))) return plan;
  const columns = entity.columns
    .filter(({ name }) => known.has(name) || names.includes(name))
    .map(({ name, stored, type }) => freeze({ name, stored, type }));
  return freeze({ ...plan, columns: freeze(columns) });
};
