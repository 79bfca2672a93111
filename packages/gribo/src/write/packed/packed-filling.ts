import { instantiate } from '../../codegen/instantiate.js';
import { SourceWriter } from '../../codegen/source-writer.js';
import type { Sink } from '../bytes/sink.js';
import { copy } from '../generated/runtime.js';
import { CHUNK, type Filling, fillingOf, type RowForm, separate } from '../stream-rows.js';
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

type Fill = Filling['fill'];

/** Fills chunks with lines by a program; a line that it does not take is made into a row. */
const fillByProgram = ({ chunks, width, row }: OpenRows, form: RowForm, write: WriteLine): Fill => {
  const lines = new LineBytes(width);
  let index = 0;
  const append = (sink: Sink, isWhole: boolean): void => {
    separate(form, sink, index);
    const position = isWhole ? write(sink, lines.bytes, lines.starts, sink.position) : -1;
    if (position >= 0) sink.position = position;
    else form.append(sink, row(unpackLine(lines.text())), index);
    index++;
  };
  return async (sink) => {
    while (sink.position < CHUNK) {
      const fields = lines.next();
      if (fields > 0) {
        append(sink, fields === width);
        continue;
      }
      const { done, value } = await chunks.next();
      if (done === true) {
        checkWhole(lines.left);
        return true;
      }
      lines.take(value);
    }
    return false;
  };
};

/** Fills chunks with rows that are made of lines: many are there at once, and are not waited for one by one. */
const fillByRows = ({ chunks, row }: OpenRows, form: RowForm): Fill => {
  const texts = lineTexts(chunks);
  let lines: readonly string[] = [];
  let next = 0;
  let index = 0;
  return async (sink) => {
    while (sink.position < CHUNK) {
      const line = lines[next++];
      if (line !== undefined) {
        separate(form, sink, index);
        form.append(sink, row(unpackLine(line)), index++);
        continue;
      }
      const { done, value } = await texts.next();
      if (done === true) return true;
      lines = value;
      next = 0;
    }
    return false;
  };
};

const fillingFor = (rows: OpenRows | AnyRows, form: RowForm): Filling => {
  if (!isLines(rows)) return fillingOf(rows, form);
  const write = programOf(rows, form);
  return {
    fill: write === null ? fillByRows(rows, form) : fillByProgram(rows, form, write),
    end: async () => {
      await rows.chunks.return?.();
    },
  };
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
