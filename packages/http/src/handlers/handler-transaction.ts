import { GriboError, type Store } from 'gribo';
import type { HandlerStore } from './handler-store.js';
import type { TransactionOptions } from './handlers.js';

/** Ends a transaction whose work is not to be kept. */
class TakenBack extends Error {}

/** The transactions of one handler: one after the other, and none within another. */
export class HandlerTransaction {
  readonly #store: HandlerStore;
  /** How often something was taken of what is there once. */
  readonly #taken: () => number;
  #isOpen = false;

  /** Whether the request only reads: then its store may follow another one, which lets nobody hold on to anything. */
  readonly #isReading: boolean;

  constructor(store: HandlerStore, taken: () => number, isReading: boolean) {
    this.#store = store;
    this.#taken = taken;
    this.#isReading = isReading;
  }

  async run<T>(work: (within: Store) => Promise<T>, options: TransactionOptions = {}): Promise<T> {
    if (this.#isOpen)
      throw new GriboError(
        'MISUSE',
        'transaction',
        'a transaction is open already: what the handler does meanwhile is a part of it',
      );
    this.#isOpen = true;
    try {
      return await this.#run(work, options);
    } finally {
      this.#isOpen = false;
    }
  }

  async #run<T>(
    work: (within: Store) => Promise<T>,
    { dryRun = false, onlyReads = false }: TransactionOptions,
  ): Promise<T> {
    let done: { readonly result: T } | null = null;
    const before = this.#taken();
    try {
      return await this.#store.transaction(
        async (within) => {
          const result = await (onlyReads ? this.#store.onlyReading(() => work(within)) : work(within));
          if (!dryRun) return result;
          done = { result };
          throw new TakenBack();
        },
        // Rows and files that come once cannot come again.
        { again: () => this.#taken() === before, steady: !onlyReads && !this.#isReading },
      );
    } catch (error) {
      if (error instanceof TakenBack && done !== null) return (done as { readonly result: T }).result;
      throw error;
    }
  }
}
