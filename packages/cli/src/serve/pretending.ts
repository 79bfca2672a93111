import { setTimeout as wait } from 'node:timers/promises';
import type { Pretence } from './pretence.js';

/** Milliseconds in which what comes before a cut is sent. */
const CUT_AFTER = 50;

/** The body cut off after so many bytes: whoever reads it sees the connection end. */
const cutAfter = (bytes: number): TransformStream<Uint8Array<ArrayBuffer>, Uint8Array<ArrayBuffer>> => {
  let left = bytes;
  return new TransformStream({
    transform: async (chunk, controller) => {
      if (chunk.length <= left) {
        left -= chunk.length;
        controller.enqueue(chunk);
        return;
      }
      if (left > 0) controller.enqueue(chunk.subarray(0, left));
      // What is sent before has to be on its way: the caller sees an answer that begins.
      await wait(CUT_AFTER);
      controller.error(new Error('It was pretended that the connection ends here.'));
    },
  });
};

/** How often a second a paced body is sent on. */
const BEATS = 10;

/** The body at so many bytes in a second. */
const pacedBy = (pace: number): TransformStream<Uint8Array<ArrayBuffer>, Uint8Array<ArrayBuffer>> => {
  const size = Math.max(1, Math.floor(pace / BEATS));
  return new TransformStream({
    transform: async (chunk, controller) => {
      for (let at = 0; at < chunk.length; at += size) {
        controller.enqueue(chunk.subarray(at, at + size));
        await wait((1000 * Math.min(size, chunk.length - at)) / pace);
      }
    },
  });
};

const bodyOf = ({ body }: Response, { cut, pace }: Pretence): ReadableStream | null => {
  const paced = pace === null ? body : (body?.pipeThrough(pacedBy(pace)) ?? null);
  return cut === null ? paced : (paced?.pipeThrough(cutAfter(cut)) ?? null);
};

/** Lets a request be answered late, slowly, or not to its end. */
export const pretending = async (
  pretence: Pretence,
  answer: () => Promise<Response>,
  signal: AbortSignal,
): Promise<Response> => {
  // Whoever does not wait any longer is not kept in mind.
  if (pretence.wait > 0) await wait(pretence.wait, undefined, { signal }).catch(() => undefined);
  const response = await answer();
  if (pretence.cut === null && pretence.pace === null) return response;
  const { status, headers } = response;
  return new Response(bodyOf(response, pretence), { status, headers });
};
