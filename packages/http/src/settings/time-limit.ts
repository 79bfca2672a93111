import { Problem } from '../problems/problem.js';

/** A time limit that can stand still while something else is waited for. */
export class TimeLimit {
  readonly #milliseconds: number;
  readonly #late: () => Problem;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #isOver = false;
  #refuse: (problem: Problem) => void = () => undefined;

  /** @param late makes what is thrown when the time is up */
  constructor(milliseconds: number, late: () => Problem) {
    this.#milliseconds = milliseconds;
    this.#late = late;
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
      this.stop();
    }
  }

  /** The whole time again, from now on. */
  start(): void {
    this.stop();
    if (this.#isOver) return;
    this.#timer = setTimeout(() => this.#refuse(this.#late()), this.#milliseconds);
  }

  stop(): void {
    clearTimeout(this.#timer);
  }
}

/**
 * What a promise yields, if it does so in time.
 *
 * @param milliseconds how long is waited
 * @param late makes what is thrown then
 */
export const inTime = <T>(work: Promise<T>, milliseconds: number, late: () => Problem): Promise<T> =>
  new TimeLimit(milliseconds, late).race(work);

/**
 * What is thrown where the store or a handler takes too long.
 *
 * @param mayBeDone whether what was asked for may have been done all the same
 */
export const tooSlow = (milliseconds: number, mayBeDone = false): Problem =>
  new Problem(503, {
    detail: mayBeDone
      ? 'The answer took too long. It was given up, but part of the way it may have been done: look before it is sent again.'
      : 'The answer took too long.',
    cause: new Error(`the store or a handler took more than ${milliseconds} ms`),
  });
