import { GriboError } from 'gribo';
import { StatementError } from '../errors/statement-error.js';

/**
 * A transaction while it is open. Where it was in the way of another one, or its connection is lost, its database may have ended it:
 * what came after would be stored by itself, so nothing comes after, whatever the work makes of the failure.
 */
export class Underway {
  #lost: StatementError | null = null;
  #isOver = false;

  /** What ended it; null: it goes on. */
  get lost(): StatementError | null {
    return this.#lost;
  }

  /** Its time is up: whoever still works in it is told so. */
  over(): void {
    this.#isOver = true;
  }

  /** @throws what ended it */
  check(): void {
    if (this.#isOver)
      throw new GriboError(
        'ENDED',
        'transaction',
        'this transaction took too long and has ended: what was done in it is taken back, and nothing more can be',
      );
    if (this.#lost !== null) throw this.#lost;
  }

  /** Looks at what failed within it. */
  failed(error: unknown): void {
    if (error instanceof StatementError && error.passing !== null) this.#lost ??= error;
  }
}
