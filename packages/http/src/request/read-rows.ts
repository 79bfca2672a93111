import type { Issue } from 'gribo';
import { bareIssue, type InputPlan, MOST_ISSUES, spoken } from 'gribo/kit';
import { MalformedBody } from '../formats/format.js';
import type { Asked } from '../message/asked.js';
import { Problem } from '../problems/problem.js';
import type { Settings } from '../settings/settings.js';
import { chunksOf } from './chunks-of.js';
import { issueOf, readerFor, refused, sentFormat } from './read-body.js';

/** Rows are stored so many at a time. */
const BATCH = 1000;

/** The rows of a list that is taken, read while it arrives. They are there once. */
export interface TakenRows extends AsyncIterable<readonly object[]> {
  /** The line of a row by its place, from 0, as long as it is one of the last; undefined where it has none. */
  lineOf(row: number): number | undefined;
  /** Lets go of what was not read of them. */
  end(): void;
}

/** Reads a list batch by batch; once something is wrong with it, only what else is wrong. */
class RowReading implements TakenRows {
  readonly #asked: Asked;
  readonly #plan: InputPlan;
  readonly #settings: Settings;
  readonly #issues: Issue[] = [];
  /** The lines of the rows that were handed out last, and the place of the first of them. */
  #lines: readonly (number | undefined)[] = [];
  #first = 0;

  readonly #batches: AsyncGenerator<readonly object[]>;
  #begun: IteratorResult<readonly object[]> | null = null;

  constructor(asked: Asked, plan: InputPlan, settings: Settings) {
    this.#asked = asked;
    this.#plan = plan;
    this.#settings = settings;
    this.#batches = this.#read();
  }

  /** Reads the first of them: what is wrong with a short list is found before anything is done. */
  async begin(): Promise<this> {
    this.#begun = await this.#batches.next();
    return this;
  }

  lineOf(row: number): number | undefined {
    return this.#lines[row - this.#first];
  }

  end(): void {
    // Whether that succeeds makes no difference to anybody.
    this.#batches.return(undefined).catch(() => undefined);
  }

  async *[Symbol.asyncIterator](): AsyncGenerator<readonly object[]> {
    const first = this.#begun;
    this.#begun = null;
    if (first?.done === true) return;
    if (first !== null) yield first.value;
    yield* this.#batches;
  }

  async *#read(): AsyncGenerator<readonly object[]> {
    let batch: object[] = [];
    let lines: (number | undefined)[] = [];
    let row = 0;
    const handOut = (): readonly object[] => {
      this.#lines = lines;
      this.#first = row - batch.length;
      const full = batch;
      batch = [];
      lines = [];
      return full;
    };
    for await (const { result, line } of this.#rows()) {
      if (!result.ok) this.#tell(result.issues, row, line);
      if (this.#issues.length > MOST_ISSUES) break;
      row++;
      if (!result.ok || this.#issues.length > 0) continue;
      batch.push(result.value);
      lines.push(line);
      if (batch.length === BATCH) yield handOut();
    }
    if (this.#issues.length > 0) throw refused(this.#issues);
    if (batch.length > 0) yield handOut();
  }

  async *#rows() {
    const { formats, limits, say } = this.#settings;
    const format = sentFormat(this.#asked, formats, true);
    const reader = readerFor(this.#plan, format, this.#settings);
    const { body, list, receiving } = limits;
    const most = format.readsLines === true ? list : body;
    const chunks = chunksOf(this.#asked, {
      most,
      receiving,
      each: format.readsLines === true ? body : null,
    });
    try {
      yield* format.readRows?.(chunks, reader) ?? [];
    } catch (error) {
      if (!(error instanceof MalformedBody)) throw error;
      const issue = spoken(issueOf(error, reader.limits), say);
      const { line } = error.reason;
      // What was wrong before it is told too.
      throw refused([...this.#issues, line === undefined ? issue : { ...issue, line }]);
    }
  }

  /** Keeps what is wrong with a row, by its place in the list, and by its line where it has one. */
  #tell(issues: readonly Issue[], row: number, line: number | undefined): void {
    for (const issue of issues) {
      if (this.#issues.length === MOST_ISSUES) {
        const more = bareIssue('', 'limit', { limits: { issues: MOST_ISSUES } });
        this.#issues.push(spoken(more, this.#settings.say));
        return;
      }
      const pointer = `/${row}${issue.pointer}`;
      this.#issues.push({ ...issue, pointer, ...(line === undefined ? {} : { line }) });
    }
  }
}

/**
 * The rows that a request brings, by an endpoint's input: read while they arrive, in batches. The first of them are read
 * already.
 *
 * @throws {Problem} 400, 408, 413, 415 or 422, also while they are read, with everything that is wrong, by rows and lines
 */
export const readRows = (asked: Asked, takes: InputPlan, settings: Settings): Promise<TakenRows> =>
  new RowReading(asked, takes, settings).begin();

/**
 * All rows that a request brings.
 *
 * @throws {Problem} 413 where there are more than `limits.rows`
 */
export const allRows = async (rows: TakenRows, { limits }: Settings): Promise<readonly object[]> => {
  const all: object[] = [];
  for await (const batch of rows) {
    all.push(...batch);
    if (all.length > limits.rows)
      throw new Problem(413, { detail: `A list may have at most ${limits.rows} rows here.` });
  }
  return all;
};

/** Whether many rows are taken, and not one change. */
export const isRows = (taken: object | null): taken is TakenRows =>
  taken !== null && Symbol.asyncIterator in taken;

/** Rows from anywhere, in batches. */
export const inBatches = (source: Iterable<object> | AsyncIterable<object>): TakenRows => ({
  lineOf: () => undefined,
  end: () => undefined,
  async *[Symbol.asyncIterator]() {
    let batch: object[] = [];
    for await (const row of source) {
      if (batch.push(row) < BATCH) continue;
      yield batch;
      batch = [];
    }
    if (batch.length > 0) yield batch;
  },
});

/** The rows one by one. */
export async function* oneByOne(rows: TakenRows): AsyncGenerator<object> {
  for await (const batch of rows) yield* batch;
}
