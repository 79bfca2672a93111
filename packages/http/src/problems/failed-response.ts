import type { EndpointPlan } from 'gribo/kit';
import type { Settings } from '../settings.js';
import { asProblem } from './as-problem.js';
import { problemResponse } from './problem-response.js';

/**
 * The response for whatever was thrown. A failure of ours goes to the log, with the cause and with the
 * URI that the caller is told.
 *
 * @param endpoint the endpoint that failed; null where none was found
 */
export const failedResponse = (
  request: Request,
  endpoint: EndpointPlan | null,
  settings: Settings,
  error: unknown,
): Response => {
  const problem = asProblem(error, endpoint?.takes ?? null, settings.say);
  const instance = problem.status < 500 ? null : `urn:uuid:${crypto.randomUUID()}`;
  if (instance !== null) {
    const { method } = request;
    const about = { err: problem.cause ?? problem, instance, method, endpoint: endpoint?.name };
    settings.log.error(about, problem.message);
  }
  return problemResponse(problem, request.headers.get('accept'), instance);
};
