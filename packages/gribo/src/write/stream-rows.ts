import type { ResolvedShape } from '../plan/resolved.js';
import { Misfit } from '../values/misfit.js';
import { Sink } from './bytes/sink.js';
import { arrayLike } from './read-column.js';

/** A chunk is handed on once it has this many bytes. */
export const CHUNK: number = 1 << 16;

/** A source of rows, one at a time. */
interface Rows {
  readonly iterator: Iterator<unknown> | AsyncIterator<unknown>;
  readonly isAsync: boolean;
}

/** Appends one row; throws what callers are to see. */
type AppendRow = (sink: Sink, row: unknown, index: number) => void;

/** How rows are written, for those that know a way of their own. */
export interface RowForm {
  /** The plan; null where there is none any more. */
  readonly shape: ResolvedShape | null;
  readonly as: 'json' | 'cells' | 'guarded cells';
  /** What stands behind each row. */
  readonly end: string;
  readonly between: number | null;
  /** Whether code may be made for it. */
  readonly mayGenerate: boolean;
  /** Appends a row with its end. */
  readonly append: AppendRow;
}

/** Fills chunks with rows. */
export interface Filling {
  /** Appends rows until there are enough for a chunk; true where that was the last of them. */
  fill(sink: Sink): Promise<boolean>;
  /** Ends the source. */
  end(): Promise<void>;
}

/** Under this name, rows have a way of their own to be written, which makes the same bytes. */
export const direct: unique symbol = Symbol('direct');

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

/** Puts what stands between rows before a row that is not the first. */
export const separate = ({ between }: RowForm, sink: Sink, index: number): void => {
  if (between !== null && index > 0) sink.byte(between);
};

/** Rows, one at a time. */
export const fillingOf = (source: unknown, form: RowForm): Filling => {
  const { iterator, isAsync } = rowsOf(source);
  let index = 0;
  return {
    fill: async (sink) => {
      while (sink.position < CHUNK) {
        const step = iterator.next();
        // An array is not waited for: a wait for each of its rows would be the slower part.
        const { done, value } = isAsync ? await step : (step as IteratorResult<unknown>);
        if (done) return true;
        separate(form, sink, index);
        form.append(sink, value, index++);
      }
      return false;
    },
    end: async () => {
      await iterator.return?.();
    },
  };
};

/**
 * The rows of a source, chunk by chunk, as fast as they are read and no faster. What
 * goes wrong fails the stream before the document is closed; a reader that goes away ends the source.
 *
 * @param head what stands before all rows
 * @param tail what stands behind them
 */
export const streamRows = (
  source: unknown,
  head: string,
  tail: string,
  form: RowForm,
): ReadableStream<Uint8Array> => {
  const own = (source as { readonly [direct]?: (form: RowForm) => Filling } | null)?.[direct];
  const filling = own === undefined ? fillingOf(source, form) : own.call(source, form);
  const sink = new Sink();

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
        const done = await filling.fill(sink);
        if (done) sink.text(tail);
        give(controller);
        if (done) controller.close();
      } catch (error) {
        await filling.end();
        throw error;
      }
    },
    cancel: () => filling.end(),
  });
};
