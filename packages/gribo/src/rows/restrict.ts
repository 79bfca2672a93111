import type { LoadPlan, SeenRows } from '../load/plan-load.js';
import { behind } from '../plan/behind.js';
import type { Compares, SortKey, StoreCondition, ThereIs } from '../plan/condition.js';
import type { EntityPlan, LinkPlan } from '../plan/entity-plan.js';
import { allOf } from '../plan/joined.js';
import { type ConditionMap, mapAll, mapCondition } from '../plan/map-condition.js';
import { whereShown } from '../plan/where-shown.js';
import type { SettledRules } from '../resolve/rules-for.js';
import { freeze } from '../util/freeze.js';
import { keptBy } from '../util/kept-by.js';
import { mapSame } from '../util/map-same.js';
import { type LoadMap, mapLoad } from './map-load.js';

/** Every row behind a link. */
const ALL: SeenRows = freeze({ rows: freeze([]), middle: freeze([]) });

/** Puts the rules of the rows that conditions and orders look at into them: a row that is hidden is not there. */
class Restricting implements ConditionMap<StoreCondition>, LoadMap {
  readonly #rules: SettledRules;

  constructor(rules: SettledRules) {
    this.#rules = rules;
  }

  /** What must hold for the rows on a way to be seen. */
  #onWay(path: readonly LinkPlan[]): readonly StoreCondition[] {
    return path.flatMap(({ target }, i) =>
      this.#seesOf(target).map((see) => behind(path.slice(0, i + 1), see)),
    );
  }

  compares(condition: Compares): StoreCondition {
    const { left, right } = condition;
    const others = right.kind === 'column' ? this.#onWay(right.path) : [];
    return whereShown(condition, [...this.#onWay(left.path), ...others]);
  }

  thereIs(condition: ThereIs<StoreCondition>): StoreCondition {
    const { path, link, selection } = condition;
    const seen = this.#seenBehind(link);
    const where = [...mapAll(selection.where, this), ...(seen?.rows ?? [])];
    const made: StoreCondition = freeze({
      ...condition,
      selection: freeze({ ...selection, where: freeze(where) }),
      middle: freeze([...mapAll(condition.middle, this), ...(seen?.middle ?? [])]),
    });
    return allOf(...this.#onWay(path), made);
  }

  conditions(conditions: readonly StoreCondition[]): readonly StoreCondition[] {
    return mapAll(conditions, this);
  }

  order(sort: readonly SortKey[]): readonly SortKey[] {
    return mapSame(sort, (key) => this.#key(key));
  }

  #key(key: SortKey): SortKey {
    const shown = key.shown === null ? null : mapCondition(key.shown, this);
    const seen = this.#onWay(key.path);
    if (seen.length === 0) return shown === key.shown ? key : freeze({ ...key, shown });
    return freeze({ ...key, shown: allOf(...seen, ...(shown === null ? [] : [shown])) });
  }

  #seesOf({ name }: EntityPlan): readonly StoreCondition[] {
    const see = this.#rules.get(name)?.see ?? null;
    return see === null ? [] : [see];
  }

  /** What rows behind a link must satisfy; null where all of them are seen. */
  #seenBehind({ target, through }: LinkPlan): SeenRows | null {
    const rows = this.#seesOf(target);
    const middle = through === null ? [] : this.#seesOf(through.entity);
    return rows.length + middle.length === 0 ? null : freeze({ rows, middle });
  }

  seen(link: LinkPlan, _seen: SeenRows | null, isOther: boolean): SeenRows | null {
    // Where conditions see less, so does whoever counts or picks by them.
    return this.#seenBehind(link) ?? (isOther ? ALL : null);
  }
}

/** What a caller asks a store, within its rules. */
export interface Restricted {
  load(plan: LoadPlan): LoadPlan;
  /** The conditions on rows of an entity, with that they may be seen. */
  where(entity: string, conditions: readonly StoreCondition[]): readonly StoreCondition[];
  order(sort: readonly SortKey[]): readonly SortKey[];
}

/** Everything that is asked of a store, as rules let it: what is made for a load plan is kept. */
export const restrictedBy: (rules: SettledRules) => Restricted = keptBy((rules: SettledRules) => {
  const restricting = new Restricting(rules);
  return {
    load: keptBy((plan: LoadPlan) => mapLoad(plan, restricting)),
    where: (entity, conditions) => {
      const see = rules.get(entity)?.see ?? null;
      const within = restricting.conditions(conditions);
      return see === null ? within : [...within, see];
    },
    order: (sort) => restricting.order(sort),
  };
});
