import { AsyncLocalStorage } from 'node:async_hooks';
import { GriboError } from 'gribo';

/**
 * The transactions of a store whose work is underway. Work that asks the store itself, and not the one that it is given, would wait for
 * another connection while it keeps one: enough of it at once would wait for ever.
 */
export class OpenTransactions {
  readonly #within = new AsyncLocalStorage<{ isOpen: boolean }>();

  /** Does the work of a transaction. What it leaves running behind it is no part of it any more. */
  run<T>(work: () => Promise<T>): Promise<T> {
    const transaction = { isOpen: true };
    return this.#within.run(transaction, async () => {
      try {
        return await work();
      } finally {
        transaction.isOpen = false;
      }
    });
  }

  /** @throws {GriboError} `MISUSE` where it is asked within the work of a transaction */
  checkNone(): void {
    if (this.#within.getStore()?.isOpen !== true) return;
    throw new GriboError(
      'MISUSE',
      'store',
      'a transaction is open here, and this is the store outside of it: use the store that its work is given, or what the handler has as `store` and `load`',
    );
  }
}
