import { GriboError } from 'gribo';
import { type EndpointPlan, isAboutMany } from 'gribo/kit';
import { isRows } from '../request/read-rows.js';
import { amendRows } from './amend-rows.js';
import { amendRow, createRow, createRows, removeRow, replacement } from './change-row.js';
import type { Exchange } from './exchange.js';
import { listRows } from './list-rows.js';
import type { Outcome } from './outcome.js';
import { readRow } from './read-row.js';

/** What an endpoint can do by itself: an operation of collections, or many rows amended by their keys. */
export type Doing = NonNullable<EndpointPlan['operation']> | 'amendMany';

/** Whether each row that is taken names the one that it changes. */
const isKeyed = ({ takes, takesMany, entity, returns, query }: EndpointPlan): boolean => {
  if (takes === null || !takesMany || !takes.amends || returns !== null || query !== null) return false;
  const set = takes.fields.flatMap(({ node }) => (node.kind === 'set' ? [node.column.name] : []));
  return entity.key.length > 0 && entity.key.every((name) => set.includes(name));
};

/** The operation that an endpoint of its own stands for; null where only a handler can tell. */
const impliedOperation = (endpoint: EndpointPlan): Doing | null => {
  if (endpoint.method === 'PATCH' && isKeyed(endpoint)) return 'amendMany';
  const { method, returns, takes, query, entity, parameters } = endpoint;
  // What its query is told means something to a handler only.
  if (method !== 'GET' || returns === null || takes !== null || query !== null) return null;
  if (isAboutMany(returns)) return parameters.length === 0 ? 'list' : null;
  return entity.key.every((name) => parameters.includes(name)) ? 'read' : null;
};

/** What an endpoint does where no handler says otherwise; null where it needs one. */
export const operationOf = (endpoint: EndpointPlan): Doing | null => {
  const operation = endpoint.operation ?? impliedOperation(endpoint);
  const needsInput = operation === 'create' || operation === 'replace' || operation === 'amend';
  return needsInput && endpoint.takes === null ? null : operation;
};

/**
 * Does what an endpoint stands for.
 *
 * @param change what the request's body sets, or the rows that it brings; null where the endpoint takes none
 * @throws {Problem} 404, 412; {ConflictError} where the store does not take the change
 */
export const operate = async (exchange: Exchange, change: object | null): Promise<Outcome> => {
  const operation = operationOf(exchange.endpoint);
  const outcome = await done(exchange, operation, change);
  if (operation !== 'list' && operation !== 'read') exchange.progress.isStored = true;
  return outcome;
};

const done = async (exchange: Exchange, operation: Doing | null, change: object | null): Promise<Outcome> => {
  const { endpoint, takes } = exchange;
  switch (operation) {
    case 'list':
      return listRows(exchange);
    case 'read':
      return readRow(exchange);
    case 'create':
      return isRows(change) ? createRows(exchange, change) : createRow(exchange, change ?? {});
    case 'replace':
      return amendRow(exchange, takes === null ? {} : replacement(takes, change ?? {}));
    case 'amend':
      return amendRow(exchange, change ?? {});
    case 'amendMany':
      if (!isRows(change)) throw new GriboError('MISUSE', endpoint.name, `${endpoint.name} takes a list`);
      return amendRows(exchange, change);
    case 'remove':
      return removeRow(exchange);
    case null:
      throw new GriboError(
        'MISUSE',
        endpoint.name,
        `${endpoint.name} does nothing of itself: give serve() a handler for it`,
      );
    default:
      return operation satisfies never;
  }
};
