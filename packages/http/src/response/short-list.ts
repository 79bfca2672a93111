import type { Problem } from '../problems/problem.js';
import { tooSlow } from '../settings/time-limit.js';

/** A list of so many rows at most is sent as a whole, with its length and an entity tag. */
const WHOLE = 500;

/** The rows of a list: all of them where there are few, or a source that starts with the first of them. */
export type ShortOrLong =
  | { readonly kind: 'whole'; readonly rows: readonly object[] }
  | { readonly kind: 'source'; readonly rows: Iterable<object> | AsyncIterable<object> };

/** A source of rows, each of which is waited for so long at most. One timer serves them all. */
class TimedSource {
  readonly #source: AsyncIterator<object>;
  readonly #timer: NodeJS.Timeout;
  #isWaiting = false;
  #refuse: (error: Problem) => void = () => undefined;

  constructor(source: AsyncIterator<object>, milliseconds: number) {
    this.#source = source;
    this.#timer = setTimeout(() => {
      // A reader that takes its time is no reason to end.
      if (!this.#isWaiting) return;
      this.#refuse(tooSlow(milliseconds));
      this.end();
    }, milliseconds).unref();
  }

  next(): Promise<IteratorResult<object>> {
    this.#timer.refresh();
    this.#isWaiting = true;
    return new Promise((resolve, reject) => {
      this.#refuse = reject;
      const step = ({ done, value }: IteratorResult<object>): void => {
        this.#isWaiting = false;
        if (done === true) clearTimeout(this.#timer);
        resolve({ done: done === true, value } as IteratorResult<object>);
      };
      const failed = (error: unknown): void => {
        clearTimeout(this.#timer);
        reject(error);
      };
      this.#source.next().then(step, failed);
    });
  }

  /** Ends the source. One that is stuck is not waited for, and what it says to that is of no use any more. */
  end(): void {
    clearTimeout(this.#timer);
    Promise.resolve(this.#source.return?.()).catch(() => undefined);
  }
}

/** The first rows, then the rest of their source. It can be ended before it was begun. */
const chained = (first: readonly object[], rest: TimedSource): AsyncIterable<object> => {
  let index = 0;
  const next = (): Promise<IteratorResult<object>> => {
    const value = first[index++];
    return value === undefined ? rest.next() : Promise.resolve({ done: false, value });
  };
  const end = async (): Promise<IteratorResult<object>> => {
    rest.end();
    return { done: true, value: undefined };
  };
  return { [Symbol.asyncIterator]: () => ({ next, return: end }) };
};

/**
 * Looks whether a list is short, so that its first failure is a problem and not a broken
 * connection.
 *
 * @param milliseconds how long each row is waited for
 */
export const shortList = async (
  rows: Iterable<object> | AsyncIterable<object>,
  milliseconds: number,
): Promise<ShortOrLong> => {
  if (Array.isArray(rows) && rows.length <= WHOLE) return { kind: 'whole', rows };
  if (!(Symbol.asyncIterator in rows)) return { kind: 'source', rows };
  const source = new TimedSource(rows[Symbol.asyncIterator](), milliseconds);
  const first: object[] = [];
  while (first.length <= WHOLE) {
    const { done, value } = await source.next();
    if (done === true) return { kind: 'whole', rows: first };
    first.push(value);
  }
  return { kind: 'source', rows: chained(first, source) };
};
