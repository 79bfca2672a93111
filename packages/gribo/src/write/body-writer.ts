import type { ResolvedShape } from '../plan/resolved.js';
import { Misfit } from '../values/misfit.js';
import { type Sink, withSink } from './bytes/sink.js';
import { arrayLike } from './read-column.js';
import type { Facts } from './read-value.js';
import type { RowWriting } from './row-engine.js';
import { streamRows } from './stream-rows.js';

const COMMA = 44;
const OPEN = 91;
const CLOSE = 93;

/** The error that callers see for what an engine stumbled over, at a row and its place: `[3]` in a list. */
export type Explain = (error: unknown, row: unknown, where: string, facts: Facts) => unknown;

/** Writes the rows of a resolved body. What it returns is whole; where it cannot, it throws. */
export class BodyWriter {
  readonly #isList: boolean;
  /** What errors call the body. */
  readonly #name: string;
  readonly #shape: ResolvedShape | null;
  readonly #rows: RowWriting;
  readonly #explain: Explain;

  constructor(
    isList: boolean,
    name: string,
    rows: RowWriting,
    explain: Explain,
    shape: ResolvedShape | null = null,
  ) {
    this.#name = name;
    this.#isList = isList;
    this.#shape = shape;
    this.#rows = rows;
    this.#explain = explain;
  }

  /** Whether rows are written by code that was made for them. */
  get isGenerated(): boolean {
    return this.#rows.isGenerated;
  }

  object(data: unknown, facts: Facts): unknown {
    const rows = this.#rowsOf(data);
    if (rows === null) return this.#explained(data, facts, () => this.#rows.object(data, facts));
    const made: unknown[] = [];
    this.#each(rows, facts, (row) => made.push(this.#rows.object(row, facts)));
    return made;
  }

  json(data: unknown, facts: Facts): string {
    if (!this.isGenerated) return JSON.stringify(this.object(data, facts));
    return withSink((sink) => {
      this.#fill(sink, data, facts);
      return sink.string();
    });
  }

  bytes(data: unknown, facts: Facts): Uint8Array {
    return withSink((sink) => {
      this.#fill(sink, data, facts);
      return sink.bytes();
    });
  }

  stream(data: unknown, facts: Facts): ReadableStream<Uint8Array> {
    const isList = this.#isList;
    return streamRows(isList ? data : [data], isList ? '[' : '', isList ? ']' : '', {
      shape: this.#shape,
      as: 'json',
      end: '',
      between: isList ? COMMA : null,
      mayGenerate: this.isGenerated,
      append: (sink, row, index) => {
        try {
          this.#rows.append(sink, row, facts);
        } catch (error) {
          throw this.#explain(error, row, isList ? `[${index}]` : '', facts);
        }
      },
    });
  }

  /** The rows of a list; null where the body is one row. Iterated once, so that a generator will do. */
  #rowsOf(data: unknown): ArrayLike<unknown> | null {
    if (!this.#isList) return null;
    const rows = arrayLike(data);
    if (rows !== null) return rows;
    throw new Misfit('ROW_TYPE', 'an array of rows', data).toRowError(this.#name);
  }

  #fill(sink: Sink, data: unknown, facts: Facts): void {
    const rows = this.#rowsOf(data);
    if (rows === null) return this.#explained(data, facts, () => this.#rows.append(sink, data, facts));
    sink.byte(OPEN);
    this.#each(rows, facts, (row, index) => {
      if (index > 0) sink.byte(COMMA);
      this.#rows.append(sink, row, facts);
    });
    sink.byte(CLOSE);
  }

  #each(rows: ArrayLike<unknown>, facts: Facts, use: (row: unknown, index: number) => void): void {
    let index = 0;
    try {
      for (; index < rows.length; index++) use(rows[index], index);
    } catch (error) {
      throw this.#explain(error, rows[index], `[${index}]`, facts);
    }
  }

  #explained<T>(row: unknown, facts: Facts, use: () => T): T {
    try {
      return use();
    } catch (error) {
      throw this.#explain(error, row, '', facts);
    }
  }
}
