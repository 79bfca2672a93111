import type { GriboError, SayIssue } from 'gribo';
import type { EndpointPlan } from 'gribo/kit';
import type { Answer } from '../message/answer.js';
import type { Asked } from '../message/asked.js';
import type { Identity } from '../message/identity.js';
import { asProblem } from './as-problem.js';
import { loggable } from './loggable.js';
import { ownProblem } from './own-problem.js';
import { Problem } from './problem.js';
import { problemResponse } from './problem-response.js';

/** A logger, such as pino's: what it is about, then a sentence. */
export interface Log {
  error(about: object, message: string): void;
}

/** Where failures go, and the words of issues. */
export interface Telling {
  readonly log: Log;
  readonly say: SayIssue;
  readonly failures: 'hide' | 'tell';
}

/** What is known of a request that cannot be answered as it is wanted. */
export interface Refused {
  readonly method: string;
  /** The header `Accept`, without what it says of an edition. */
  readonly accept: string | null;
  /** Who asks, for the log; null where that is not known. */
  readonly identity: Identity | null;
}

/** What is known of a request, as it came. */
export const refusedOf = (asked: Asked): Refused => ({
  method: asked.method,
  accept: asked.header('accept'),
  identity: null,
});

/**
 * A caller without the facts that it must have is turned away, or one whom a handler gave what it may not see: that is the
 * service's mistake, and somebody has to know.
 */
const isOurs = ({ cause }: Problem): boolean =>
  cause instanceof Error && ['CALLER', 'MISUSE'].includes((cause as Partial<GriboError>).code ?? '');

/** A failure with its cause in words, for whoever develops the service. */
const told = (problem: Problem): Problem => {
  const isTold = problem.status >= 500 || isOurs(problem);
  if (!isTold || problem.cause === undefined) return problem;
  const { message } = loggable(problem.cause) as Partial<Error>;
  return message === undefined
    ? problem
    : new Problem(problem.status, { detail: message, cause: problem.cause });
};

/**
 * The response for whatever was thrown. A failure of ours goes to the log, with the cause and with the
 * URI that the caller is told.
 *
 * @param endpoint the endpoint that failed; null where none was found
 */
export const failedResponse = (
  { method, accept, identity }: Refused,
  endpoint: EndpointPlan | null,
  { log, say, failures }: Telling,
  error: unknown,
): Answer => {
  const problem = ownProblem(asProblem(error, { method, takes: endpoint?.takes ?? null }, say), endpoint);
  const instance = problem.status < 500 ? null : `urn:uuid:${crypto.randomUUID()}`;
  if (instance !== null || isOurs(problem)) {
    const err = loggable(problem.cause ?? problem);
    const about = {
      err,
      ...(instance === null ? {} : { instance }),
      method,
      endpoint: endpoint?.name,
      ...(identity === null ? {} : { identity }),
    };
    log.error(about, problem.message);
  }
  const shown = failures === 'tell' ? told(problem) : problem;
  const answer = problemResponse(shown, accept, instance);
  // The answer to HEAD has the headers of the answer to GET, and no content (RFC 9110, section 9.3.2).
  return method === 'HEAD' ? { ...answer, content: null } : answer;
};
