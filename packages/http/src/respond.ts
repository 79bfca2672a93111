import {
  type AnyApi,
  type BodyOf,
  type CallerIn,
  type EditionIn,
  type EnvelopeData,
  type FilesOf,
  GriboError,
  type NameIn,
  ofEdition,
  type RequestOf,
  type StreamedRowsOf,
  wantedPage,
} from 'gribo';
import { type ApiPlan, type EndpointPlan, settledQuery } from 'gribo/kit';
import type { FilesTaken } from './handlers/handlers.js';
import { responseOf } from './message/answer.js';
import { askedOf } from './message/asked.js';
import type { Page } from './operations/outcome.js';
import { type Admitted, Pipeline, type PipelineRules } from './pipeline/pipeline.js';
import { refusedOf } from './problems/failed-response.js';
import { callerOf } from './request/caller.js';
import { type SiteOptions, siteRulesOf } from './request/check-site.js';
import { allRows, isRows } from './request/read-rows.js';
import { planned } from './response/outgoing-body.js';
import { decidedByOf, type FormatOptions, settingsOf } from './settings/settings.js';

/** What `respond` and `receive` are told of a request. */
interface WhomOptions<P extends AnyApi> extends FormatOptions {
  /** The edition that the request is asked in. Default: the newest. */
  readonly edition?: EditionIn<P>;
  /**
   * Whom the response is for: `{ audience }` and the facts that the API declares; left out: nobody in particular. An
   * endpoint that answers others gives 403. One that is given, null too, counts as decided from the request.
   */
  readonly caller?: CallerIn<P> | null;
}

export interface ReceiveOptions<P extends AnyApi> extends WhomOptions<P>, SiteOptions {}

export interface RespondOptions<P extends AnyApi> extends WhomOptions<P> {
  readonly request: Request;
  /** The moment that `now` stands for in conditions. Default: this one. */
  readonly now?: Date;
  /** The status. Default: 201 for an endpoint that creates, else 200. */
  readonly status?: number;
  /** Query parameters that are not known: refused with 400, or passed over. Default: `ignore`. */
  readonly unknownParameters?: 'refuse' | 'ignore';
  /** Seconds that the response may be kept. Left out: it is asked again each time. */
  readonly cache?: number;
  /** The request's headers that the caller follows from. Default: `['Authorization', 'Cookie']`. */
  readonly decidedBy?: readonly string[];
  /** Headers to send along. */
  readonly headers?: Readonly<Record<string, string>>;
}

/** A change that can be stored and the files that came with it, or the response that says why there is none. */
export type Received<T, Files = null> =
  | { readonly ok: true; readonly value: T; readonly files: Files }
  | { readonly ok: false; readonly response: Response };

const planOf = <P extends AnyApi>(api: P, edition: EditionIn<P> | undefined): ApiPlan =>
  edition === undefined ? api.plan : ofEdition(api, edition).plan;

const endpointOf = (plan: ApiPlan, name: string): EndpointPlan => {
  const endpoint = plan.endpoints.find((candidate) => candidate.name === name);
  if (endpoint === undefined) throw new GriboError('UNKNOWN', name, `the API has no endpoint "${name}"`);
  return endpoint;
};

const pipelineOf = (plan: ApiPlan, options: FormatOptions, rules: PipelineRules): Pipeline =>
  new Pipeline(plan, settingsOf(options), rules);

/** Where a page stands among the others; null where the data is none. */
const pageOf = ({ endpoint, query, audience }: Admitted, data: unknown): Page | null => {
  const { returns } = endpoint;
  if (returns?.kind !== 'envelope' || returns.page === null) return null;
  const page = data as EnvelopeData;
  const wanted = wantedPage(
    planned(returns) as Parameters<typeof wantedPage>[0],
    query.page,
    query.sort ?? settledQuery(endpoint, audience).order,
  );
  const isLast = (page.pages ?? null) === null ? page.next == null : wanted.number >= (page.pages ?? 0);
  return { wanted, data: page, hasMore: !isLast };
};

/**
 * The response of an endpoint, for those who keep their own routes: in the format that the request
 * accepts, with the members that it asks for, to those whom the endpoint answers.
 *
 * @param api the API
 * @param name the endpoint's dotted name
 * @param data what its body is written from: a row, rows, or the data of an envelope
 * @param options `request`, and what else `RespondOptions` lists
 * @returns the response; a problem where it cannot be made
 * @example
 * app.get('/vessels/:id', async (c) => respond(harbour, 'vessels.read', await findVessel(c.req.param('id')), { request: c.req.raw, caller: { audience: 'agent' } }));
 */
export const respond = async <P extends AnyApi, Name extends NameIn<P>>(
  api: P,
  name: Name,
  data: StreamedRowsOf<BodyOf<P, Name>>,
  options: RespondOptions<P>,
): Promise<Response> => {
  const plan = planOf(api, options.edition);
  const endpoint = endpointOf(plan, name);
  const { request, caller = null, headers = {}, cache, unknownParameters = 'ignore' } = options;
  const isDecided = options.caller !== undefined;
  const asked = askedOf(request);
  const pipeline = pipelineOf(plan, options, {
    unknownParameters,
    cache: { [name]: cache },
    decidedBy: decidedByOf(options.decidedBy, isDecided),
    // What is answered was taken before: whoever read the body has looked at that.
    ...siteRulesOf({}, false),
  });
  try {
    const admitted = await pipeline.admit(asked, endpoint, callerOf(caller, options.now));
    if (endpoint.returns === null) throw new GriboError('MISUSE', name, `${name} sends no body`);
    const status = options.status ?? (endpoint.operation === 'create' ? 201 : 200);
    return responseOf(await pipeline.send(admitted, { data, page: pageOf(admitted, data), status, headers }));
  } catch (error) {
    return responseOf(pipeline.failed(refusedOf(asked), endpoint, error));
  }
};

/**
 * Reads the body of a request by the input of an endpoint, for those who keep their own routes.
 *
 * @param api the API
 * @param name the endpoint's dotted name
 * @param request the request; its body is read
 * @param options `caller`, the formats, limits and policies
 * @returns `{ ok: true, value, files }`, the change and the files; or `{ ok: false, response }`, the problem to send
 * @example
 * const got = await receive(harbour, 'vessels.create', request);
 * if (!got.ok) return got.response;
 */
export const receive = async <P extends AnyApi, Name extends NameIn<P>>(
  api: P,
  name: Name,
  request: Request,
  options: ReceiveOptions<P> = {},
): Promise<Received<RequestOf<P, Name>, FilesTaken<FilesOf<P, Name>>>> => {
  const plan = planOf(api, options.edition);
  const endpoint = endpointOf(plan, name);
  const asked = askedOf(request);
  const pipeline = pipelineOf(plan, options, {
    unknownParameters: 'ignore',
    cache: {},
    decidedBy: null,
    ...siteRulesOf(options, options.caller !== undefined),
  });
  try {
    if (endpoint.takes === null && endpoint.files.length === 0)
      throw new GriboError('MISUSE', name, `${name} takes no body`);
    pipeline.checkSite(asked);
    const { audience } = callerOf(options.caller ?? null);
    pipeline.checkAudience(endpoint, audience);
    // What is read by the endpoint's input is of its type: that is the law of readers.
    const { change, files } = await pipeline.read(asked, endpoint, audience);
    const value = (isRows(change) ? await allRows(change, settingsOf(options)) : change) as RequestOf<
      P,
      Name
    >;
    // Under the names that the endpoint has for them.
    return { ok: true, value, files: files as FilesTaken<FilesOf<P, Name>> };
  } catch (error) {
    return { ok: false, response: responseOf(pipeline.failed(refusedOf(asked), endpoint, error)) };
  }
};
