/** Batches that come from the start again, as long as there were not too many of them to be kept. */
export class Repeatable<T> implements AsyncIterable<readonly T[]> {
  readonly #source: AsyncIterator<readonly T[]>;
  readonly #most: number;
  #kept: (readonly T[])[] = [];
  #rows = 0;

  /** @param most so many rows are kept */
  constructor(batches: AsyncIterable<readonly T[]>, most: number) {
    this.#source = batches[Symbol.asyncIterator]();
    this.#most = most;
  }

  /** Whether all that has come is kept. */
  get isWhole(): boolean {
    return this.#rows <= this.#most;
  }

  async *[Symbol.asyncIterator](): AsyncGenerator<readonly T[]> {
    yield* [...this.#kept];
    for (;;) {
      const { done, value } = await this.#source.next();
      if (done === true) return;
      this.#keep(value);
      yield value;
    }
  }

  /** Lets go of the source. */
  async end(): Promise<void> {
    this.#kept = [];
    await this.#source.return?.();
  }

  #keep(batch: readonly T[]): void {
    this.#rows += batch.length;
    if (this.isWhole) this.#kept.push(batch);
    else this.#kept = [];
  }
}
