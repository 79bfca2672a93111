import { Misfit } from '../values/misfit.js';
import { Sink } from './bytes/sink.js';
import { arrayLike } from './read-column.js';

/** A chunk is handed on once it has this many bytes. */
const CHUNK = 1 << 16;

/** A source of rows, one at a time. */
interface Rows {
  readonly iterator: Iterator<unknown> | AsyncIterator<unknown>;
  readonly isAsync: boolean;
}

/** What stands around rows, and between them; null: nothing. */
export interface Frame {
  readonly head: string;
  readonly between: number | null;
  readonly tail: string;
}

/** Appends one row; throws what callers are to see. */
type AppendRow = (sink: Sink, row: unknown, index: number) => void;

const rowsOf = (source: unknown): Rows => {
  if (typeof source === 'object' && source !== null) {
    if (Symbol.asyncIterator in source) {
      return { iterator: (source as AsyncIterable<unknown>)[Symbol.asyncIterator](), isAsync: true };
    }
    const rows = Symbol.iterator in source ? (source as Iterable<unknown>) : arrayLike(source);
    if (rows !== null) {
      const iterable = Symbol.iterator in rows ? (rows as Iterable<unknown>) : Array.from(rows);
      return { iterator: iterable[Symbol.iterator](), isAsync: false };
    }
  }
  throw new Misfit('ROW_TYPE', 'an iterable or async iterable of rows', source).toRowError('stream');
};

/**
 * The rows of a source, chunk by chunk, as fast as they are read and no faster. What
 * goes wrong fails the stream before the document is closed; a reader that goes away ends the source.
 */
export const streamRows = (
  source: unknown,
  { head, between, tail }: Frame,
  append: AppendRow,
): ReadableStream<Uint8Array> => {
  const { iterator, isAsync } = rowsOf(source);
  const sink = new Sink();
  let index = 0;

  /** Fills one chunk; true where that was the last row. */
  const fill = async (): Promise<boolean> => {
    while (sink.position < CHUNK) {
      const step = iterator.next();
      // An array is not waited for: a wait for each of its rows would be the slower part.
      const { done, value } = isAsync ? await step : (step as IteratorResult<unknown>);
      if (done) return true;
      if (between !== null && index > 0) sink.byte(between);
      append(sink, value, index++);
    }
    return false;
  };

  const give = (controller: ReadableStreamDefaultController<Uint8Array>): void => {
    if (sink.position > 0) controller.enqueue(sink.bytes());
    sink.position = 0;
  };

  return new ReadableStream<Uint8Array>({
    start: () => {
      sink.text(head);
    },
    pull: async (controller) => {
      try {
        const done = await fill();
        if (done) sink.text(tail);
        give(controller);
        if (done) controller.close();
      } catch (error) {
        await iterator.return?.();
        throw error;
      }
    },
    cancel: async () => {
      await iterator.return?.();
    },
  });
};
