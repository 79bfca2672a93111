import type { EndpointPlan, FilterParameter, SortParameter } from '../plan/api-plan.js';
import type { ConditionNode, SortKey, StoreCondition } from '../plan/condition.js';
import type { InputPlan } from '../plan/input-plan.js';
import { freeze } from '../util/freeze.js';
import { keptForEach } from '../util/kept-for-each.js';
import { Resolver } from './resolver.js';
import { settledInput } from './settle-input.js';

/** A parameter as it is for one audience. */
type Settled<P> = Omit<P, 'when' | 'shown'> & { readonly shown: StoreCondition | null };

/** What callers of one audience may look for and sort by, and the order where they choose none. */
export interface SettledQuery {
  readonly filters: readonly Settled<FilterParameter>[];
  readonly sort: readonly Settled<SortParameter>[];
  readonly order: readonly SortKey[];
  /** What the query is told besides; null: nothing. */
  readonly values: InputPlan | null;
}

const settle = (
  { filters, sort, order, query }: EndpointPlan,
  resolver: Resolver,
  audience: string | null,
): SettledQuery => {
  const isThere = ({ when }: { readonly when: ConditionNode | null }): boolean =>
    when === null || resolver.verdict(when) === true;
  const settled = <P extends FilterParameter | SortParameter>({ shown, ...parameter }: P) =>
    freeze({ ...parameter, shown: shown === null ? null : resolver.shown(shown) });
  return freeze({
    filters: freeze(filters.filter(isThere).map(settled)),
    sort: freeze(sort.filter(isThere).map(settled)),
    order: freeze(order.map((key) => resolver.sortKey(key))),
    values: query && settledInput(query, audience),
  });
};

/**
 * The query of an endpoint for one audience: parameters that are there for it, and what of their columns it sees.
 *
 * @param endpoint the endpoint
 * @param audience whom it is for; null: callers of no audience
 * @example
 * const [endpoint] = harbour.plan.endpoints;
 * settledQuery(endpoint, 'agent').filters.map(({ name }) => name)
 */
export const settledQuery: (endpoint: EndpointPlan, audience: string | null) => SettledQuery = keptForEach(
  (endpoint: EndpointPlan, audience) =>
    settle(endpoint, new Resolver({ endpoint: endpoint.name, audience }), audience),
);
