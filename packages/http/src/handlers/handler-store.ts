import { GriboError, type Key, type LoadPlan, type SeenStore, type TransactionTerms } from 'gribo';
import type { ChangeOptions, Guard, RowQuery, SortKey, StoreCondition } from 'gribo/kit';
import type { Progress } from '../operations/progress.js';

/**
 * A caller's store as a handler has it: it knows which rows it has given and whether something was stored, and while a transaction of
 * the handler's is open, whatever is asked of it is a part of that.
 */
export class HandlerStore implements SeenStore {
  readonly #outside: SeenStore;
  readonly #signal: AbortSignal;
  readonly #progress: Progress;
  readonly #given = new WeakSet<object>();
  #onlyReads = false;
  /** The store of the transaction that is open; null where none is. */
  #inside: SeenStore | null = null;

  /** @param signal aborted: what is not stored yet is not stored any more */
  constructor(store: SeenStore, signal: AbortSignal, progress: Progress) {
    this.#outside = store;
    this.#signal = signal;
    this.#progress = progress;
  }

  get #store(): SeenStore {
    return this.#inside ?? this.#outside;
  }

  get transacts(): boolean {
    return this.#outside.transacts;
  }

  /** Where the endpoint's own operation is done: what it gives is sent as it is, so that nothing needs noting outside of transactions. */
  get operating(): SeenStore {
    return this.#inside === null ? this.#outside : this;
  }

  /** In a transaction that is open, the work is a part of that. */
  async transaction<T>(work: (store: SeenStore) => Promise<T>, terms?: TransactionTerms): Promise<T> {
    const before = this.#progress.isStored;
    try {
      return await this.#store.transaction((inside) => this.#within(inside, work), terms);
    } catch (error) {
      // Whatever it stored is taken back.
      this.#progress.isStored = before;
      throw error;
    }
  }

  async #within<T>(inside: SeenStore, work: (store: SeenStore) => Promise<T>): Promise<T> {
    const around = this.#inside;
    this.#inside = inside;
    try {
      const result = await work(this);
      this.#signal.throwIfAborted();
      return result;
    } finally {
      this.#inside = around;
    }
  }

  /** Does work that changes nothing. */
  async onlyReading<T>(work: () => Promise<T>): Promise<T> {
    this.#onlyReads = true;
    try {
      return await work();
    } finally {
      this.#onlyReads = false;
    }
  }

  /** The store for a change. @throws {GriboError} `MISUSE` where only reading was asked for */
  get #changed(): SeenStore {
    if (this.#onlyReads)
      throw new GriboError(
        'MISUSE',
        'transaction',
        'this transaction only reads: leave onlyReads out where something is to be changed',
      );
    return this.#store;
  }

  /** Whether a row is one that this store gave. */
  gave(row: object): boolean {
    return this.#given.has(row);
  }

  #noted<T extends object>(row: T): T {
    this.#given.add(row);
    return row;
  }

  async #stored<T>(change: Promise<T>): Promise<T> {
    const done = await change;
    if (done !== false) this.#progress.isStored = true;
    return done;
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

  async create(entity: string, change: object, options?: ChangeOptions): Promise<Key> {
    return this.#stored(this.#changed.create(entity, change, options));
  }

  async createAll(
    entity: string,
    batches: AsyncIterable<readonly object[]>,
    options?: ChangeOptions,
  ): Promise<number> {
    return this.#stored(this.#changed.createAll(entity, batches, options));
  }

  async amend(entity: string, key: Key, change: object, guard?: Guard): Promise<boolean> {
    return this.#stored(this.#changed.amend(entity, key, change, guard));
  }

  async remove(entity: string, key: Key, guard?: Guard): Promise<boolean> {
    return this.#stored(this.#changed.remove(entity, key, guard));
  }

  order(sort: readonly SortKey[]): readonly SortKey[] {
    return this.#store.order(sort);
  }
}
