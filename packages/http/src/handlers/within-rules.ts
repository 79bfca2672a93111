import { GriboError, type Key } from 'gribo';
import {
  type ApiPlan,
  allOf,
  anyOf,
  comparison,
  type EndpointPlan,
  isAboutMany,
  rulesFor,
  type StoreCondition,
} from 'gribo/kit';
import { Problem } from '../problems/problem.js';
import { equalTo, keyOf } from '../request/key.js';
import type { HandlerStore } from './handler-store.js';

/** So many rows are looked up at once. */
const BATCH = 500;

/** Looks at the rows that a handler gives: those that its caller may not see must not go out. */
class WithinRules {
  readonly #endpoint: EndpointPlan;
  readonly #store: HandlerStore;

  constructor(endpoint: EndpointPlan, store: HandlerStore) {
    this.#endpoint = endpoint;
    this.#store = store;
  }

  /** The same data; rows that come one after the other are looked at as they come. @throws {Problem} 403, 404 */
  async data(data: unknown): Promise<unknown> {
    const { returns } = this.#endpoint;
    if (returns === null || data === null || data === undefined) return data;
    if (returns.kind === 'shape') return this.#one(data as object);
    if (returns.kind === 'list') return this.#many(data as Iterable<object> | AsyncIterable<object>);
    if (!isAboutMany(returns)) {
      const { item } = data as { readonly item?: object };
      return item === undefined ? data : { ...data, item: await this.#one(item) };
    }
    const { items } = data as { readonly items?: Iterable<object> };
    return items === undefined ? data : { ...data, items: await this.#many(items) };
  }

  async #one(row: object): Promise<object> {
    await this.#look([row]);
    return row;
  }

  async #many(
    rows: Iterable<object> | AsyncIterable<object>,
  ): Promise<readonly object[] | AsyncIterable<object>> {
    if (!Array.isArray(rows)) return this.#asTheyCome(rows);
    const all: readonly object[] = rows;
    for (let i = 0; i < all.length; i += BATCH) await this.#look(all.slice(i, i + BATCH));
    return all;
  }

  async *#asTheyCome(rows: Iterable<object> | AsyncIterable<object>): AsyncGenerator<object> {
    let batch: object[] = [];
    for await (const row of rows) {
      if (batch.push(row) < BATCH) continue;
      await this.#look(batch);
      yield* batch;
      batch = [];
    }
    await this.#look(batch);
    yield* batch;
  }

  /** Rows of the caller's own store are known; the others are asked for by their keys. */
  async #look(rows: readonly object[]): Promise<void> {
    const { entity } = this.#endpoint;
    const strangers = rows.filter((row) => !this.#store.gave(row));
    if (strangers.length === 0) return;
    const keys = new Map(
      strangers.map((row) => this.#keyOf(row)).map((key) => [JSON.stringify(key.map(String)), key]),
    );
    const seen = await this.#store.count(entity.name, [this.#having([...keys.values()])]);
    if (seen === keys.size) return;
    const message = `the handler of ${this.#endpoint.name} gave a row of ${entity.name} that this caller may not see`;
    const cause = new GriboError('MISUSE', this.#endpoint.name, message);
    const isOne = this.#endpoint.returns?.kind === 'shape';
    throw isOne
      ? new Problem(404, { detail: 'There is no such row.', cause })
      : new Problem(403, { detail: 'This is not for you.', cause });
  }

  #keyOf(row: object): Key {
    const { entity, name } = this.#endpoint;
    if (entity.key.every((column) => Reflect.get(row, column) !== undefined)) return keyOf(entity, row);
    const message = `its handler gave a row without its key, ${entity.key.join(', ')}, so it cannot be told whether this caller may see it: give the key too, or say rowsOfHandlers: 'trust'`;
    throw new GriboError('MISUSE', name, message);
  }

  #having(keys: readonly Key[]): StoreCondition {
    const { entity } = this.#endpoint;
    const [column] = entity.columns.filter(({ name }) => name === entity.key[0]);
    if (column !== undefined && entity.key.length === 1)
      return comparison(
        column,
        'oneOfThese',
        keys.map(([value]) => value),
      );
    return anyOf(...keys.map((key) => allOf(...equalTo(entity, entity.key, key))));
  }
}

/**
 * What a handler gave, once it is known that its caller may see the rows in it.
 *
 * @param audience whom the response is for; where no row rule leaves it less than all rows, nothing is looked at
 * @throws {Problem} 404 or 403 where it may not, with a line in the log
 */
export const withinRules = async (
  plan: ApiPlan,
  endpoint: EndpointPlan,
  audience: string | null,
  store: HandlerStore,
  data: unknown,
): Promise<unknown> => {
  const see = rulesFor(plan, audience).get(endpoint.entity.name)?.see ?? null;
  return see === null ? data : new WithinRules(endpoint, store).data(data);
};
