import { instantiate } from '../../codegen/instantiate.js';
import { SourceWriter } from '../../codegen/source-writer.js';
import { allocate, codec } from '../bytes/platform.js';
import type { Sink } from '../bytes/sink.js';
import { copy } from '../generated/runtime.js';
import { CHUNK, type Filling, type RowForm } from '../stream-rows.js';
import * as copies from './copies.js';
import { isFew, type OpenRows } from './open-rows.js';
import { PackedCells, PackedJson } from './packed-program.js';
import { planPacked } from './plan-packed.js';
import { checkWhole, unpackLine } from './unpack.js';

/** Writes the row of a line, whose fields start at `starts` in the bytes; gives a position below zero where it cannot. */
type WriteLine = (sink: Sink, bytes: Uint8Array, starts: Int32Array, position: number) => number;

const TAB = 9;
const NEWLINE = 10;
const FIRST_SIZE = 1 << 17;

/** The program that writes lines; null where members take values, or no code is to be made. */
const programOf = (
  { layout, width }: OpenRows,
  { shape, as, end, mayGenerate }: RowForm,
): WriteLine | null => {
  const fields = shape !== null && mayGenerate ? planPacked(shape, layout) : null;
  if (fields === null) return null;
  const out = new SourceWriter();
  const program = as === 'json' ? new PackedJson(out) : new PackedCells(out, as === 'guarded cells');
  program.emit(fields, width, end);
  return instantiate(out.toString(), { copy, ...copies }, out.constants.values) as WriteLine | null;
};

/** Fills chunks with rows of packed lines: by a program where members are columns, and by way of rows for the others. */
export class PackedFilling implements Filling {
  readonly #open: () => Promise<OpenRows | readonly object[]>;
  readonly #form: RowForm;
  #rows: OpenRows | readonly object[] | null = null;
  #write: WriteLine | null = null;
  #bytes = allocate(FIRST_SIZE);
  /** What of the bytes is not used yet: from here to there. */
  #from = 0;
  #to = 0;
  #starts = new Int32Array(0);
  #index = 0;

  constructor(open: () => Promise<OpenRows | readonly object[]>, form: RowForm) {
    this.#open = open;
    this.#form = form;
  }

  async fill(sink: Sink): Promise<boolean> {
    const rows = this.#rows ?? (await this.#begin());
    if (isFew(rows)) {
      for (const row of rows) this.#appendRow(sink, row);
      return true;
    }
    while (sink.position < CHUNK) {
      const fields = this.#nextLine();
      if (fields > 0) {
        this.#append(sink, rows, fields === rows.width);
        continue;
      }
      const { done, value } = await rows.chunks.next();
      if (done === true) {
        checkWhole(this.#to - this.#from);
        return true;
      }
      this.#take(value);
    }
    return false;
  }

  async end(): Promise<void> {
    if (this.#rows !== null && !isFew(this.#rows)) await this.#rows.chunks.return?.();
  }

  async #begin(): Promise<OpenRows | readonly object[]> {
    const rows = await this.#open();
    this.#rows = rows;
    if (isFew(rows)) return rows;
    this.#write = programOf(rows, this.#form);
    this.#starts = new Int32Array(rows.width + 1);
    return rows;
  }

  /** Finds the fields of the next line. @returns how many; 0 where its end is not there yet */
  #nextLine(): number {
    const bytes = this.#bytes;
    const starts = this.#starts;
    const to = this.#to;
    let fields = 0;
    starts[0] = this.#from;
    for (let i = this.#from; i < to; i++) {
      const code = bytes[i] ?? 0;
      if (code > NEWLINE || code < TAB) continue;
      fields++;
      // One more than there should be is counted, and has no place.
      starts[fields] = i + 1;
      if (code === TAB) continue;
      this.#from = i + 1;
      return fields;
    }
    return 0;
  }

  #between(sink: Sink): void {
    const { between } = this.#form;
    if (between !== null && this.#index > 0) sink.byte(between);
  }

  #appendRow(sink: Sink, row: object): void {
    this.#between(sink);
    this.#form.append(sink, row, this.#index++);
  }

  #append(sink: Sink, rows: OpenRows, isWhole: boolean): void {
    this.#between(sink);
    const start = this.#starts[0] ?? 0;
    const index = this.#index++;
    if (this.#write !== null && isWhole) {
      const position = this.#write(sink, this.#bytes, this.#starts, sink.position);
      if (position >= 0) {
        sink.position = position;
        return;
      }
    }
    const line = codec.read(this.#bytes, this.#from - 1, start);
    this.#form.append(sink, rows.row(unpackLine(line)), index);
  }

  /** Takes a chunk behind what is left. */
  #take(chunk: Uint8Array): void {
    const left = this.#to - this.#from;
    const needed = left + chunk.length;
    if (needed > this.#bytes.length) {
      const larger = allocate(Math.max(needed, this.#bytes.length * 2));
      larger.set(this.#bytes.subarray(this.#from, this.#to));
      this.#bytes = larger;
    } else this.#bytes.copyWithin(0, this.#from, this.#to);
    this.#bytes.set(chunk, left);
    this.#from = 0;
    this.#to = needed;
  }
}
