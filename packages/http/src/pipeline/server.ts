import { type Key, type Store, storeFor } from 'gribo';
import type { ApiPlan, EndpointPlan } from 'gribo/kit';
import { checkHandlers } from '../handlers/check-handlers.js';
import type { AnyHandler } from '../handlers/handlers.js';
import { Handling } from '../handlers/handling.js';
import type { Answer } from '../message/answer.js';
import type { Asked } from '../message/asked.js';
import type { Exchange } from '../operations/exchange.js';
import { operate } from '../operations/operate.js';
import type { Outcome } from '../operations/outcome.js';
import { asProblem } from '../problems/as-problem.js';
import { loggable } from '../problems/loggable.js';
import { Problem } from '../problems/problem.js';
import { type CallerSaid, callerOf } from '../request/caller.js';
import { equalTo, valuesFromTexts } from '../request/key.js';
import { readableTypes } from '../request/read-body.js';
import { fileOfStream, type TakenFiles } from '../request/read-files.js';
import { isRows, type TakenRows } from '../request/read-rows.js';
import { allowedMethods, filledPath, type Place, Routes } from '../request/routes.js';
import { splitUrl } from '../request/split-url.js';
import type { Settings } from '../settings/settings.js';
import { TimeLimit, tooSlow } from '../settings/time-limit.js';
import { Pipeline, type PipelineRules } from './pipeline.js';

/** What a server needs of the options, without their types. */
export interface ServerOptions extends PipelineRules {
  readonly store: Store | (() => Store | Promise<Store>);
  /** Null: nobody in particular, whoever asks. */
  readonly caller: ((request: Request) => CallerSaid | null | Promise<CallerSaid | null>) | null;
  readonly now: () => Date;
  readonly rowsOfHandlers: 'check' | 'trust';
  readonly handlers: Readonly<Record<string, AnyHandler | undefined>>;
  readonly base: string;
}

/** Rows that are waited for on their caller's time, and not on that of the store. */
const paced = (rows: TakenRows, limit: TimeLimit): TakenRows => ({
  lineOf: (row) => rows.lineOf(row),
  end: () => rows.end(),
  async *[Symbol.asyncIterator]() {
    limit.stop();
    for await (const batch of rows) {
      limit.start();
      yield batch;
      limit.stop();
    }
    limit.start();
  },
});

/** Files that are waited for on their caller's time, and not on that of the handler. */
const pacedFiles = (files: TakenFiles, limitOf: () => TimeLimit): TakenFiles =>
  Object.fromEntries(
    Object.entries(files).map(([name, file]) => {
      if (file === null) return [name, null];
      return [name, fileOfStream(file, () => pacedParts(file.stream(), limitOf()))];
    }),
  );

async function* pacedParts(parts: AsyncIterable<Uint8Array>, limit: TimeLimit): AsyncGenerator<Uint8Array> {
  limit.stop();
  for await (const part of parts) {
    limit.start();
    yield part;
    limit.stop();
  }
  limit.start();
}

/** Tells work that its time is up. Most work never asks, and nothing is made for it. */
class GiveUp {
  #controller: AbortController | null = null;
  #reason: Problem | null = null;

  get signal(): AbortSignal {
    if (this.#controller === null) {
      this.#controller = new AbortController();
      if (this.#reason !== null) this.#controller.abort(this.#reason);
    }
    return this.#controller.signal;
  }

  abort(reason: Problem): void {
    this.#reason = reason;
    this.#controller?.abort(reason);
  }
}

const isChanging = ({ method }: Asked): boolean => method !== 'GET' && method !== 'HEAD';

/** One API behind HTTP. */
export class Server {
  readonly #options: ServerOptions;
  readonly #plan: ApiPlan;
  readonly #settings: Settings;
  readonly #routes: Routes;
  readonly #pipeline: Pipeline;
  #store: Promise<Store> | null = null;

  constructor(plan: ApiPlan, options: ServerOptions, settings: Settings) {
    checkHandlers(plan, options.handlers);
    this.#plan = plan;
    this.#options = options;
    this.#settings = settings;
    this.#routes = new Routes(plan.endpoints);
    this.#pipeline = new Pipeline(plan, settings, options);
    // What is wrong with an endpoint is told when it is served, not when it is asked.
    for (const endpoint of plan.endpoints) this.#pipeline.prepared(endpoint);
  }

  async answer(asked: Asked): Promise<Answer> {
    let endpoint: EndpointPlan | null = null;
    try {
      const { path, search } = splitUrl(asked.url);
      if (path.length + search.length > this.#settings.limits.url) throw new Problem(414);
      const place = this.#placeOf(path);
      if (asked.method === 'OPTIONS') return this.#optionsOf(place);
      endpoint = this.#endpointAt(place, asked.method);
      this.#pipeline.checkSite(asked);
      return await this.#serve(asked, endpoint, place);
    } catch (error) {
      return this.#pipeline.failed(asked, endpoint, error);
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

  #optionsOf(place: Place): Answer {
    const types = readableTypes(this.#settings.formats, false).join(', ');
    return {
      status: 204,
      content: null,
      headers: {
        allow: allowedMethods(place),
        ...(place.methods.has('PATCH') ? { 'accept-patch': types } : {}),
      },
    };
  }

  async #serve(asked: Asked, endpoint: EndpointPlan, place: Place): Promise<Answer> {
    const { caller: said } = this.#options;
    const caller = callerOf(said === null ? null : await said(asked.request), this.#options.now());
    const admitted = await this.#pipeline.admit(asked, endpoint, caller);
    const { audience, query, situation } = admitted;
    const parameters = Object.fromEntries(
      endpoint.parameters.map((name, i) => [name, place.values[i] ?? '']),
    );
    const { takes, change, files } = await this.#pipeline.read(asked, endpoint, audience);
    const giveUp = new GiveUp();
    const exchange: Exchange = {
      asked,
      endpoint,
      sibling: this.#pipeline.prepared(endpoint).sibling,
      parameters,
      query,
      caller,
      audience,
      takes,
      files: files && pacedFiles(files, () => limit),
      situation,
      store: storeFor(
        await this.#opened(),
        { plan: this.#plan },
        { ...caller.given.caller, audience },
        caller.given.now,
      ),
      settings: this.#settings,
      get signal() {
        return giveUp.signal;
      },
      ...this.#rowsNamed(endpoint, parameters),
    };
    const { answering } = this.#settings.limits;
    const late = (): Problem => {
      const problem = tooSlow(answering, isChanging(asked));
      giveUp.abort(problem);
      this.#watch(work, asked, endpoint, problem);
      return problem;
    };
    const limit = new TimeLimit(answering, late);
    const work = isRows(change)
      ? this.#do(exchange, paced(change, limit)).finally(() => change.end())
      : this.#do(exchange, change);
    const { data, page, created } = await limit.race(work).catch((error: unknown): never => {
      // Here it is known which members there are for this caller.
      throw asProblem(error, { method: asked.method, takes }, this.#settings.say);
    });
    const status = endpoint.operation === 'create' ? 201 : 200;
    return this.#pipeline.send(admitted, {
      data,
      page,
      status,
      headers: this.#locationOf(exchange, created),
    });
  }

  /** What comes of work whose caller was told that it took too long must reach somebody all the same. */
  #watch(work: Promise<unknown>, asked: Asked, endpoint: EndpointPlan, told: Problem): void {
    const { log } = this.#settings;
    const about = { method: asked.method, endpoint: endpoint.name };
    const done = (): void => {
      if (isChanging(asked)) log.error(about, 'was done after its time was up');
    };
    const failed = (error: unknown): void => {
      // Given up, or refused: it has changed nothing, and nothing is wrong here.
      const isOurs = error !== told && !(error instanceof Problem && error.status < 500);
      if (isOurs) log.error({ err: loggable(error), ...about }, 'failed after its time was up');
    };
    work.then(done, failed);
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
  ): Pick<Exchange, 'key' | 'where' | 'parentValues'> {
    const isKeyed = entity.key.length > 0 && entity.key.every((name) => names.includes(name));
    const key: Key | null = isKeyed
      ? valuesFromTexts(
          entity,
          entity.key,
          entity.key.map((name) => parameters[name]),
        )
      : null;
    const parentKey =
      under === null
        ? null
        : valuesFromTexts(
            under.link.target,
            under.link.to,
            under.parameters.map((name) => parameters[name]),
          );
    if ((isKeyed && key === null) || (under !== null && parentKey === null)) {
      throw new Problem(404, { detail: 'There is no such row.' });
    }
    if (under === null || parentKey === null) return { key, where: [], parentValues: {} };
    const { from } = under.link;
    const parentValues = Object.fromEntries(from.map((name, i) => [name, parentKey[i]]));
    return { key, where: equalTo(entity, from, parentKey), parentValues };
  }

  /** What the handler makes of the request, or the operation itself. */
  #do(exchange: Exchange, change: object | null): Promise<Outcome> {
    const { handlers, rowsOfHandlers } = this.#options;
    const handler = handlers[exchange.endpoint.name];
    if (handler === undefined) return operate(exchange, change);
    return new Handling(exchange, change, this.#plan, rowsOfHandlers).run(handler);
  }

  /** Where a new row is: at the path that reads it, if there is one. */
  #locationOf({ endpoint, sibling, parameters }: Exchange, created: Key | null): Record<string, string> {
    if (created === null || sibling === null) return {};
    const key = Object.fromEntries(endpoint.entity.key.map((name, i) => [name, String(created[i])]));
    // Such a part of a path means the one above (RFC 3986, section 5.2.4), escaped or not.
    if (Object.values(key).some((text) => text === '.' || text === '..')) return {};
    return { location: this.#options.base + filledPath(sibling.path, { ...parameters, ...key }) };
  }
}
