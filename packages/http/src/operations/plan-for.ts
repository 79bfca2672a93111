import { GriboError, type LoadPlan, loadPlan } from 'gribo';
import { addOrder, type SortKey, settledQuery } from 'gribo/kit';
import { planned } from '../response/outgoing-body.js';
import type { Exchange } from './exchange.js';

/** The order that the caller chose, or else the endpoint's. */
export const orderOf = (exchange: Exchange): readonly SortKey[] => {
  const { query, endpoint, audience } = exchange;
  return query.sort ?? settledQuery(endpoint, audience).order;
};

/** What has to be loaded for the endpoint's body. */
export const planOf = ({ endpoint: { returns, name }, situation }: Exchange): LoadPlan => {
  if (returns === null) throw new GriboError('MISUSE', name, `${name} sends no body`);
  return loadPlan(planned(returns), situation);
};

/** The same of a list, and what it takes to go on after a row of a page. */
export const planFor = (exchange: Exchange): LoadPlan =>
  addOrder(planOf(exchange), exchange.endpoint.entity, orderOf(exchange));
