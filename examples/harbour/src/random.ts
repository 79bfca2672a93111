/** A small seeded generator (mulberry32): the same seed gives the same numbers everywhere. */
export class Random {
  #state: number;

  constructor(seed: number) {
    this.#state = seed >>> 0;
  }

  /** A number from 0 up to, but not including, 1. */
  next(): number {
    this.#state = (this.#state + 0x6d2b79f5) >>> 0;
    let t = this.#state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  /** A whole number from `least` to `most`, both included. */
  between(least: number, most: number): number {
    return least + Math.floor(this.next() * (most - least + 1));
  }

  chance(share: number): boolean {
    return this.next() < share;
  }

  pick<T>(choices: readonly T[]): T {
    return choices[this.between(0, choices.length - 1)] as T;
  }

  /** A UUID of random bits (RFC 9562, version 4). */
  uuid(): string {
    const hex = (digits: number): string =>
      Array.from({ length: digits }, () => this.between(0, 15).toString(16)).join('');
    return `${hex(8)}-${hex(4)}-4${hex(3)}-${this.pick(['8', '9', 'a', 'b'])}${hex(3)}-${hex(12)}`;
  }
}
