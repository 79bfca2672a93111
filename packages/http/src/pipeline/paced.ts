import { fileOfStream, type TakenFile, type TakenFiles } from '../request/read-files.js';
import type { TakenRows } from '../request/read-rows.js';
import type { TimeLimit } from '../settings/time-limit.js';

/** What comes while it is worked on: it is waited for on its caller's time, and not on that of the store or the handler. */
export class Paced {
  readonly #limit: TimeLimit;
  #taken = 0;

  constructor(limit: TimeLimit) {
    this.#limit = limit;
  }

  /** How often something was taken of what comes once. */
  get taken(): number {
    return this.#taken;
  }

  rows(rows: TakenRows): TakenRows {
    return {
      lineOf: (row) => rows.lineOf(row),
      end: () => rows.end(),
      [Symbol.asyncIterator]: () => this.#parts(rows),
    };
  }

  files(files: TakenFiles): TakenFiles {
    const paced = (file: TakenFile): TakenFile => fileOfStream(file, () => this.#parts(file.stream()));
    return Object.fromEntries(
      Object.entries(files).map(([name, file]) => [name, file === null ? null : paced(file)]),
    );
  }

  async *#parts<T>(parts: AsyncIterable<T>): AsyncGenerator<T> {
    const limit = this.#limit;
    this.#taken += 1;
    limit.stop();
    for await (const part of parts) {
      this.#taken += 1;
      limit.start();
      yield part;
      limit.stop();
    }
    limit.start();
  }
}
