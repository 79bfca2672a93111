import { StatementError } from '../errors/statement-error.js';

/**
 * A transaction while it is open. Where it was in the way of another one, or its connection is lost, its database may have ended it:
 * what came after would be stored by itself, so nothing comes after, whatever the work makes of the failure.
 */
export class Underway {
  #lost: StatementError | null = null;

  /** What ended it; null: it goes on. */
  get lost(): StatementError | null {
    return this.#lost;
  }

  /** @throws what ended it */
  check(): void {
    if (this.#lost !== null) throw this.#lost;
  }

  /** Looks at what failed within it. */
  failed(error: unknown): void {
    if (error instanceof StatementError && error.passing !== null) this.#lost ??= error;
  }
}
