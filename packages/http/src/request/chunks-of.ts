import type { Asked } from '../message/asked.js';
import { Problem } from '../problems/problem.js';
import { inTime } from '../settings/time-limit.js';

/** How much of a body is taken, and how long is waited for it. */
export interface Receiving {
  /** The most bytes. */
  readonly most: number;
  /** Milliseconds within which the body must be there, or each part of it. */
  readonly receiving: number;
  /** The bytes of such a part; null: there is one, the whole. */
  readonly each: number | null;
}

const tooLarge = (limit: number): Problem =>
  new Problem(413, { detail: `A body may have at most ${limit} bytes.`, headers: { connection: 'close' } });

const tooLate = (): Problem =>
  new Problem(408, { detail: 'The body took too long to arrive.', headers: { connection: 'close' } });

/**
 * The bytes of a body as they come, no more of them than the limit and no later.
 *
 * @throws {Problem} 400 where it ends early, 408, 413
 */
export async function* chunksOf(
  asked: Asked,
  { most, receiving, each }: Receiving,
): AsyncGenerator<Uint8Array> {
  if (Number(asked.header('content-length') ?? 0) > most) throw tooLarge(most);
  const source = asked.source();
  if (source === null) return;
  let size = 0;
  const start = performance.now();
  let isWhole = false;
  try {
    for (;;) {
      // A list may take its time as long as it comes: so much of it each time.
      const parts = each === null ? 1 : 1 + Math.floor(size / each);
      const left = start + receiving * parts - performance.now();
      const next = source.read();
      const part = next instanceof Promise ? await inTime(next, Math.max(0, left), tooLate) : next;
      if (part.done) break;
      size += part.value.length;
      if (size > most) throw tooLarge(most);
      yield part.value;
    }
    isWhole = true;
  } catch (error) {
    if (error instanceof Problem) throw error;
    throw new Problem(400, { detail: 'The body ended before it was whole.', cause: error });
  } finally {
    // The rest is not wanted.
    if (!isWhole) source.cancel();
  }
}
