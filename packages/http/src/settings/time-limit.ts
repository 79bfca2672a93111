import { Problem } from '../problems/problem.js';
import { RETRY_AFTER } from '../problems/retry-after.js';

/** What happens when the time is up. */
export interface Lateness {
  /** Gives the work up. @returns what is told of that */
  late(): Error;
  /**
   * Work that changes something is waited for a little longer: it ends soon, and then it is known how. Null: nobody needs to know.
   */
  readonly ending: { readonly milliseconds: number; readonly unknown: () => Error } | null;
}

/** A time limit that can stand still while something else is waited for. */
export class TimeLimit {
  readonly #milliseconds: number;
  readonly #lateness: Lateness;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #isOver = false;
  #refuse: (error: Error) => void = () => undefined;

  constructor(milliseconds: number, lateness: Lateness) {
    this.#milliseconds = milliseconds;
    this.#lateness = lateness;
  }

  /** What a promise yields, if it does so in time. */
  async race<T>(work: Promise<T>): Promise<T> {
    const limit = new Promise<never>((_resolve, reject) => {
      this.#refuse = reject;
    });
    this.start();
    try {
      return await Promise.race([work, limit]);
    } finally {
      this.#isOver = true;
      clearTimeout(this.#timer);
    }
  }

  /** The whole time again, from now on. */
  start(): void {
    this.stop();
    if (!this.#isOver) this.#timer = setTimeout(() => this.#up(), this.#milliseconds);
  }

  stop(): void {
    if (!this.#isOver) clearTimeout(this.#timer);
  }

  #up(): void {
    this.#isOver = true;
    const told = this.#lateness.late();
    const { ending } = this.#lateness;
    if (ending === null) this.#refuse(told);
    else this.#timer = setTimeout(() => this.#refuse(ending.unknown()), ending.milliseconds);
  }
}

/**
 * What a promise yields, if it does so in time.
 *
 * @param milliseconds how long is waited
 * @param late makes what is thrown then
 */
export const inTime = <T>(work: Promise<T>, milliseconds: number, late: () => Problem): Promise<T> =>
  new TimeLimit(milliseconds, { late, ending: null }).race(work);

/** What is known of something that took too long: it changes nothing; nothing is changed; or that cannot be told. */
export type Left = 'read' | 'unchanged' | 'unknown';

const TOLD: Readonly<Record<Left, string>> = {
  read: 'The answer took too long.',
  unchanged: 'The answer took too long. It was given up, and nothing was changed.',
  unknown:
    'The answer took too long. It was given up, but part of the way it may have been done: look before it is sent again.',
};

/** What is thrown where the store or a handler takes too long. */
export const tooSlow = (milliseconds: number, left: Left = 'read'): Problem =>
  new Problem(503, {
    detail: TOLD[left],
    headers: RETRY_AFTER,
    cause: new Error(`the store or a handler took more than ${milliseconds} ms`),
  });
