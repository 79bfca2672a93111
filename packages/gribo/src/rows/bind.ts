import type { LoadPlan } from '../load/plan-load.js';
import type { Compares, FactPlan, Operand, SortKey, StoreCondition, ThereIs } from '../plan/condition.js';
import { type ConditionMap, mapAll, mapCondition } from '../plan/map-condition.js';
import { BoundedCache } from '../util/bounded-cache.js';
import { freeze } from '../util/freeze.js';
import { keptBy } from '../util/kept-by.js';
import { mapSame } from '../util/map-same.js';
import { jsonReady } from '../values/kinds.js';
import { type LoadMap, mapLoad } from './map-load.js';

/** Gives the value of a fact. @throws {GriboError} `CALLER` where the caller lacks it */
export type ValueOfFact = (fact: FactPlan) => unknown;

/** Puts values in the place of facts. */
class Binding implements ConditionMap<StoreCondition>, LoadMap {
  readonly #known: ValueOfFact;

  constructor(known: ValueOfFact) {
    this.#known = known;
  }

  compares(condition: Compares): StoreCondition {
    const { right } = condition;
    if (right.kind !== 'fact') return condition;
    const bound: Operand = freeze({ kind: 'value', value: this.#known(right.fact) });
    return freeze({ ...condition, right: bound });
  }

  thereIs(condition: ThereIs<StoreCondition>): StoreCondition {
    const { selection } = condition;
    const where = mapAll(selection.where, this);
    const middle = mapAll(condition.middle, this);
    if (where === selection.where && middle === condition.middle) return condition;
    return freeze({ ...condition, selection: freeze({ ...selection, where }), middle });
  }

  conditions(conditions: readonly StoreCondition[]): readonly StoreCondition[] {
    return mapAll(conditions, this);
  }

  order(sort: readonly SortKey[]): readonly SortKey[] {
    return mapSame(sort, (key) => {
      const shown = key.shown === null ? null : mapCondition(key.shown, this);
      return shown === key.shown ? key : freeze({ ...key, shown });
    });
  }

  seen(_link: unknown, seen: LoadPlan['links'][number]['seen']): LoadPlan['links'][number]['seen'] {
    if (seen === null) return null;
    const rows = mapAll(seen.rows, this);
    const middle = mapAll(seen.middle, this);
    return rows === seen.rows && middle === seen.middle ? seen : freeze({ rows, middle });
  }
}

/** A condition with values in the place of facts. */
export const bindCondition = (condition: StoreCondition, known: ValueOfFact): StoreCondition =>
  mapCondition(condition, new Binding(known));

/** The conditions of a list with values in the place of facts. */
export const bindConditions = (
  conditions: readonly StoreCondition[],
  known: ValueOfFact,
): readonly StoreCondition[] => mapAll(conditions, new Binding(known));

export const bindOrder = (sort: readonly SortKey[], known: ValueOfFact): readonly SortKey[] =>
  new Binding(known).order(sort);

/** Plans that were bound last, by the facts in them: the same caller asks again. */
const KEPT = 64;
const plans = keptBy((_plan: LoadPlan) => new BoundedCache<LoadPlan>(KEPT));

/** A load plan with values in the place of facts; the same plan where it uses none. */
export const bindLoad = (plan: LoadPlan, known: ValueOfFact): LoadPlan => {
  const used = new Map<string, unknown>();
  const bound = mapLoad(
    plan,
    new Binding((fact) => {
      const value = known(fact);
      used.set(fact.name, value === null ? null : jsonReady(fact.type, value));
      return value;
    }),
  );
  if (bound === plan) return plan;
  return plans(plan).get(JSON.stringify([...used]), () => bound);
};
