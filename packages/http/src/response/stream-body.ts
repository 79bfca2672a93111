import { setImmediate } from 'node:timers/promises';
import { GriboError } from 'gribo';
import type { RowsWatch } from './watched.js';

/** Text is gathered into chunks of so many characters: fewer, larger writes. */
const CHUNK = 1 << 16;

/** The bytes of pieces of text or bytes, as fast as they are read and no faster; ended early, it ends the source. */
export const streamOf = (source: AsyncIterable<string | Uint8Array>): ReadableStream<Uint8Array> => {
  const iterator = source[Symbol.asyncIterator]();
  const encoder = new TextEncoder();
  const gathered = async (): Promise<{ readonly bytes: Uint8Array; readonly done: boolean }> => {
    const parts: Uint8Array[] = [];
    let size = 0;
    while (size < CHUNK) {
      const { done, value } = await iterator.next();
      if (done === true) return { bytes: Buffer.concat(parts, size), done: true };
      const bytes = typeof value === 'string' ? encoder.encode(value) : value;
      parts.push(bytes);
      size += bytes.length;
    }
    return { bytes: Buffer.concat(parts, size), done: false };
  };
  return new ReadableStream<Uint8Array>(
    {
      pull: async (controller) => {
        const { bytes, done } = await gathered();
        if (bytes.length > 0) controller.enqueue(bytes);
        if (done) controller.close();
      },
      cancel: async () => {
        await iterator.return?.();
      },
    },
    { highWaterMark: 0 },
  );
};

/** What watches over a stream. */
export interface Watch {
  /** The rows that it is made of. */
  readonly rows: RowsWatch;
  /** Milliseconds that the reader may take between two chunks. */
  readonly sending: number;
  /** Is told of a failure midway, before that breaks the connection. */
  failed(error: unknown): void;
  /** Is told when nothing more comes, for whatever reason. */
  ended(): void;
}

/** Whoever hosts this may show what it is told; the log has the cause already. */
const endedEarly = (): GriboError => new GriboError('ENDED', 'response', 'the list ended early');

/** The same stream, watched over: a reader that goes away or stands still lets go of its rows. */
export const watched = (
  stream: ReadableStream<Uint8Array>,
  { rows, sending, failed, ended }: Watch,
): ReadableStream<Uint8Array> => {
  const reader = stream.getReader();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let isLeft = false;
  const leave = async (reason: unknown): Promise<void> => {
    isLeft = true;
    clearTimeout(timer);
    rows.end();
    ended();
    await reader.cancel(reason);
  };
  return new ReadableStream<Uint8Array>(
    {
      pull: async (controller) => {
        clearTimeout(timer);
        try {
          // Rows that are there already would be written without a pause, and everybody else would wait.
          await setImmediate();
          const { done, value } = await rows.inTime(reader.read());
          if (isLeft) return;
          if (done) {
            ended();
            return controller.close();
          }
          controller.enqueue(value);
        } catch (error) {
          // What breaks because its reader went away is no failure.
          if (isLeft) return;
          failed(error);
          ended();
          throw endedEarly();
        }
        timer = setTimeout(() => {
          const stalled = endedEarly();
          controller.error(stalled);
          // What the source says to its end is of no use any more.
          leave(stalled).catch(() => undefined);
        }, sending).unref();
      },
      cancel: leave,
    },
    { highWaterMark: 0 },
  );
};
