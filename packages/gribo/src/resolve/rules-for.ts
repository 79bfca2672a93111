import type { ApiPlan } from '../plan/api-plan.js';
import type { StoreCondition } from '../plan/condition.js';
import type { EntityPlan } from '../plan/entity-plan.js';
import { Resolver } from '../resolve/resolver.js';
import { freeze } from '../util/freeze.js';

/** What callers of one audience may do with rows of an entity; null: with all of them. */
export interface SettledRule {
  readonly entity: EntityPlan;
  readonly see: StoreCondition | null;
  readonly change: StoreCondition | null;
  readonly about: string | null;
}

/** The rules that leave something to the row, by the name of their entity. */
export type SettledRules = ReadonlyMap<string, SettledRule>;

const settled = ({ rules }: Pick<ApiPlan, 'rules'>, audience: string | null): SettledRules => {
  const resolver = new Resolver({ audience });
  const all = rules.map(({ entity, see, change, about }): SettledRule => {
    return freeze({ entity, see: resolver.shown(see), change: resolver.shown(change), about });
  });
  return new Map(
    all.filter(({ see, change }) => see !== null || change !== null).map((rule) => [rule.entity.name, rule]),
  );
};

const known = new WeakMap<ApiPlan, Map<string | null, SettledRules>>();

/** The row rules of an API for callers of one audience: made once. */
export const rulesFor = (api: ApiPlan, audience: string | null): SettledRules => {
  let byAudience = known.get(api);
  if (byAudience === undefined) {
    byAudience = new Map();
    known.set(api, byAudience);
  }
  let rules = byAudience.get(audience);
  if (rules === undefined) {
    rules = settled(api, audience);
    byAudience.set(audience, rules);
  }
  return rules;
};
