import { type Key, type Store, storeFor } from 'gribo';
import type { ApiPlan, EndpointPlan } from 'gribo/kit';
import { checkHandlers } from '../handlers/check-handlers.js';
import type { AnyHandler } from '../handlers/handlers.js';
import { Handling } from '../handlers/handling.js';
import { type Closing, close } from '../life/close.js';
import { type Flight, Flights } from '../life/flights.js';
import { Health } from '../life/health.js';
import { isWatched, Observed } from '../life/observed.js';
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
import { isRows } from '../request/read-rows.js';
import { allowedMethods, filledPath, type Place, Routes } from '../request/routes.js';
import { splitUrl } from '../request/split-url.js';
import type { Settings } from '../settings/settings.js';
import { TimeLimit, tooSlow } from '../settings/time-limit.js';
import { type KeptAnswers, type Repeated, repeatedBy } from '../stores/kept-answers.js';
import type { Replicas } from '../stores/replicas.js';
import { Paced } from './paced.js';
import { type Admitted, Pipeline, type PipelineRules, type Taken } from './pipeline.js';

/** What a server needs of the options, without their types. */
export interface ServerOptions extends PipelineRules {
  readonly store: Store | (() => Store | Promise<Store>);
  /** Null: all requests go to the store. */
  readonly replicas: Replicas | null;
  /** Null: nothing is kept, and no request is known again. */
  readonly kept: KeptAnswers | null;
  /** Null: nobody in particular, whoever asks. */
  readonly caller: ((request: Request) => CallerSaid | null | Promise<CallerSaid | null>) | null;
  readonly now: () => Date;
  readonly rowsOfHandlers: 'check' | 'trust';
  readonly handlers: Readonly<Record<string, AnyHandler | undefined>>;
  readonly base: string;
  /** The path at which it says how it is; null: at none. */
  readonly health: string | null;
  /** Whether a caller is told how long things took; null: none is. */
  readonly serverTiming: ((request: Request) => boolean) | null;
}

/** A request on its way, with what watches it: null where nobody does. */
interface Underway {
  readonly flight: Flight;
  readonly observed: Observed | null;
}

/** What is known of a request when it is let in and read. */
interface Read extends Underway {
  readonly admitted: Admitted;
  readonly taken: Taken;
  readonly parameters: Readonly<Record<string, string>>;
}

const isReading = ({ method }: Asked): boolean => method === 'GET' || method === 'HEAD';

/** Whoever asked has gone, so that nobody is told of it. */
class Gone extends Problem {
  constructor() {
    super(408, { detail: 'The client has gone.' });
  }
}

const isUnavailable = (error: unknown): boolean =>
  error instanceof Problem
    ? error.status === 503
    : (error as { readonly code?: unknown } | null)?.code === 'UNAVAILABLE';

/** How many rows an answer has: those of a list, or one; null where that is not known yet, or there are none. */
const rowsIn = (data: unknown): number | null => {
  if (Array.isArray(data)) return data.length;
  if (typeof data !== 'object' || data === null || Symbol.asyncIterator in data) return null;
  const { items } = data as { readonly items?: unknown };
  return Array.isArray(items) ? items.length : 1;
};

/** One API behind HTTP. */
export class Server {
  readonly #options: ServerOptions;
  readonly #plan: ApiPlan;
  readonly #settings: Settings;
  readonly #routes: Routes;
  readonly #pipeline: Pipeline;
  readonly #flights = new Flights();
  readonly #health: Health;
  #store: Promise<Store> | null = null;

  constructor(plan: ApiPlan, options: ServerOptions, settings: Settings) {
    checkHandlers(plan, options.handlers);
    this.#plan = plan;
    this.#options = options;
    this.#settings = settings;
    this.#routes = new Routes(plan.endpoints);
    this.#pipeline = new Pipeline(plan, settings, options);
    this.#health = new Health(() => this.#opened());
    // What is wrong with an endpoint is told when it is served, not when it is asked.
    for (const endpoint of plan.endpoints) this.#pipeline.prepared(endpoint);
  }

  close(closing: Closing): Promise<void> {
    return close(this.#flights, closing);
  }

  async answer(asked: Asked): Promise<Answer> {
    const isTimed = this.#options.serverTiming?.(asked.request) === true;
    const observed = isTimed || isWatched() ? new Observed(asked) : null;
    const flight = this.#flights.begin();
    const answer = await this.#answer(asked, { flight, observed });
    if (observed !== null) observed.status = answer.status;
    // Of a list that is sent while it is made, the end is told by whoever makes it.
    if (!(answer.content instanceof ReadableStream)) this.#end({ flight, observed });
    const { isClosing } = this.#flights;
    if (!isClosing && !isTimed) return answer;
    const timing = isTimed && observed !== null ? { 'server-timing': observed.timing } : {};
    const headers = { ...answer.headers, ...timing, ...(isClosing ? { connection: 'close' } : {}) };
    return { ...answer, headers };
  }

  #end({ flight, observed }: Underway): void {
    flight.end();
    observed?.end();
  }

  async #answer(asked: Asked, underway: Underway): Promise<Answer> {
    let endpoint: EndpointPlan | null = null;
    const { observed } = underway;
    try {
      const { path, search } = splitUrl(asked.url);
      if (path.length + search.length > this.#settings.limits.url) throw new Problem(414);
      if (path === this.#options.health && isReading(asked))
        return await this.#health.answer(asked.method, this.#flights.isClosing);
      const place = this.#placeOf(path);
      if (asked.method === 'OPTIONS') return this.#optionsOf(place);
      endpoint = this.#endpointAt(place, asked.method);
      if (observed !== null) observed.endpoint = endpoint.name;
      this.#pipeline.checkSite(asked);
      return await this.#serve(asked, endpoint, place, underway);
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

  async #serve(asked: Asked, endpoint: EndpointPlan, place: Place, underway: Underway): Promise<Answer> {
    const { caller: said } = this.#options;
    const caller = callerOf(said === null ? null : await said(asked.request), this.#options.now());
    const admitted = await this.#pipeline.admit(asked, endpoint, caller);
    if (underway.observed !== null) underway.observed.audience = admitted.audience;
    const parameters = Object.fromEntries(
      endpoint.parameters.map((name, i) => [name, place.values[i] ?? '']),
    );
    const taken = await this.#pipeline.read(asked, endpoint, admitted.audience);
    const read: Read = { ...underway, admitted, taken, parameters };
    if (!isReading(asked)) return this.#change(read);
    const replica = this.#options.replicas?.choose(asked) ?? null;
    if (replica === null) return this.#perform(read, await this.#opened());
    try {
      return await this.#perform(read, replica);
    } catch (error) {
      if (!isUnavailable(error) || underway.flight.giveUp.reason !== null) throw error;
      this.#options.replicas?.failed(replica);
      return this.#perform(read, await this.#opened());
    }
  }

  async #change(read: Read): Promise<Answer> {
    const { kept, replicas } = this.#options;
    const store = await this.#opened();
    const repeated = kept === null ? null : this.#repeatedBy(read);
    const answer =
      kept === null || repeated === null
        ? await this.#perform(read, store)
        : await this.#perform(read, store, { kept, repeated });
    replicas?.changed(read.admitted.asked);
    return answer;
  }

  /** What a request is known by when it comes again. @throws {Problem} 400 where it cannot be known */
  #repeatedBy({ admitted, taken }: Read): Repeated | null {
    const { asked, caller, audience } = admitted;
    const isWhole = taken.files === null && !isRows(taken.change);
    const repeated = repeatedBy(asked, [audience, caller.given.caller], isWhole ? taken.change : null);
    if (repeated === null || isWhole) return repeated;
    throw new Problem(400, {
      detail: 'Idempotency-Key is not taken here: lists and files are read while they are stored.',
    });
  }

  /** The store for one request: what it does is given up with that. */
  #scoped(store: Store, { flight, observed, admitted }: Read): Store {
    if (store.scoped === undefined) return store;
    const { signal } = flight.giveUp;
    if (isReading(admitted.asked)) admitted.asked.whenGone(() => flight.giveUp.abort(new Gone()));
    const ran = (statement: string, milliseconds: number): void => observed?.ran(statement, milliseconds);
    return store.scoped(observed === null ? { signal } : { signal, ran });
  }

  /**
   * Does what a request asks for, in time, and makes the answer.
   *
   * @param repeating the answers that are kept, and what the request is known by; left out: its answer is not kept
   */
  async #perform(
    read: Read,
    opened: Store,
    repeating?: { readonly kept: KeptAnswers; readonly repeated: Repeated },
  ): Promise<Answer> {
    const { admitted, taken, flight } = read;
    const { asked, endpoint, caller } = admitted;
    const { answering, ending } = this.#settings.limits;
    const store = this.#scoped(opened, read);
    const paced = new Paced(() => limit);
    const exchange = this.#exchangeOf(read, store, paced);
    const unknown = (): Problem => tooSlow(answering, 'unknown');
    const limit = new TimeLimit(answering, {
      late: () => {
        const told = tooSlow(answering, isReading(asked) ? 'read' : 'unchanged');
        flight.giveUp.abort(told);
        if (isReading(asked)) this.#watch(work, asked, endpoint);
        return told;
      },
      ending: isReading(asked)
        ? null
        : {
            milliseconds: ending,
            unknown: () => {
              this.#watch(work, asked, endpoint);
              return unknown();
            },
          },
    });
    const send = (outcome: Outcome, of: Exchange): Promise<Answer> => this.#send(read, of, outcome);
    const work: Promise<() => Promise<Answer>> =
      repeating === undefined
        ? this.#do(exchange, taken, paced).then((outcome) => () => send(outcome, exchange))
        : this.#kept(exchange, store, caller.given.now, repeating, async (within) =>
            send(await this.#do(within, taken, paced), within),
          ).then((answer) => async () => answer);
    const make = await limit.race(work).catch((error: unknown): never => {
      const { isStored } = exchange.progress;
      // Whatever stopped the rest, what is stored stays.
      const told = error === flight.giveUp.reason && isStored && !isReading(asked) ? unknown() : error;
      // Here it is known which members there are for this caller.
      throw asProblem(told, { method: asked.method, takes: taken.takes }, this.#settings.say);
    });
    return make();
  }

  #kept(
    exchange: Exchange,
    store: Store,
    now: Date,
    { kept, repeated }: { readonly kept: KeptAnswers; readonly repeated: Repeated },
    work: (within: Exchange) => Promise<Answer>,
  ): Promise<Answer> {
    const { transaction } = store;
    if (transaction === undefined)
      throw new Problem(400, { detail: 'Idempotency-Key is not taken here: the store has no transactions.' });
    const transacting = Object.assign(Object.create(store) as Store, {
      transaction: transaction.bind(store),
    });
    return kept.answer(transacting, repeated, now, (within) =>
      work({ ...exchange, store: this.#seen(within, exchange) }),
    );
  }

  #seen(store: Store, { caller, audience }: Pick<Exchange, 'caller' | 'audience'>): Exchange['store'] {
    return storeFor(store, { plan: this.#plan }, { ...caller.given.caller, audience }, caller.given.now);
  }

  #exchangeOf(read: Read, store: Store, paced: Paced): Exchange {
    const { admitted, taken, parameters, flight } = read;
    const { asked, endpoint, caller, audience, query, situation } = admitted;
    const { giveUp } = flight;
    return {
      asked,
      endpoint,
      sibling: this.#pipeline.prepared(endpoint).sibling,
      parameters,
      query,
      caller,
      audience,
      takes: taken.takes,
      files: taken.files && paced.files(taken.files),
      situation,
      store: this.#seen(store, { caller, audience }),
      settings: this.#settings,
      progress: { isStored: false },
      taken: () => paced.taken,
      get signal() {
        return giveUp.signal;
      },
      ...this.#rowsNamed(endpoint, parameters),
    };
  }

  /** The answer; what was stored is told as stored, even where its body cannot be made. */
  async #send(read: Read, exchange: Exchange, outcome: Outcome): Promise<Answer> {
    const { data, page, created, isBare } = outcome;
    const { endpoint, settings, progress } = exchange;
    const status = endpoint.operation === 'create' ? 201 : 200;
    const headers = this.#locationOf(exchange, created);
    const bare: Answer = {
      status: status === 200 ? 204 : status,
      headers: { 'cache-control': 'no-store', ...headers },
      content: null,
    };
    if (isBare === true) return bare;
    const { observed } = read;
    if (observed !== null) observed.rows = rowsIn(data);
    const streaming = {
      ended: (rows: number | null) => {
        if (observed !== null) observed.rows = rows;
        this.#end(read);
      },
    };
    try {
      return await this.#pipeline.send(read.admitted, { data, page, status, headers, streaming });
    } catch (error) {
      if (!progress.isStored) throw error;
      const about = { err: loggable(error), endpoint: endpoint.name };
      settings.log.error(
        about,
        'it was stored, and its answer could not be made: it was told without a body',
      );
      return bare;
    }
  }

  /** What comes of work whose caller was told that it took too long must reach somebody all the same. */
  #watch(work: Promise<unknown>, asked: Asked, endpoint: EndpointPlan): void {
    const { log } = this.#settings;
    const about = { method: asked.method, endpoint: endpoint.name };
    const done = (): void => {
      if (!isReading(asked)) log.error(about, 'was done after its time was up');
    };
    const failed = (error: unknown): void => {
      // Given up, or refused: it has changed nothing, and nothing is wrong here.
      if (!(error instanceof Problem))
        log.error({ err: loggable(error), ...about }, 'failed after its time was up');
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
  async #do(exchange: Exchange, { change }: Taken, paced: Paced): Promise<Outcome> {
    if (!isRows(change)) return this.#handled(exchange, change);
    try {
      return await this.#handled(exchange, paced.rows(change));
    } finally {
      change.end();
    }
  }

  #handled(exchange: Exchange, change: object | null): Promise<Outcome> {
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
