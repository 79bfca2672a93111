import type { ApiPlan } from '../../plan/api-plan.js';
import type { StoreCondition } from '../../plan/condition.js';
import { rulesFor } from '../../resolve/rules-for.js';
import { freeze } from '../../util/freeze.js';

/** Which rows of an entity callers of one audience see and change; a condition that is null holds for all of them. */
export interface RowLine {
  readonly entity: string;
  /** Null: callers of no audience. */
  readonly audience: string | null;
  readonly see: StoreCondition | null;
  readonly change: StoreCondition | null;
  /** Whether a rule says so: without one, rows are everybody's. */
  readonly isRuled: boolean;
}

/**
 * Which rows of an API's entities callers see and change, for each audience.
 *
 * @param api the API
 * @returns a line for every entity that an endpoint is about and every audience, in the order of the endpoints
 * @example
 * rowTable(harbour).filter(({ isRuled }) => !isRuled).length
 */
export const rowTable = ({ plan }: { readonly plan: ApiPlan }): readonly RowLine[] => {
  const ruled = new Set(plan.rules.map(({ entity }) => entity.name));
  const entities = new Set([...plan.endpoints.map(({ entity }) => entity.name), ...ruled]);
  return freeze(
    [...entities].flatMap((entity) =>
      [null, ...plan.audiences].map((audience): RowLine => {
        const { see = null, change = null } = rulesFor(plan, audience).get(entity) ?? {};
        return freeze({ entity, audience, see, change, isRuled: ruled.has(entity) });
      }),
    ),
  );
};
