import {
  type Api,
  type BodyOf,
  type EndpointNames,
  GriboError,
  type RequestOf,
  type StreamDataOf,
} from 'gribo';
import type { EndpointPlan } from 'gribo/kit';
import { Prepared } from './prepared.js';
import { failedResponse } from './problems/failed-response.js';
import { readQuery } from './request/query.js';
import { mirroredFormat, readBody } from './request/read-body.js';
import { situationOf } from './request/situation-of.js';
import { splitUrl } from './request/split-url.js';
import { send } from './response/send.js';
import { type FormatOptions, settingsOf } from './settings.js';

export interface RespondOptions<A extends string> extends FormatOptions {
  readonly request: Request;
  /** Whom the response is for; left out: nobody in particular. */
  readonly audience?: A | null;
  /** The status. Default: 201 for an endpoint that creates, else 200. */
  readonly status?: number;
  /** Headers to send along. */
  readonly headers?: Readonly<Record<string, string>>;
}

/** A change that can be stored, or the response that says why there is none. */
export type Received<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly response: Response };

const endpointOf = (api: Api<unknown>, name: string): EndpointPlan => {
  const endpoint = api.plan.endpoints.find((candidate) => candidate.name === name);
  if (endpoint === undefined) throw new GriboError('UNKNOWN', name, `the API has no endpoint "${name}"`);
  return endpoint;
};

/**
 * The response of an endpoint, for those who keep their own routes: in the format that the request
 * accepts, with the members that it asks for.
 *
 * @param api the API
 * @param name the endpoint's dotted name
 * @param data what its body is written from: a row, rows, or an answer
 * @param options `request`, and what else `RespondOptions` lists
 * @returns the response; a problem where it cannot be made
 * @example
 * app.get('/vessels/:id', async (c) => respond(harbour, 'vessels.read', await findVessel(c.req.param('id')), { request: c.req.raw, audience: 'agent' }));
 */
export const respond = async <E, A extends string, Name extends EndpointNames<E>>(
  api: Api<E, A>,
  name: Name,
  data: StreamDataOf<BodyOf<Api<E, A>, Name>>,
  options: RespondOptions<A>,
): Promise<Response> => {
  const endpoint = endpointOf(api, name);
  const settings = settingsOf(options);
  const { request, audience = null, headers = {} } = options;
  try {
    const prepared = new Prepared(endpoint, api.plan, settings);
    const { formatParameter } = settings;
    const rules = { endpoint, isPaged: false, formatParameter, unknown: 'ignore' } as const;
    const query = readQuery(splitUrl(request.url).search, rules);
    const situation = situationOf(endpoint, audience, query);
    const sent = request.body === null ? null : mirroredFormat(request, settings.formats);
    const choice = prepared.choose({ accept: request.headers.get('accept'), format: query.format, sent });
    const status = options.status ?? (endpoint.operation === 'create' ? 201 : 200);
    const outgoing = { request, endpoint, situation, settings, choice, status, data, headers };
    return await send({ ...outgoing, links: [], cache: null });
  } catch (error) {
    return failedResponse(request, endpoint, settings, error);
  }
};

/**
 * Reads the body of a request by the input of an endpoint, for those who keep their own routes.
 *
 * @param api the API
 * @param name the endpoint's dotted name
 * @param request the request; its body is read
 * @param options the formats, limits and policies
 * @returns `{ ok: true, value }`, the change; or `{ ok: false, response }`, the problem to send
 * @example
 * const got = await receive(harbour, 'vessels.create', request);
 * if (!got.ok) return got.response;
 */
export const receive = async <E, A extends string, Name extends EndpointNames<E>>(
  api: Api<E, A>,
  name: Name,
  request: Request,
  options: FormatOptions = {},
): Promise<Received<RequestOf<Api<E, A>, Name>>> => {
  const endpoint = endpointOf(api, name);
  const settings = settingsOf(options);
  try {
    if (endpoint.takes === null) throw new GriboError('MISUSE', name, `${name} takes no body`);
    // What is read by the endpoint's input is of its type: that is the law of readers.
    const value = (await readBody(request, endpoint.takes, settings)) as RequestOf<Api<E, A>, Name>;
    return { ok: true, value };
  } catch (error) {
    return { ok: false, response: failedResponse(request, endpoint, settings, error) };
  }
};
