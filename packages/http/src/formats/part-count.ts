import { MalformedBody } from './format.js';

/** Counts the parts of a body while it is read, so that no more is built than may be. */
export class PartCount {
  #left: number;

  /** @param most the most parts, as the format has them */
  constructor(most: number) {
    this.#left = most;
  }

  /** @throws {MalformedBody} `items` where there are too many */
  add(): void {
    if (--this.#left < 0) throw new MalformedBody({ name: 'items' });
  }
}
