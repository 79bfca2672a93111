import type { Key } from 'gribo';
import type { EndpointPlan } from 'gribo/kit';
import { notFound } from '../problems/not-found.js';
import type { Exchange } from './exchange.js';
import { type Outcome, plain } from './outcome.js';
import { planOf } from './plan-for.js';

/** A row as the body takes it: itself, or as the item of an envelope. */
export const asData = (endpoint: EndpointPlan, row: object): unknown =>
  endpoint.returns?.kind === 'envelope' ? { item: row } : row;

/** The row with a key, under the parent that the path names. @throws {Problem} 404 */
export const rowOf = async (exchange: Exchange, key: Key | null): Promise<object> => {
  const row = key === null ? null : await exchange.store.read(planOf(exchange), key, exchange.where);
  if (row === null) throw notFound();
  return row;
};

/** The row that the path names. */
export const readRow = async (exchange: Exchange): Promise<Outcome> =>
  plain(asData(exchange.endpoint, await rowOf(exchange, exchange.key)));
