/** So many rows are kept. */
const MOST = 2000;

/** Batches that come from the start again, as long as there were not too many rows in them to be kept. */
export class Repeatable<T> implements AsyncIterable<readonly T[]> {
  readonly #source: AsyncIterator<readonly T[]>;
  #kept: (readonly T[])[] = [];
  #rows = 0;

  constructor(batches: AsyncIterable<readonly T[]>) {
    this.#source = batches[Symbol.asyncIterator]();
  }

  /** Whether all that has come is kept. */
  get isWhole(): boolean {
    return this.#rows <= MOST;
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
