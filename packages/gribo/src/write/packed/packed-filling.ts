import { instantiate } from '../../codegen/instantiate.js';
import { SourceWriter } from '../../codegen/source-writer.js';
import type { Sink } from '../bytes/sink.js';
import { copy } from '../generated/runtime.js';
import { CHUNK, type Filling, fillingOf, type RowForm } from '../stream-rows.js';
import * as moments from './copy-moments.js';
import * as numbers from './copy-numbers.js';
import * as texts from './copy-texts.js';
import { LineBytes } from './line-bytes.js';
import { type AnyRows, isLines, type OpenRows } from './open-rows.js';
import { PackedCells, PackedJson } from './packed-program.js';
import { planPacked } from './plan-packed.js';
import { checkWhole, lineTexts, unpackLine } from './unpack.js';

/** Writes the row of a line, whose fields start at `starts` in the bytes; gives a position below zero where it cannot. */
type WriteLine = (sink: Sink, bytes: Uint8Array, starts: Int32Array, position: number) => number;

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
  const helpers = { copy, ...texts, ...numbers, ...moments };
  return instantiate(out.toString(), helpers, out.constants.values) as WriteLine | null;
};

/** Fills chunks with lines by a program; a line that it does not take is made into a row. */
class ProgramFilling implements Filling {
  readonly #rows: OpenRows;
  readonly #form: RowForm;
  readonly #write: WriteLine;
  readonly #lines: LineBytes;
  #index = 0;

  constructor(rows: OpenRows, form: RowForm, write: WriteLine) {
    this.#rows = rows;
    this.#form = form;
    this.#write = write;
    this.#lines = new LineBytes(rows.width);
  }

  async fill(sink: Sink): Promise<boolean> {
    const { chunks, width } = this.#rows;
    while (sink.position < CHUNK) {
      const fields = this.#lines.next();
      if (fields > 0) {
        this.#append(sink, fields === width);
        continue;
      }
      const { done, value } = await chunks.next();
      if (done === true) {
        checkWhole(this.#lines.left);
        return true;
      }
      this.#lines.take(value);
    }
    return false;
  }

  async end(): Promise<void> {
    await this.#rows.chunks.return?.();
  }

  #append(sink: Sink, isWhole: boolean): void {
    const { between, append } = this.#form;
    const index = this.#index++;
    if (between !== null && index > 0) sink.byte(between);
    const { bytes, starts } = this.#lines;
    const position = isWhole ? this.#write(sink, bytes, starts, sink.position) : -1;
    if (position >= 0) sink.position = position;
    else append(sink, this.#rows.row(unpackLine(this.#lines.text())), index);
  }
}

/** Fills chunks with rows that are made of lines. */
class MadeFilling implements Filling {
  readonly #rows: OpenRows;
  readonly #form: RowForm;
  readonly #texts: AsyncGenerator<readonly string[]>;
  #lines: readonly string[] = [];
  #next = 0;
  #index = 0;

  constructor(rows: OpenRows, form: RowForm) {
    this.#rows = rows;
    this.#form = form;
    this.#texts = lineTexts(rows.chunks);
  }

  async fill(sink: Sink): Promise<boolean> {
    const { between, append } = this.#form;
    while (sink.position < CHUNK) {
      const line = this.#lines[this.#next++];
      if (line === undefined) {
        const { done, value } = await this.#texts.next();
        if (done === true) return true;
        this.#lines = value;
        this.#next = 0;
        continue;
      }
      const index = this.#index++;
      if (between !== null && index > 0) sink.byte(between);
      append(sink, this.#rows.row(unpackLine(line)), index);
    }
    return false;
  }

  async end(): Promise<void> {
    await this.#rows.chunks.return?.();
  }
}

const fillingFor = (rows: OpenRows | AnyRows, form: RowForm): Filling => {
  if (!isLines(rows)) return fillingOf(rows, form);
  const write = programOf(rows, form);
  return write === null ? new MadeFilling(rows, form) : new ProgramFilling(rows, form, write);
};

/** Fills chunks with packed rows, once they were asked for. */
export const packedFilling = (open: () => Promise<OpenRows | AnyRows>, form: RowForm): Filling => {
  let filling: Filling | null = null;
  return {
    fill: async (sink) => {
      filling ??= fillingFor(await open(), form);
      return filling.fill(sink);
    },
    end: async () => {
      await filling?.end();
    },
  };
};
