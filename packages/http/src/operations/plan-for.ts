import { type EndpointPlan, type LoadPlan, loadPlan } from 'gribo';
import type { Exchange } from '../exchange.js';
import { planned } from '../response/sending.js';

/** What has to be loaded for the endpoint's body, and to go on after a row of a page. */
export const planFor = (exchange: Exchange, endpoint: EndpointPlan = exchange.endpoint): LoadPlan => {
  const { returns, entity } = endpoint;
  if (returns === null) throw new Error(`${endpoint.name} sends no body`);
  const plan = loadPlan(planned(returns), { ...exchange.situation, endpoint: endpoint.name });
  const missing = (exchange.query.sort ?? []).filter(
    ({ column }) => !plan.columns.some(({ name }) => name === column.name),
  );
  if (missing.length === 0) return plan;
  const more = entity.columns.filter(
    (column) =>
      plan.columns.some(({ name }) => name === column.name) || missing.some((key) => key.column === column),
  );
  return { ...plan, columns: more.map(({ name, stored, type }) => ({ name, stored, type })) };
};
