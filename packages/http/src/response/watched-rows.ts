import { tooSlow } from '../settings/time-limit.js';

/** What is done while somebody waits for rows. */
export interface RowsWatch {
  /** What a promise yields that waits for rows, if each of them comes in time; otherwise the source is ended. */
  inTime<T>(work: Promise<T>): Promise<T>;
  /** Ends the source, begun or not. */
  end(): void;
}

/** Rows that are there already are not waited for. */
export const readyRows = (rows: Iterable<object>): RowsWatch => ({
  inTime: (work) => work,
  end: () => {
    rows[Symbol.iterator]().return?.();
  },
});

/**
 * The rows of a source, each of which is waited for so long at most. Nothing is done for a row but that the time is noted:
 * whoever waits for many of them, waits by `inTime`.
 */
export class WatchedRows implements RowsWatch, AsyncIterable<object>, AsyncIterator<object> {
  readonly #source: AsyncIterator<object>;
  readonly #milliseconds: number;
  /** What was taken to look at it, and comes first. */
  #taken: readonly object[] = [];
  #next = 0;
  #askedAt = 0;

  constructor(rows: AsyncIterable<object>, milliseconds: number) {
    this.#source = rows[Symbol.asyncIterator]();
    this.#milliseconds = milliseconds;
  }

  [Symbol.asyncIterator](): this {
    return this;
  }

  next(): Promise<IteratorResult<object>> {
    if (this.#next < this.#taken.length) {
      const value = this.#taken[this.#next++] as object;
      return Promise.resolve({ done: false, value });
    }
    this.#askedAt = Date.now();
    return this.#source.next();
  }

  async return(): Promise<IteratorResult<object>> {
    this.end();
    return { done: true, value: undefined };
  }

  /** One that is stuck is not waited for, and what it says to that is of no use any more. */
  end(): void {
    Promise.resolve(this.#source.return?.()).catch(() => undefined);
  }

  /** The first rows, so many at most, which come again. */
  async take(most: number): Promise<readonly object[]> {
    const taken: object[] = [];
    while (taken.length < most) {
      const { done, value } = await this.next();
      if (done === true) break;
      taken.push(value);
    }
    this.#taken = taken;
    return taken;
  }

  inTime<T>(work: Promise<T>): Promise<T> {
    let timer: NodeJS.Timeout | undefined;
    const stuck = new Promise<never>((_resolve, reject) => {
      const look = (): void => {
        const left = this.#askedAt + this.#milliseconds - Date.now();
        if (left > 0) {
          timer = setTimeout(look, left).unref();
          return;
        }
        this.end();
        reject(tooSlow(this.#milliseconds));
      };
      this.#askedAt = Date.now();
      look();
    });
    return Promise.race([work, stuck]).finally(() => clearTimeout(timer));
  }
}
