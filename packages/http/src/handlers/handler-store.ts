import { GriboError, type Key, type LoadPlan, type SeenStore } from 'gribo';
import type { ChangeOptions, Guard, RowQuery, SortKey, StoreCondition } from 'gribo/kit';

/** Ends a transaction whose work is not to be kept. */
class TakenBack extends Error {}

/**
 * A caller's store as a handler has it: it knows which rows it has given, and while the handler's transaction is open, whatever
 * is asked of it is a part of that.
 */
export class HandlerStore implements SeenStore {
  readonly #outside: SeenStore;
  readonly #signal: AbortSignal;
  readonly #given = new WeakSet<object>();
  /** The store of the transaction that is open; null where none is. */
  #inside: SeenStore | null = null;
  #isOpen = false;

  /** @param signal aborted: what is not stored yet is not stored any more */
  constructor(store: SeenStore, signal: AbortSignal) {
    this.#outside = store;
    this.#signal = signal;
  }

  get #store(): SeenStore {
    return this.#inside ?? this.#outside;
  }

  /** Where the endpoint's own operation is done: what it gives is sent as it is, so that nothing needs noting outside of transactions. */
  get operating(): SeenStore {
    return this.#inside === null ? this.#outside : this;
  }

  /** @param dryRun whether all is taken back once it is done: its result says what would have come of it */
  async transaction<T>(work: (store: SeenStore) => Promise<T>, dryRun = false): Promise<T> {
    if (this.#isOpen)
      throw new GriboError(
        'MISUSE',
        'transaction',
        'a transaction is open already: what the handler does meanwhile is a part of it',
      );
    this.#isOpen = true;
    let done: { readonly result: T } | null = null;
    try {
      return await this.#outside.transaction(async (inside) => {
        const result = await this.#within(inside, work);
        if (!dryRun) return result;
        done = { result };
        throw new TakenBack();
      });
    } catch (error) {
      if (error instanceof TakenBack && done !== null) return (done as { readonly result: T }).result;
      throw error;
    } finally {
      this.#isOpen = false;
    }
  }

  async #within<T>(inside: SeenStore, work: (store: SeenStore) => Promise<T>): Promise<T> {
    this.#inside = inside;
    try {
      const result = await work(this);
      this.#signal.throwIfAborted();
      return result;
    } finally {
      this.#inside = null;
    }
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
