import { GriboError, type Key, type Store } from 'gribo';
import { type ApiPlan, answers, type EndpointPlan } from 'gribo/kit';
import { checkHandlers } from './check-handlers.js';
import type { Exchange } from './exchange.js';
import type { AnyHandler } from './handlers.js';
import { equalTo, keyFromTexts, keyOf } from './key.js';
import { EndpointLoad } from './load.js';
import { operate } from './operations/operate.js';
import type { Outcome } from './operations/outcome.js';
import { Prepared } from './prepared.js';
import { failedResponse } from './problems/failed-response.js';
import { Problem } from './problems/problem.js';
import type { Choice } from './request/negotiate.js';
import { readQuery } from './request/query.js';
import { mirroredFormat, readableTypes, readBody } from './request/read-body.js';
import { allowedMethods, filledPath, type Place, Routes } from './request/routes.js';
import { situationOf } from './request/situation-of.js';
import { splitUrl } from './request/split-url.js';
import { pageLinks } from './response/links.js';
import { send } from './response/send.js';
import type { Settings } from './settings.js';
import { inTime, tooSlow } from './time-limit.js';

/** What a server needs of the options, without their types. */
export interface ServerOptions {
  readonly store: Store | (() => Store | Promise<Store>);
  readonly audience: (request: Request) => string | null | Promise<string | null>;
  readonly handlers: Readonly<Record<string, AnyHandler | undefined>>;
  readonly base: string;
  readonly unknownParameters: 'refuse' | 'ignore';
  readonly cache: Readonly<Record<string, number | undefined>>;
}

/** One API behind HTTP. */
export class Server {
  readonly #plan: ApiPlan;
  readonly #options: ServerOptions;
  readonly #settings: Settings;
  readonly #routes: Routes;
  readonly #prepared: ReadonlyMap<EndpointPlan, Prepared>;
  #store: Promise<Store> | null = null;

  constructor(plan: ApiPlan, options: ServerOptions, settings: Settings) {
    checkHandlers(plan, options.handlers);
    this.#plan = plan;
    this.#options = options;
    this.#settings = settings;
    this.#routes = new Routes(plan.endpoints);
    this.#prepared = new Map(
      plan.endpoints.map((endpoint) => [endpoint, new Prepared(endpoint, plan, settings)]),
    );
  }

  async answer(request: Request): Promise<Response> {
    let endpoint: EndpointPlan | null = null;
    try {
      const { path, search } = splitUrl(request.url);
      if (path.length + search.length > this.#settings.limits.url) throw new Problem(414);
      const place = this.#placeOf(path);
      if (request.method === 'OPTIONS') return this.#optionsOf(place);
      endpoint = this.#endpointAt(place, request.method);
      return await this.#serve(request, endpoint, place, path, search);
    } catch (error) {
      return failedResponse(request, endpoint, this.#settings, error);
    }
  }

  #placeOf(path: string): Place {
    const { base } = this.#options;
    const isHere =
      path.startsWith(base) && (base === '' || path.length === base.length || path[base.length] === '/');
    const place = isHere ? this.#routes.find(path.slice(base.length)) : null;
    if (place === null) throw new Problem(404, { detail: 'There is nothing at this path.' });
    return place;
  }

  #endpointAt(place: Place, method: string): EndpointPlan {
    const endpoint = place.methods.get(method === 'HEAD' ? 'GET' : method);
    if (endpoint !== undefined) return endpoint;
    const allow = allowedMethods(place);
    throw new Problem(405, { detail: `There are: ${allow}.`, headers: { allow } });
  }

  #optionsOf(place: Place): Response {
    const types = readableTypes(this.#settings.formats).join(', ');
    return new Response(null, {
      status: 204,
      headers: {
        allow: allowedMethods(place),
        ...(place.methods.has('PATCH') ? { 'accept-patch': types } : {}),
      },
    });
  }

  async #serve(
    request: Request,
    endpoint: EndpointPlan,
    place: Place,
    path: string,
    search: string,
  ): Promise<Response> {
    const prepared = this.#prepared.get(endpoint);
    if (prepared === undefined)
      throw new GriboError('MISUSE', endpoint.name, `${endpoint.name} was not prepared`);
    const audience = await this.#audienceOf(request, endpoint);
    const query = readQuery(search, {
      endpoint,
      isPaged: prepared.isPaged,
      formatParameter: this.#settings.formatParameter,
      unknown: this.#options.unknownParameters,
    });
    // Before anything is done: what cannot be answered is not done either.
    const choice =
      endpoint.returns === null
        ? null
        : prepared.choose({
            accept: request.headers.get('accept'),
            format: query.format,
            sent: request.body === null ? null : mirroredFormat(request, this.#settings.formats),
          });
    const parameters = Object.fromEntries(
      endpoint.parameters.map((name, i) => [name, place.values[i] ?? '']),
    );
    const situation = situationOf(endpoint, audience, query);
    const exchange: Exchange = {
      request,
      endpoint,
      sibling: prepared.sibling,
      parameters,
      path,
      search,
      query,
      audience,
      situation,
      store: await this.#opened(),
      settings: this.#settings,
      ...this.#rowsNamed(endpoint, parameters),
    };
    const change = endpoint.takes === null ? null : await readBody(request, endpoint.takes, this.#settings);
    const { answering } = this.#settings.limits;
    const work = this.#do(exchange, change);
    const late = (): Problem => {
      // The caller is gone by then; a failure must reach somebody all the same.
      work.catch((error: unknown) =>
        this.#settings.log.error(
          { err: error, method: request.method, endpoint: endpoint.name },
          'failed after its time was up',
        ),
      );
      return tooSlow(answering);
    };
    const outcome = await inTime(work, answering, late);
    return this.#respond(exchange, outcome, choice);
  }

  async #audienceOf(request: Request, endpoint: EndpointPlan): Promise<string | null> {
    const audience = await this.#options.audience(request);
    if (audience !== null && !this.#plan.audiences.includes(audience)) {
      throw new GriboError(
        'MISUSE',
        'audience',
        `audience() gave ${JSON.stringify(audience)}, which the API does not declare`,
      );
    }
    if (!answers(endpoint, audience)) {
      throw new Problem(403, { detail: 'This is not for you.' });
    }
    return audience;
  }

  #opened(): Store | Promise<Store> {
    const { store } = this.#options;
    if (typeof store !== 'function') return store;
    this.#store ??= Promise.resolve(store()).catch((error: unknown) => {
      // The next request tries again.
      this.#store = null;
      throw error;
    });
    return this.#store;
  }

  /** The row and the parent that a path names. @throws {Problem} 404 where they can be none */
  #rowsNamed(
    { entity, under, parameters: names }: EndpointPlan,
    parameters: Readonly<Record<string, string>>,
  ): Pick<Exchange, 'key' | 'parent'> {
    const isKeyed = entity.key.every((name) => names.includes(name));
    const key: Key | null = isKeyed
      ? keyFromTexts(
          entity,
          entity.key.map((name) => parameters[name]),
        )
      : null;
    const parentKey = under === null ? null : keyFromTexts(under.link.target, [parameters[under.parameter]]);
    if ((isKeyed && key === null) || (under !== null && parentKey === null)) {
      throw new Problem(404, { detail: 'There is no such row.' });
    }
    const parent = under === null || parentKey === null ? [] : equalTo(entity, under.link.from, parentKey);
    return { key, parent };
  }

  /** What the handler makes of the request, or the operation itself. */
  async #do(exchange: Exchange, change: object | null): Promise<Outcome> {
    const { endpoint, request, audience, parameters, key, store } = exchange;
    const handler = this.#options.handlers[endpoint.name];
    if (handler === undefined) return operate(exchange, change);
    let done: Outcome | null = null;
    const proceed = async (other?: object): Promise<unknown> => {
      done = await operate(exchange, other ?? change);
      return done.data;
    };
    const context = { request, audience, parameters, input: change, key, store, proceed };
    const data = await handler({
      ...context,
      load: new EndpointLoad(exchange),
    } as unknown as Parameters<AnyHandler>[0]);
    const operated = done as Outcome | null;
    if (operated !== null && (operated.data === data || data === undefined)) return operated;
    if (endpoint.returns !== null && (data === null || data === undefined)) {
      throw new Problem(404, { detail: 'There is no such row.' });
    }
    return { data: data ?? null, created: this.#createdBy(exchange, data), page: null };
  }

  #createdBy({ endpoint }: Exchange, data: unknown): Key | null {
    const isRow = endpoint.operation === 'create' && typeof data === 'object' && data !== null;
    return isRow ? keyOf(endpoint.entity, data) : null;
  }

  async #respond(exchange: Exchange, outcome: Outcome, choice: Choice | null): Promise<Response> {
    const { request, endpoint, situation, settings, path, search } = exchange;
    const status = endpoint.operation === 'create' ? 201 : 200;
    const location = this.#locationOf(exchange, outcome.created);
    if (choice === null) {
      const headers = { 'cache-control': 'no-store', ...location };
      return new Response(null, { status: status === 200 ? 204 : status, headers });
    }
    const { page } = outcome;
    const links =
      page === null
        ? []
        : pageLinks({
            path,
            query: search,
            wanted: page.wanted,
            pages: page.answer.pages ?? null,
            next: page.answer.next ?? null,
            hasMore: page.hasMore,
          });
    return send({
      request,
      endpoint,
      situation,
      settings,
      choice,
      status,
      data: outcome.data,
      links,
      headers: location,
      cache: this.#options.cache[endpoint.name] ?? null,
    });
  }

  /** Where a new row is: at the path that reads it, if there is one. */
  #locationOf({ endpoint, sibling, parameters }: Exchange, created: Key | null): Record<string, string> {
    if (created === null || sibling === null) return {};
    const key = Object.fromEntries(endpoint.entity.key.map((name, i) => [name, String(created[i])]));
    return { location: this.#options.base + filledPath(sibling.path, { ...parameters, ...key }) };
  }
}
