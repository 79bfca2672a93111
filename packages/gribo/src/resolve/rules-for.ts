import type { ApiPlan } from '../plan/api-plan.js';
import type { StoreCondition } from '../plan/condition.js';
import type { EntityPlan } from '../plan/entity-plan.js';
import { freeze } from '../util/freeze.js';
import { keptForEach } from '../util/kept-for-each.js';
import { Resolver } from './resolver.js';

/** What callers of one audience may do with rows of an entity; null: with all of them. */
export interface SettledRule {
  readonly entity: EntityPlan;
  readonly see: StoreCondition | null;
  readonly change: StoreCondition | null;
  readonly about: string | null;
}

/** The rules that leave something to the row, by the name of their entity. */
export type SettledRules = ReadonlyMap<string, SettledRule>;

/** What row rules are found in. */
export type Ruled = Pick<ApiPlan, 'rules'>;

const settled = ({ rules }: Ruled, audience: string | null): SettledRules => {
  const resolver = new Resolver({ audience });
  const all = rules.map(({ entity, see, change, about }): SettledRule => {
    return freeze({ entity, see: resolver.shown(see), change: resolver.shown(change), about });
  });
  return new Map(
    all.filter(({ see, change }) => see !== null || change !== null).map((rule) => [rule.entity.name, rule]),
  );
};

/** The row rules of an API for callers of one audience: made once. */
export const rulesFor: (api: Ruled, audience: string | null) => SettledRules = keptForEach(settled);
