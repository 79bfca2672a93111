import type { IsolationLevel } from 'kysely';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { Underway } from './underway.js';

/** What a transaction needs of the store that begins it. */
export interface Beginning {
  readonly kysely: AnyKysely;
  /** Null: that of the database. */
  readonly isolation: IsolationLevel | null;
  /** Aborted: what is not stored by then is not stored. Null: nobody gives it up. */
  readonly signal: AbortSignal | null;
  /**
   * What was thrown where a transaction begins or ends, in our words.
   *
   * @param isEnding whether it was being stored
   */
  failedAround(error: unknown, isEnding: boolean): Error;
}

/** One transaction of a store's own. */
export class OwnTransaction {
  readonly #beginning: Beginning;
  readonly #underway: Underway = new Underway();
  #phase: 'waiting' | 'working' | 'ending' = 'waiting';
  /** What the work threw. */
  #thrown: { readonly error: unknown } | null = null;

  constructor(beginning: Beginning) {
    this.#beginning = beginning;
  }

  /** Does work in it. @throws what went wrong first, and not what came of it when it was to be ended */
  async run<T>(work: (begun: AnyKysely, underway: Underway) => Promise<T>): Promise<T> {
    const { kysely, isolation, signal, failedAround } = this.#beginning;
    const builder = kysely.transaction();
    const transaction = (isolation === null ? builder : builder.setIsolationLevel(isolation)).execute(
      (begun) => this.#worked(begun, work),
    );
    try {
      return await this.#soonEnough(transaction);
    } catch (error) {
      if (this.#thrown !== null) throw this.#thrown.error;
      if (signal?.aborted && error === signal.reason) throw error;
      throw failedAround(error, this.#phase === 'ending');
    }
  }

  async #worked<T>(begun: AnyKysely, work: (begun: AnyKysely, underway: Underway) => Promise<T>): Promise<T> {
    const { signal } = this.#beginning;
    const underway = this.#underway;
    this.#phase = 'working';
    try {
      signal?.throwIfAborted();
      const result = await this.#inTime(work(begun, underway));
      underway.check();
      signal?.throwIfAborted();
      this.#phase = 'ending';
      return result;
    } catch (error) {
      this.#thrown = { error: underway.lost ?? error };
      throw error;
    }
  }

  /**
   * Work whose time is up is not waited for, whatever it is doing: its connection and its locks are others' again. What it asks for later
   * is refused.
   */
  #inTime<T>(work: Promise<T>): Promise<T> {
    const { signal } = this.#beginning;
    if (signal === null) return work;
    return new Promise((resolve, reject) => {
      const end = (): void => {
        this.#underway.over();
        reject(signal.reason);
      };
      signal.addEventListener('abort', end, { once: true });
      work.then(resolve, reject).finally(() => signal.removeEventListener('abort', end));
    });
  }

  /** Whoever waits for a connection is told at once that its time is up. */
  #soonEnough<T>(transaction: Promise<T>): Promise<T> {
    const { signal } = this.#beginning;
    if (signal === null) return transaction;
    return new Promise((resolve, reject) => {
      const end = (): void => {
        if (this.#phase === 'waiting') reject(signal.reason);
      };
      signal.addEventListener('abort', end, { once: true });
      transaction.then(resolve, reject).finally(() => signal.removeEventListener('abort', end));
    });
  }
}
