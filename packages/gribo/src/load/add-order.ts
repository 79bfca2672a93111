import type { SortKey } from '../plan/condition.js';
import type { EntityPlan } from '../plan/entity-plan.js';
import { everyRow } from '../plan/every-row.js';
import { freeze } from '../util/freeze.js';
import { type LoadColumn, type LoadLink, type LoadPlan, planOrder, sameSelection } from './plan-load.js';

const isWithin = (plan: LoadPlan, more: LoadPlan): boolean =>
  more.columns.every(({ name }) => plan.columns.some((column) => column.name === name)) &&
  more.links.every(({ link, selection, plan: inner }) => {
    const known = plan.links.find((other) => other.link.name === link.name);
    return known !== undefined && sameSelection(known.selection, selection) && isWithin(known.plan, inner);
  });

/** Columns of both, in the order of the entity where that is known. */
const joinedColumns = (entity: EntityPlan, plan: LoadPlan, more: LoadPlan): readonly LoadColumn[] => {
  const all = new Map([...plan.columns, ...more.columns].map((column) => [column.name, column]));
  return freeze(entity.columns.flatMap(({ name }) => all.get(name) ?? []));
};

const joinedLink = (known: LoadLink, { selection, plan }: LoadLink): LoadLink =>
  freeze({
    ...known,
    selection: sameSelection(known.selection, selection) ? known.selection : everyRow,
    plan: joined(known.link.target, known.plan, plan),
  });

const joined = (entity: EntityPlan, plan: LoadPlan, more: LoadPlan): LoadPlan => {
  const links = plan.links.map((known) => {
    const other = more.links.find(({ link }) => link.name === known.link.name);
    return other === undefined ? known : joinedLink(known, other);
  });
  const others = more.links.filter(({ link }) => !plan.links.some((known) => known.link.name === link.name));
  return freeze({
    ...plan,
    columns: joinedColumns(entity, plan, more),
    links: freeze([...links, ...others]),
  });
};

/**
 * A load plan with what is needed to know the order of its rows; the same plan where it has that already.
 *
 * @param plan what is loaded
 * @param entity the plan's entity
 * @param sort the order
 * @example
 * addOrder(loadPlan(VesselCard), db.vessel.entity, [ordering(db.vessel.entity.columns[0])])
 */
export const addOrder = (plan: LoadPlan, entity: EntityPlan, sort: readonly SortKey[]): LoadPlan => {
  const more = planOrder(entity, sort);
  return isWithin(plan, more) ? plan : joined(entity, plan, more);
};
