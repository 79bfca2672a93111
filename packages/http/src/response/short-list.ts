import { type RowsWatch, readyRows, WatchedRows } from './watched-rows.js';

/** A list of so many rows at most is sent as a whole, with its length and an entity tag. */
const WHOLE = 500;

/** The rows of a list: all of them where there are few, or a source that starts with the first of them. */
export type ShortOrLong =
  | { readonly kind: 'whole'; readonly rows: readonly object[] }
  | {
      readonly kind: 'source';
      readonly rows: Iterable<object> | AsyncIterable<object>;
      readonly watch: RowsWatch;
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
  if (Array.isArray(rows) && rows.length <= WHOLE) return { kind: 'whole', rows };
  if (!(Symbol.asyncIterator in rows)) return { kind: 'source', rows, watch: readyRows(rows) };
  const watched = new WatchedRows(rows, milliseconds);
  const first = await watched.inTime(watched.take(WHOLE + 1));
  if (first.length <= WHOLE) return { kind: 'whole', rows: first };
  return { kind: 'source', rows: watched, watch: watched };
};
