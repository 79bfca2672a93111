import { GriboError, type LoadPlan, loadPlan } from 'gribo';
import { addColumns } from 'gribo/kit';
import { planned } from '../response/outgoing-body.js';
import type { Exchange } from './exchange.js';

/** What has to be loaded for the endpoint's body, and to go on after a row of a page. */
export const planFor = ({ endpoint, situation, query }: Exchange): LoadPlan => {
  const { returns, entity, name } = endpoint;
  if (returns === null) throw new GriboError('MISUSE', name, `${name} sends no body`);
  const sorted = (query.sort ?? []).map(({ column }) => column.name);
  return addColumns(loadPlan(planned(returns), situation), entity, sorted);
};
