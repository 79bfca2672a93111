import type { Key, SeenStore } from 'gribo';
import type { InputPlan } from 'gribo/kit';
import { loggable } from '../problems/loggable.js';
import { notFound } from '../problems/not-found.js';
import type { TakenRows } from '../request/read-rows.js';
import { atItsLine } from './at-its-line.js';
import { checkParent } from './check-parent.js';
import type { Exchange } from './exchange.js';
import { guardOf } from './guard-of.js';
import { type Outcome, plain } from './outcome.js';
import { asData, rowOf } from './read-row.js';

/**
 * Does a change and reads what is sent of it, in one transaction where the store has any: what is told is what was stored, and
 * what cannot be told is not stored.
 *
 * @param change does it, and says which row it is about
 * @param isNew whether that row was not there before
 */
const changed = async (
  exchange: Exchange,
  change: (store: SeenStore) => Promise<Key>,
  isNew: boolean,
): Promise<Outcome> => {
  const { endpoint, store } = exchange;
  const outcome = (data: unknown, key: Key): Outcome => ({ data, created: isNew ? key : null, page: null });
  const told = async (within: SeenStore, key: Key): Promise<Outcome> =>
    outcome(asData(endpoint, await rowOf({ ...exchange, store: within }, key)), key);
  if (endpoint.returns === null) return outcome(null, await change(store));
  if (store.transacts)
    return store.transaction(async (within) => told(within, await change(within)), { parts: false });
  const key = await change(store);
  try {
    return await told(store, key);
  } catch (error) {
    const about = { err: loggable(error), endpoint: endpoint.name };
    exchange.settings.log.error(
      about,
      'it was stored, and could not be read again: it was told without a body',
    );
    return { ...outcome(null, key), isBare: true };
  }
};

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
  const { endpoint, signal } = exchange;
  const row = underParent(exchange, change);
  return changed(exchange, (store) => store.create(endpoint.entity.name, row, { signal }), true);
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
  const { endpoint, key } = exchange;
  if (key === null) throw notFound();
  const guard = await guardOf(exchange);
  const amend = async (store: SeenStore): Promise<Key> => {
    if (!(await store.amend(endpoint.entity.name, key, change, guard))) throw notFound();
    return key;
  };
  return changed(exchange, amend, false);
};

/** Removes the row that the path names. */
export const removeRow = async (exchange: Exchange): Promise<Outcome> => {
  const { endpoint, key, store } = exchange;
  const done = key !== null && (await store.remove(endpoint.entity.name, key, await guardOf(exchange)));
  if (!done) throw notFound();
  return plain(null);
};
