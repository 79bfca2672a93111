import type { ApiPlan, EndpointPlan } from '../plan/api-plan.js';
import { audiencesAt } from '../plan/audiences-at.js';
import type { BodyPlan } from '../plan/declared.js';
import type { ResolvedBody } from '../plan/resolved.js';
import { freeze } from '../util/freeze.js';
import { keptBy } from '../util/kept-by.js';
import { resolveBody } from './resolve-body.js';

/** An endpoint that sends something. */
export type SendingEndpoint = EndpointPlan & { readonly returns: BodyPlan };

/** What one endpoint sends to one audience; null: to callers of none. */
export interface Cell {
  readonly endpoint: SendingEndpoint;
  readonly audience: string | null;
  /** The body with nothing asked. */
  readonly body: ResolvedBody;
  /** The body with what may be asked left open, under conditions that say so: for descriptions. */
  readonly open: ResolvedBody;
}

const sends = (endpoint: EndpointPlan): endpoint is SendingEndpoint => endpoint.returns !== null;

const cellOf = (endpoint: SendingEndpoint, audience: string | null): Cell => {
  const situation = { endpoint: endpoint.name, audience };
  return freeze({
    endpoint,
    audience,
    body: resolveBody(endpoint.returns, situation).body,
    open: resolveBody(endpoint.returns, situation, true).body,
  });
};

/**
 * Every endpoint that sends something, for every audience that it answers: an API is settled once, whoever
 * describes, reviews or shows it.
 *
 * @returns the cells by endpoint, then by audience, in the order in which they are declared
 * @example
 * matrixOf(harbour.plan).length
 */
export const matrixOf: (api: ApiPlan) => readonly Cell[] = keptBy((api: ApiPlan) =>
  freeze(
    api.endpoints
      .filter(sends)
      .flatMap((endpoint) => audiencesAt(endpoint, api).map((audience) => cellOf(endpoint, audience))),
  ),
);

const byEndpoint = keptBy((api: ApiPlan): ReadonlyMap<EndpointPlan, readonly Cell[]> => {
  const found = new Map<EndpointPlan, Cell[]>();
  for (const cell of matrixOf(api)) found.set(cell.endpoint, [...(found.get(cell.endpoint) ?? []), cell]);
  return found;
});

/** The cells of one endpoint: none where it sends nothing. */
export const cellsAt = (api: ApiPlan, endpoint: EndpointPlan): readonly Cell[] =>
  byEndpoint(api).get(endpoint) ?? [];
