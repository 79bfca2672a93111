import { tooSlow } from '../settings/time-limit.js';

/** What is done while somebody waits for rows. */
export interface RowsWatch {
  /** What a promise yields that waits for rows, if each of them comes in time; otherwise the source is ended. */
  inTime<T>(work: Promise<T>): Promise<T>;
  /** Ends the source, begun or not. */
  end(): void;
  /** How many rows were taken of it; null where it has chunks of many. */
  readonly count: number | null;
}

/** Rows that are there already are not waited for. */
export const readyRows = (rows: Iterable<object>): RowsWatch => ({
  count: Array.isArray(rows) ? rows.length : null,
  inTime: (work) => work,
  end: () => {
    rows[Symbol.iterator]().return?.();
  },
});

/**
 * What comes from a source, rows or chunks of them, each of which is waited for so long at most. Nothing is done for one but
 * that the time is noted: whoever waits for many of them, waits by `inTime`.
 */
export class Watched<T> implements RowsWatch, AsyncIterable<T>, AsyncIterator<T> {
  readonly #source: AsyncIterator<T>;
  readonly #milliseconds: number;
  /** What was taken to look at it, and comes first. */
  #taken: readonly T[] = [];
  #next = 0;
  #askedAt = 0;
  #asked = 0;
  readonly #isRows: boolean;

  /** @param isRows whether each is one row */
  constructor(source: AsyncIterator<T>, milliseconds: number, isRows: boolean) {
    this.#source = source;
    this.#milliseconds = milliseconds;
    this.#isRows = isRows;
  }

  /** What was asked for last was the end, or was not waited for. */
  get count(): number | null {
    return this.#isRows ? Math.max(0, this.#asked - 1) : null;
  }

  [Symbol.asyncIterator](): this {
    return this;
  }

  next(): Promise<IteratorResult<T>> {
    if (this.#next < this.#taken.length) {
      const value = this.#taken[this.#next++] as T;
      return Promise.resolve({ done: false, value });
    }
    this.#askedAt = performance.now();
    this.#asked += 1;
    return this.#source.next();
  }

  async return(): Promise<IteratorResult<T>> {
    this.end();
    return { done: true, value: undefined };
  }

  /** One that is stuck is not waited for, and what it says to that is of no use any more. */
  end(): void {
    Promise.resolve(this.#source.return?.()).catch(() => undefined);
  }

  /**
   * The first of them, until they are so many rows, which come again.
   *
   * @param rowsOf how many rows are in one
   */
  async take(
    most: number,
    rowsOf: (one: T) => number,
  ): Promise<{ readonly rows: number; readonly taken: readonly T[] }> {
    const taken: T[] = [];
    let rows = 0;
    while (rows < most) {
      const { done, value } = await this.next();
      if (done === true) break;
      taken.push(value);
      rows += rowsOf(value);
    }
    this.#taken = taken;
    return { rows, taken };
  }

  inTime<W>(work: Promise<W>): Promise<W> {
    let timer: NodeJS.Timeout | undefined;
    const stuck = new Promise<never>((_resolve, reject) => {
      const look = (): void => {
        const left = this.#askedAt + this.#milliseconds - performance.now();
        if (left > 0) {
          timer = setTimeout(look, left).unref();
          return;
        }
        this.end();
        reject(tooSlow(this.#milliseconds));
      };
      this.#askedAt = performance.now();
      look();
    });
    return Promise.race([work, stuck]).finally(() => clearTimeout(timer));
  }
}
