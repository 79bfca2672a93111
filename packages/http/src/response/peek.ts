import { inTime, tooSlow } from '../time-limit.js';

/** A list of so many rows at most is sent as a whole, with its length and an entity tag. */
const WHOLE = 500;

/** The rows of a list: all of them where there are few, or a source that starts with the first of them. */
export type Peeked =
  | { readonly kind: 'whole'; readonly rows: readonly object[] }
  | { readonly kind: 'source'; readonly rows: Iterable<object> | AsyncIterable<object> };

/** Ends a source. One that is stuck is not waited for, and what it says to that is of no use any more. */
const letGo = (source: AsyncIterator<object>): void => {
  Promise.resolve(source.return?.()).catch(() => undefined);
};

/** The first rows, then the rest of their source. It can be ended before it was begun. */
const chained = (
  first: readonly object[],
  rest: AsyncIterator<object>,
  milliseconds: number,
): AsyncIterable<object> => {
  let index = 0;
  const next = async (): Promise<IteratorResult<object>> => {
    const value = first[index++];
    if (value !== undefined) return { done: false, value };
    try {
      return await inTime(rest.next(), milliseconds, () => tooSlow(milliseconds));
    } catch (error) {
      letGo(rest);
      throw error;
    }
  };
  const end = async (): Promise<IteratorResult<object>> => {
    letGo(rest);
    return { done: true, value: undefined };
  };
  return { [Symbol.asyncIterator]: () => ({ next, return: end }) };
};

/**
 * Looks whether a list is short, so that its first failure is a problem and not a broken
 * connection.
 *
 * @param milliseconds how long each row is waited for
 */
export const peek = async (
  rows: Iterable<object> | AsyncIterable<object>,
  milliseconds: number,
): Promise<Peeked> => {
  if (Array.isArray(rows) && rows.length <= WHOLE) return { kind: 'whole', rows };
  if (!(Symbol.asyncIterator in rows)) return { kind: 'source', rows };
  const iterator = rows[Symbol.asyncIterator]();
  const first: object[] = [];
  try {
    while (first.length <= WHOLE) {
      const { done, value } = await inTime(iterator.next(), milliseconds, () => tooSlow(milliseconds));
      if (done === true) return { kind: 'whole', rows: first };
      first.push(value);
    }
  } catch (error) {
    letGo(iterator);
    throw error;
  }
  return { kind: 'source', rows: chained(first, iterator, milliseconds) };
};
