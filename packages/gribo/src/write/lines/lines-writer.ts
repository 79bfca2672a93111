import type { ResolvedShape } from '../../plan/resolved.js';
import { Misfit } from '../../values/misfit.js';
import { type Sink, withSink } from '../bytes/sink.js';
import { explain } from '../explain.js';
import { arrayLike } from '../read-column.js';
import type { Facts } from '../read-value.js';
import { streamRows } from '../stream-rows.js';
import type { RowLines } from './row-lines.js';

/** Writes the rows of a shape, each as a line. What it returns is whole; where it cannot, it throws. */
export class LinesWriter {
  readonly #shape: ResolvedShape;
  readonly #lines: RowLines;

  constructor(shape: ResolvedShape, lines: RowLines) {
    this.#shape = shape;
    this.#lines = lines;
  }

  get isGenerated(): boolean {
    return this.#lines.isGenerated;
  }

  bytes(data: unknown, facts: Facts): Uint8Array {
    const rows = arrayLike(data);
    if (rows === null) throw new Misfit('ROW_TYPE', 'an array of rows', data).toRowError(this.#shape.name);
    return withSink((sink) => {
      sink.text(this.#lines.head);
      for (let index = 0; index < rows.length; index++) this.#append(sink, rows[index], index, facts);
      return sink.bytes();
    });
  }

  stream(rows: unknown, facts: Facts): ReadableStream<Uint8Array> {
    const { head, as, end } = this.#lines;
    return streamRows(rows, head, '', {
      shape: this.#shape,
      as,
      end,
      between: null,
      mayGenerate: this.isGenerated,
      append: (sink, row, index) => this.#append(sink, row, index, facts),
    });
  }

  #append(sink: Sink, row: unknown, index: number, facts: Facts): void {
    try {
      this.#lines.append(sink, row, facts);
    } catch (error) {
      throw explain(error, this.#shape, row, `[${index}]`, facts);
    }
  }
}
