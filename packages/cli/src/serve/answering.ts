import type { FetchHandler } from '@gribo/http';
import { type Pretence, pretenceOf } from './pretence.js';
import { pretending } from './pretending.js';
import { Recording } from './recording.js';
import { Replay } from './replay.js';

export interface AnsweringOptions {
  /** What is pretended to every request that says nothing of it itself. */
  readonly pretend?: Pretence;
  /** The file that requests and answers are written to. */
  readonly record?: string;
  /** A file of such: what is in it is answered again. */
  readonly replay?: string;
}

/** What is pretended to a request; a header that is wrong is told by the API, once it is asked. */
const pretenceFor = (request: Request, otherwise: Pretence | null): Pretence | null => {
  try {
    return pretenceOf(request, otherwise);
  } catch {
    return null;
  }
};

/** What is known of an API whose answers are written down. */
export interface Answered {
  readonly version: string;
  /** Headers that decide what it answers, besides those that decide for any. */
  readonly deciding: readonly string[];
  /** The clock of the API. */
  readonly now: () => Date;
}

/**
 * An API's answers, as they are wished for: late, slow, failing, written down, or those that were written down.
 *
 * @throws {Mistake} where there is no file to answer from
 */
export const answering = (
  options: AnsweringOptions,
  { version, deciding, now }: Answered,
  api: FetchHandler,
): FetchHandler => {
  const { pretend = null, record, replay } = options;
  const recording = record === undefined ? null : new Recording(record, version, now);
  const known = replay === undefined ? null : Replay.of(replay, deciding);
  const fresh = async (request: Request): Promise<Response> => {
    const again = await known?.answer(request);
    if (again != null) return again;
    return recording === null ? api(request) : recording.answered(request, api);
  };
  return async (request) => {
    const pretence = pretenceFor(request, pretend);
    if (pretence === null) return fresh(request);
    // A problem that is only pretended is neither written down nor answered from a file.
    const answer = pretence.status === null ? fresh : api;
    return pretending(pretence, async () => answer(request), request.signal);
  };
};
