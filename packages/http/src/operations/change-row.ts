import type { Key } from 'gribo';
import type { InputPlan } from 'gribo/kit';
import { notFound } from '../problems/not-found.js';
import type { TakenRows } from '../request/read-rows.js';
import { atItsLine } from './at-its-line.js';
import { checkParent } from './check-parent.js';
import type { Exchange } from './exchange.js';
import { guardOf } from './guard-of.js';
import { type Outcome, plain } from './outcome.js';
import { asData, rowOf } from './read-row.js';

/** The body that is sent after a change; null where none is. */
const changed = async (exchange: Exchange, key: Key): Promise<unknown> =>
  exchange.endpoint.returns === null ? null : asData(exchange.endpoint, await rowOf(exchange, key));

/** The columns that an input can set and that may be null, in its groups too. */
const clearable = (fields: InputPlan['fields']): string[] =>
  fields.flatMap(({ node }) => {
    if (node.kind === 'inputGroup') return clearable(node.fields);
    return node.kind === 'set' && node.column.nullable ? [node.column.name] : [];
  });

/** Members that a replacement leaves out become null where they may be: nothing of the old row stays. */
export const replacement = (plan: InputPlan, change: object): object => ({
  ...Object.fromEntries(clearable(plan.fields).map((name) => [name, null])),
  ...change,
});

/** The change with the columns that hold the parent's key. */
const underParent = ({ parentValues }: Exchange, change: object): object => ({
  ...change,
  ...parentValues,
});

/** Stores a new row. */
export const createRow = async (exchange: Exchange, change: object): Promise<Outcome> => {
  await checkParent(exchange);
  const { endpoint, store, signal } = exchange;
  const created = await store.create(endpoint.entity.name, underParent(exchange, change), { signal });
  return { data: await changed(exchange, created), created, page: null };
};

/** Stores many new rows, all of them or none. */
export const createRows = async (exchange: Exchange, rows: TakenRows): Promise<Outcome> => {
  await checkParent(exchange);
  const { endpoint, store, signal } = exchange;
  const batches = async function* (): AsyncGenerator<readonly object[]> {
    for await (const batch of rows) yield batch.map((change) => underParent(exchange, change));
  };
  try {
    await store.createAll(endpoint.entity.name, batches(), { signal });
  } catch (error) {
    throw atItsLine(error, rows, exchange);
  }
  return plain(null);
};

/** Sets what a change names. */
export const amendRow = async (exchange: Exchange, change: object): Promise<Outcome> => {
  const { endpoint, key, store } = exchange;
  const done =
    key !== null && (await store.amend(endpoint.entity.name, key, change, await guardOf(exchange)));
  if (!done || key === null) throw notFound();
  return plain(await changed(exchange, key));
};

/** Removes the row that the path names. */
export const removeRow = async (exchange: Exchange): Promise<Outcome> => {
  const { endpoint, key, store } = exchange;
  const done = key !== null && (await store.remove(endpoint.entity.name, key, await guardOf(exchange)));
  if (!done) throw notFound();
  return plain(null);
};
