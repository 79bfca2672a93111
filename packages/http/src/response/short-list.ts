import { isLines, isPacked, type PackedRows, packedRows } from 'gribo/kit';
import { inTime, tooSlow } from '../settings/time-limit.js';
import { type RowsWatch, readyRows, Watched } from './watched.js';

/** A list of so many rows at most is sent as a whole, with its length and an entity tag. */
const WHOLE = 500;

const NEWLINE = 10;

/** The rows of a list: all of them where there are few, or a source that starts with the first of them. */
export type ShortOrLong =
  | { readonly kind: 'whole'; readonly rows: readonly object[] }
  | {
      readonly kind: 'source';
      readonly rows: Iterable<object> | AsyncIterable<object>;
      readonly watch: RowsWatch;
    };

/** So many lines end in a chunk. */
const linesIn = (chunk: Uint8Array | string): number => {
  if (typeof chunk === 'string') return chunk.split('\n').length - 1;
  let lines = 0;
  for (let at = chunk.indexOf(NEWLINE); at !== -1; at = chunk.indexOf(NEWLINE, at + 1)) lines++;
  return lines;
};

const ready = (rows: readonly object[]): ShortOrLong =>
  rows.length <= WHOLE ? { kind: 'whole', rows } : { kind: 'source', rows, watch: readyRows(rows) };

/** Rows that come as lines are not made to be counted. */
const packedList = async (packed: PackedRows, milliseconds: number): Promise<ShortOrLong> => {
  const opened = await inTime(packed.open(), milliseconds, () => tooSlow(milliseconds));
  if (!isLines(opened)) return shortList(opened, milliseconds);
  const watch = new Watched(opened.chunks, milliseconds, false);
  const { rows: many } = await watch.inTime(watch.take(WHOLE + 1, linesIn));
  const rows = packedRows(async () => ({ ...opened, chunks: watch }));
  if (many > WHOLE) return { kind: 'source', rows, watch };
  const made: object[] = [];
  for await (const row of rows) made.push(row);
  return { kind: 'whole', rows: made };
};

/**
 * Looks whether a list is short, so that its first failure is a problem and not a broken
 * connection.
 *
 * @param milliseconds how long each row is waited for
 */
export const shortList = async (
  rows: Iterable<object> | AsyncIterable<object>,
  milliseconds: number,
): Promise<ShortOrLong> => {
  if (isPacked(rows)) return packedList(rows, milliseconds);
  if (Array.isArray(rows)) return ready(rows);
  if (!(Symbol.asyncIterator in rows)) return { kind: 'source', rows, watch: readyRows(rows) };
  const watch = new Watched(rows[Symbol.asyncIterator](), milliseconds, true);
  const { rows: many, taken } = await watch.inTime(watch.take(WHOLE + 1, () => 1));
  return many <= WHOLE ? { kind: 'whole', rows: taken } : { kind: 'source', rows: watch, watch };
};
