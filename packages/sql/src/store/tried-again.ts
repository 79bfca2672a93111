import { setTimeout as pause } from 'node:timers/promises';
import { StatementError } from '../errors/statement-error.js';

/** So often is work tried, at most. */
const TRIES = 8;

/** Milliseconds after which nothing is begun again: who comes then waits for somebody who keeps a lock. */
const PATIENCE = 2000;

/** Milliseconds before the second try, at most; twice as many before each further one, up to the longest. */
const FIRST = 10;
const LONGEST = 400;

/** When work is not tried again. */
export interface Trying {
  /** Aborted: nobody waits for it any more. */
  readonly signal: AbortSignal | null;
  /** Asked before the work is run again: whether it can be. */
  readonly again: () => boolean;
}

const asksAgain = (error: unknown): boolean => error instanceof StatementError && error.passing === 'again';

/**
 * Runs work, and runs it again where the database asks for that: transactions that were in each other's way get through one
 * after the other, so each waits for a time of its own.
 *
 * @throws what the last try threw
 */
export const triedAgain = async <T>(work: () => Promise<T>, { signal, again }: Trying): Promise<T> => {
  const start = performance.now();
  for (let tries = 1; ; tries++) {
    try {
      return await work();
    } catch (error) {
      const isLate = tries === TRIES || performance.now() - start > PATIENCE;
      if (!asksAgain(error) || isLate || !again()) throw error;
    }
    await pause(Math.random() * Math.min(LONGEST, FIRST * 2 ** (tries - 1)));
    signal?.throwIfAborted();
  }
};
