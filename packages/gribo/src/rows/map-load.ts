import type { LoadFigure, LoadLink, LoadPlan, SeenRows } from '../load/plan-load.js';
import type { ListSelection, SortKey, StoreCondition } from '../plan/condition.js';
import type { LinkPlan } from '../plan/entity-plan.js';
import { freeze } from '../util/freeze.js';
import { mapSame } from '../util/map-same.js';

/** What becomes of the conditions and orders on rows of an entity, and of which rows behind links are seen. */
export interface LoadMap {
  conditions(conditions: readonly StoreCondition[], entity: string): readonly StoreCondition[];
  order(sort: readonly SortKey[], entity: string): readonly SortKey[];
  /** @param isOther whether other rows are selected than before */
  seen(link: LinkPlan, seen: SeenRows | null, isOther: boolean): SeenRows | null;
}

const mapSelection = (selection: ListSelection, entity: string, map: LoadMap): ListSelection => {
  const where = map.conditions(selection.where, entity);
  const sort = map.order(selection.sort, entity);
  return where === selection.where && sort === selection.sort
    ? selection
    : freeze({ ...selection, where, sort });
};

const mapRows = <T extends LoadFigure | LoadLink>(rows: T, map: LoadMap): T => {
  const selection = mapSelection(rows.selection, rows.link.target.name, map);
  const seen = map.seen(rows.link, rows.seen, selection !== rows.selection);
  return selection === rows.selection && seen === rows.seen ? rows : freeze({ ...rows, selection, seen });
};

const mapLink = (link: LoadLink, map: LoadMap): LoadLink => {
  const mapped = mapRows(link, map);
  const plan = mapLoad(link.plan, map);
  return plan === link.plan ? mapped : freeze({ ...mapped, plan });
};

/** The same load plan with other conditions; the same object where all of it stays as it is. */
export const mapLoad = (plan: LoadPlan, map: LoadMap): LoadPlan => {
  const links = mapSame(plan.links, (link) => mapLink(link, map));
  const figures = mapSame(plan.figures, (figure) => mapRows(figure, map));
  return links === plan.links && figures === plan.figures ? plan : freeze({ ...plan, links, figures });
};
