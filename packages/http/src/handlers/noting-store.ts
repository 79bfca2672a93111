import type { Key, LoadPlan, SeenStore } from 'gribo';
import type { ChangeOptions, Guard, RowQuery, SortKey, StoreCondition } from 'gribo/kit';

/** A caller's store that knows which rows it has given. */
export class NotingStore implements SeenStore {
  readonly #store: SeenStore;
  readonly #given = new WeakSet<object>();

  constructor(store: SeenStore) {
    this.#store = store;
  }

  /** Whether a row is one that this store gave. */
  gave(row: object): boolean {
    return this.#given.has(row);
  }

  #noted<T extends object>(row: T): T {
    this.#given.add(row);
    return row;
  }

  async list(plan: LoadPlan, query?: RowQuery): Promise<readonly object[]> {
    const rows = await this.#store.list(plan, query);
    for (const row of rows) this.#noted(row);
    return rows;
  }

  async *stream(plan: LoadPlan, query?: RowQuery): AsyncGenerator<object> {
    for await (const row of this.#store.stream(plan, query)) yield this.#noted(row);
  }

  async read(plan: LoadPlan, key: Key, where?: readonly StoreCondition[]): Promise<object | null> {
    const row = await this.#store.read(plan, key, where);
    return row === null ? null : this.#noted(row);
  }

  count(entity: string, where?: readonly StoreCondition[]): Promise<number> {
    return this.#store.count(entity, where);
  }

  create(entity: string, change: object, options?: ChangeOptions): Promise<Key> {
    return this.#store.create(entity, change, options);
  }

  createAll(
    entity: string,
    batches: AsyncIterable<readonly object[]>,
    options?: ChangeOptions,
  ): Promise<number> {
    return this.#store.createAll(entity, batches, options);
  }

  amend(entity: string, key: Key, change: object, guard?: Guard): Promise<boolean> {
    return this.#store.amend(entity, key, change, guard);
  }

  remove(entity: string, key: Key, guard?: Guard): Promise<boolean> {
    return this.#store.remove(entity, key, guard);
  }

  order(sort: readonly SortKey[]): readonly SortKey[] {
    return this.#store.order(sort);
  }
}
