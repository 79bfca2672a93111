import type { LoadPlan } from 'gribo';
import {
  type LinkPlan,
  type LoadMap,
  mapLoad,
  NEVER,
  type SeenRows,
  type SortKey,
  type StoreCondition,
} from 'gribo/kit';
import type { Capacities } from './capacities.js';

/** Whether a plan asks anything of rows behind its links. */
const asksOfRows = ({ links, figures }: LoadPlan): boolean =>
  [...links, ...figures].some(
    ({ selection: { where, sort }, seen }) =>
      where.length > 0 || seen !== null || sort.some(({ shown }) => shown !== null),
  ) || links.some(({ plan }) => asksOfRows(plan));

/** Takes out of conditions and orders what the columns of a database cannot hold. */
class AskableLoad implements LoadMap {
  readonly #capacities: Capacities;

  constructor(capacities: Capacities) {
    this.#capacities = capacities;
  }

  conditions(conditions: readonly StoreCondition[], entity: string): readonly StoreCondition[] {
    return this.#capacities.askable(entity, conditions)?.where ?? [NEVER];
  }

  order(sort: readonly SortKey[], entity: string): readonly SortKey[] {
    return sort.map((key) => {
      if (key.shown === null) return key;
      const [shown = null] = this.conditions([key.shown], entity);
      return { ...key, shown };
    });
  }

  seen(link: LinkPlan, seen: SeenRows | null): SeenRows | null {
    if (seen === null) return null;
    return {
      rows: this.conditions(seen.rows, link.target.name),
      middle: this.conditions(seen.middle, link.through?.entity.name ?? link.target.name),
    };
  }
}

/** An order that a database can be asked for. */
export const askableOrder = (
  sort: readonly SortKey[],
  entity: string,
  capacities: Capacities,
): readonly SortKey[] => new AskableLoad(capacities).order(sort, entity);

/** A load plan that asks a database nothing that its columns cannot hold; the same plan where it asks nothing. */
export const askableLoad = (plan: LoadPlan, capacities: Capacities): LoadPlan =>
  asksOfRows(plan) ? mapLoad(plan, new AskableLoad(capacities)) : plan;
