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
  /** Where it stands in line to be run again: for work that must find at its end what it has read. Null: it does not. */
  readonly line: Line | null;
}

/** The same of work that stands in line: nobody keeps a lock there, and each of many at once gets through in its turn. */
const IN_LINE = { tries: 100, patience: 10_000, longest: 40 };
const ALONE = { tries: TRIES, patience: PATIENCE, longest: LONGEST };

/**
 * Work that was in the way of other work, one after the other: what has failed once is run alone among its kind, so that only work that
 * comes for the first time, and what other servers do, can be in its way again.
 */
export class Line {
  #last: Promise<unknown> = Promise.resolve();

  /** @param signal aborted: it is not begun any more */
  run<T>(work: () => Promise<T>, signal: AbortSignal | null): Promise<T> {
    const own = this.#last.then(() => {
      signal?.throwIfAborted();
      return work();
    });
    this.#last = own.catch(() => undefined);
    return own;
  }
}

const asksAgain = (error: unknown): boolean => error instanceof StatementError && error.passing === 'again';

/**
 * Runs work, and runs it again where the database asks for that: transactions that were in each other's way get through one
 * after the other, so each waits for a time of its own.
 *
 * @throws what the last try threw
 */
export const triedAgain = async <T>(work: () => Promise<T>, trying: Trying): Promise<T> => {
  const { line, signal, again } = trying;
  if (line === null) return tried(work, trying, ALONE);
  try {
    return await work();
  } catch (error) {
    if (!asksAgain(error) || !again()) throw error;
  }
  return line.run(() => tried(work, trying, IN_LINE), signal);
};

const tried = async <T>(
  work: () => Promise<T>,
  { signal, again }: Trying,
  most: typeof ALONE,
): Promise<T> => {
  const start = performance.now();
  for (let tries = 1; ; tries++) {
    try {
      return await work();
    } catch (error) {
      const isLate = tries === most.tries || performance.now() - start > most.patience;
      if (!asksAgain(error) || isLate || !again()) throw error;
    }
    await pause(Math.random() * Math.min(most.longest, FIRST * 2 ** (tries - 1)));
    signal?.throwIfAborted();
  }
};
