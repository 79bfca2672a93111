import { direct, type Filling, type RowForm } from '../stream-rows.js';
import { type AnyRows, isLines, type OpenRows } from './open-rows.js';
import { packedFilling } from './packed-filling.js';
import { lineTexts, unpackLine } from './unpack.js';

/**
 * Rows as a database sends them, each a line of text in UTF-8: fields between tabs, `\N` for null, and `\\ \b \f \n \r \t \v` for
 * characters that stand for something. Whoever iterates over them has rows; a stream of a writer makes its bytes of theirs
 * where members are columns, and makes rows for what takes values.
 */
export interface PackedRows extends AsyncIterable<object> {
  /** Asks for the rows, which may be made already. */
  open(): Promise<OpenRows | AnyRows>;
  readonly [direct]: (form: RowForm) => Filling;
}

async function* rowsOf(open: PackedRows['open']): AsyncGenerator<object> {
  const opened = await open();
  if (!isLines(opened)) return yield* opened;
  const { row, chunks } = opened;
  try {
    for await (const lines of lineTexts(chunks)) {
      for (const line of lines) yield row(unpackLine(line));
    }
  } finally {
    await chunks.return?.();
  }
}

/**
 * Rows that come packed.
 *
 * @param open asks for them; called once
 * @returns rows for `stream` of a writer, or to be iterated over
 * @example
 * isPacked(packedRows(async () => [])) // => true
 */
export const packedRows = (open: PackedRows['open']): PackedRows => ({
  open,
  [Symbol.asyncIterator]: () => rowsOf(open),
  [direct]: (form) => packedFilling(open, form),
});

/**
 * Whether rows come packed.
 *
 * @example
 * isPacked([{ id: 1 }]) // => false
 */
export const isPacked = (rows: object): rows is PackedRows => direct in rows;
