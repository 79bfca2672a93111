import { deserialize, serialize } from 'node:v8';
import { GriboError, type Store, storeFor } from 'gribo';
import type { ApiPlan } from 'gribo/kit';
import type { AnyHandler } from '../handlers/handlers.js';
import { Handling } from '../handlers/handling.js';
import type { Flight } from '../life/flights.js';
import type { Observed } from '../life/observed.js';
import type { Answer } from '../message/answer.js';
import { type Asked, isReading } from '../message/asked.js';
import type { Identity } from '../message/identity.js';
import type { Exchange } from '../operations/exchange.js';
import { operate } from '../operations/operate.js';
import type { Outcome } from '../operations/outcome.js';
import { locationOf, rowsNamed } from '../operations/rows-named.js';
import { asProblem } from '../problems/as-problem.js';
import { loggable } from '../problems/loggable.js';
import { Problem } from '../problems/problem.js';
import { isRows } from '../request/read-rows.js';
import type { Streaming } from '../response/send.js';
import type { Settings } from '../settings/settings.js';
import { type Lateness, TimeLimit, tooSlow } from '../settings/time-limit.js';
import type { KeptAnswers, Made, Repeated } from '../stores/kept-answers.js';
import { Paced } from './paced.js';
import type { Admitted, Pipeline, Taken } from './pipeline.js';

/** What all requests of a server share. */
export interface ServerParts {
  readonly plan: ApiPlan;
  readonly settings: Settings;
  readonly pipeline: Pipeline;
  readonly handlers: Readonly<Record<string, AnyHandler | undefined>>;
  readonly rowsOfHandlers: 'check' | 'trust';
}

/** What is known of a request when it is let in and read. */
export interface ReadRequest {
  readonly flight: Flight;
  /** Null where nobody watches. */
  readonly observed: Observed | null;
  /** Who asks; null where nothing says who it is. */
  readonly identity: Identity | null;
  readonly admitted: Admitted;
  readonly taken: Taken;
  readonly parameters: Readonly<Record<string, string>>;
  /** What paths of its edition start with. */
  readonly base: string;
}

/** Where answers are kept, and what a request is known by there. */
export interface Repeating {
  readonly kept: KeptAnswers;
  readonly repeated: Repeated;
}

/** Whoever asked has gone, so that nobody is told of it. */
const gone = (): Problem => new Problem(408, { detail: 'The client has gone.' });

/** What is loaded ahead of a list that has ended is of no use. */
const over = (): GriboError => new GriboError('ENDED', 'response', 'the list has ended');

/** How many rows an answer has: those of a list, or one; null where that is not known yet, or there are none. */
const rowsIn = (data: unknown): number | null => {
  if (Array.isArray(data)) return data.length;
  if (typeof data !== 'object' || data === null || Symbol.asyncIterator in data) return null;
  const { items } = data as { readonly items?: unknown };
  return Array.isArray(items) ? items.length : 1;
};

/** What an answer is written from, as it can be kept; null where it cannot. */
const keepable = (data: unknown): Uint8Array | null => {
  if (data === null || data === undefined) return null;
  try {
    return serialize(data);
  } catch {
    // It has functions in it: then it is given again in the format that it was given in.
    return null;
  }
};

/** An outcome whose rows are there: they come once, and are needed twice. */
const whole = async (outcome: Outcome, most: number): Promise<Outcome> => {
  const { data } = outcome;
  if (typeof data !== 'object' || data === null || Array.isArray(data)) return outcome;
  if (!(Symbol.asyncIterator in data) && !(Symbol.iterator in data)) return outcome;
  const rows: object[] = [];
  for await (const row of data as AsyncIterable<object>)
    if (rows.push(row) > most)
      throw new Problem(406, { detail: 'The list is too long to be kept: send it without Idempotency-Key.' });
  return { ...outcome, data: rows };
};

/** Does what one request asks for, in time, and makes the answer: what it tells is how it is. */
export class RequestWork implements Lateness, Streaming {
  readonly #server: ServerParts;
  readonly #read: ReadRequest;
  readonly #store: Store;
  readonly #exchange: Exchange;
  readonly #limit: TimeLimit;
  /** Rows and files that come while they are worked on; null where there are none. */
  readonly #paced: Paced | null;
  #work: Promise<unknown> = Promise.resolve();

  constructor(server: ServerParts, read: ReadRequest, store: Store) {
    this.#server = server;
    this.#read = read;
    this.#store = this.#scoped(store);
    this.#limit = new TimeLimit(server.settings.limits.answering, this);
    const { change, files } = read.taken;
    this.#paced = files === null && !isRows(change) ? null : new Paced(this.#limit);
    this.#exchange = this.#exchangeOf();
  }

  get #asked(): Asked {
    return this.#read.admitted.asked;
  }

  /** @param repeating where the answer is kept; null: it is not */
  async answer(repeating: Repeating | null): Promise<Answer> {
    if (repeating !== null) return this.#inTime(this.#kept(repeating));
    return this.#send(this.#exchange, await this.#inTime(this.#do(this.#exchange)));
  }

  async #inTime<T>(work: Promise<T>): Promise<T> {
    this.#work = work;
    try {
      return await this.#limit.race(work);
    } catch (error) {
      // Here it is known which members there are for this caller.
      throw asProblem(this.#told(error), this.#wanted, this.#server.settings.say);
    }
  }

  get #wanted() {
    return { method: this.#asked.method, takes: this.#read.taken.takes };
  }

  /** Whatever stopped the rest, what is stored stays: then it is not told as undone. */
  #told(error: unknown): unknown {
    const isGivenUp = error === this.#read.flight.reason;
    const isHalf = this.#exchange.progress.isStored && !isReading(this.#asked);
    return isGivenUp && isHalf ? this.#unknown() : error;
  }

  #unknown(): Problem {
    return tooSlow(this.#server.settings.limits.answering, 'unknown');
  }

  late(): Problem {
    const { answering } = this.#server.settings.limits;
    const isChange = !isReading(this.#asked);
    const told = tooSlow(answering, isChange ? 'unchanged' : 'read');
    this.#read.flight.giveUp.abort(told);
    if (!isChange) this.#watch();
    return told;
  }

  get ending(): Lateness['ending'] {
    if (isReading(this.#asked)) return null;
    const unknown = (): Problem => {
      this.#watch();
      return this.#unknown();
    };
    return { milliseconds: this.#server.settings.limits.ending, unknown };
  }

  /** The store for this request: what it does is given up with that. */
  #scoped(store: Store): Store {
    if (store.scoped === undefined) return store;
    const { flight, observed } = this.#read;
    const { signal } = flight.giveUp;
    // What changes something is done, whether or not anybody waits for the answer.
    if (isReading(this.#asked)) this.#asked.whenGone(() => flight.giveUp.abort(gone()));
    const ran = (statement: string, milliseconds: number): void => observed?.ran(statement, milliseconds);
    return store.scoped(observed === null ? { signal } : { signal, ran });
  }

  #seen(store: Store): Exchange['store'] {
    const { audience, caller } = this.#read.admitted;
    const { plan } = this.#server;
    return storeFor(store, { plan }, { ...caller.given.caller, audience }, caller.given.now);
  }

  #exchangeOf(): Exchange {
    const { admitted, taken, parameters, flight } = this.#read;
    const { asked, endpoint, caller, audience, query, situation } = admitted;
    const { settings, pipeline } = this.#server;
    const paced = this.#paced;
    return {
      asked,
      endpoint,
      sibling: pipeline.prepared(endpoint).sibling,
      parameters,
      query,
      caller,
      audience,
      takes: taken.takes,
      files: taken.files && (paced?.files(taken.files) ?? null),
      situation,
      store: this.#seen(this.#store),
      settings,
      progress: { isStored: false },
      hasParent: false,
      taken: () => paced?.taken ?? 0,
      get signal() {
        return flight.giveUp.signal;
      },
      ...rowsNamed(endpoint, parameters),
    };
  }

  /** The answer is kept in the transaction of the change, so it is made there. */
  async #kept({ kept, repeated }: Repeating): Promise<Answer> {
    const { progress, caller, settings, endpoint } = this.#exchange;
    const { now } = caller.given;
    const work = {
      steady: this.#server.handlers[endpoint.name] !== undefined,
      first: async (within: Store): Promise<Made> => {
        const exchange = { ...this.#exchange, store: this.#seen(within) };
        const outcome = await whole(await this.#do(exchange), settings.limits.rows);
        return { answer: await this.#send(exchange, outcome), made: keepable(outcome.data) };
      },
      again: (before: Made): Promise<Answer> => this.#again(before),
    };
    let answer: Answer;
    try {
      answer = await kept.answer(this.#store, repeated, now, work);
    } catch (error) {
      // Whatever was stored is taken back with it.
      progress.isStored = false;
      throw error;
    }
    await kept.sweep(this.#store, now).catch((error: unknown) => {
      const about = { err: loggable(error), endpoint: endpoint.name };
      settings.log.error(about, 'answers that are too old could not be removed');
    });
    return answer;
  }

  /** An answer that was given, in the format that is asked for now. */
  async #again({ answer, made }: Made): Promise<Answer> {
    const { admitted } = this.#read;
    const { 'content-type': type, ...headers } = answer.headers;
    if (admitted.choice === null || made === null || type === admitted.choice.contentType) return answer;
    try {
      const sent = { data: deserialize(made), page: null, status: answer.status, headers };
      return await this.#server.pipeline.send(admitted, sent);
    } catch {
      // The shape has changed since, or has no such format: what was told then is still right.
      return answer;
    }
  }

  /** What the handler makes of the request, or the operation itself. */
  async #do(exchange: Exchange): Promise<Outcome> {
    const { change } = this.#read.taken;
    if (!isRows(change) || this.#paced === null) return this.#handled(exchange, change);
    try {
      return await this.#handled(exchange, this.#paced.rows(change));
    } finally {
      change.end();
    }
  }

  #handled(exchange: Exchange, change: object | null): Promise<Outcome> {
    const { handlers, rowsOfHandlers, plan } = this.#server;
    const handler = handlers[exchange.endpoint.name];
    if (handler === undefined) return operate(exchange, change);
    return new Handling(exchange, change, plan, rowsOfHandlers).run(handler);
  }

  /** The answer; what was stored is told as stored, even where its body cannot be made. */
  async #send(exchange: Exchange, { data, page, created, isBare }: Outcome): Promise<Answer> {
    const { endpoint, settings, progress } = exchange;
    const status = endpoint.operation === 'create' ? 201 : 200;
    const headers = locationOf(exchange, this.#read.base, created);
    const bare: Answer = {
      status: status === 200 ? 204 : status,
      headers: { 'cache-control': 'no-store', ...headers },
      content: null,
    };
    if (isBare === true) return bare;
    const { observed } = this.#read;
    if (observed !== null) observed.rows = rowsIn(data);
    const sent = { data, page, status, headers, streaming: this };
    try {
      return await this.#server.pipeline.send(this.#read.admitted, sent);
    } catch (error) {
      // A list that came too late is still being loaded.
      if (error instanceof Problem && isReading(this.#asked)) this.#read.flight.giveUp.abort(error);
      if (!progress.isStored) throw error;
      const about = { err: loggable(error), endpoint: endpoint.name };
      settings.log.error(
        about,
        'it was stored, and its answer could not be made: it was told without a body',
      );
      return bare;
    }
  }

  /** A long list has been sent, or is not to be sent any further: then nothing more is loaded for it. */
  ended(rows: number | null): void {
    const { observed, flight } = this.#read;
    if (this.#store.scoped !== undefined && isReading(this.#asked)) flight.giveUp.abort(over());
    if (observed !== null) observed.rows = rows;
    flight.made();
    observed?.end();
  }

  /** What comes of work whose caller was told that it took too long must reach somebody all the same. */
  #watch(): void {
    const { log } = this.#server.settings;
    const { asked, endpoint } = this.#read.admitted;
    const about = { method: asked.method, endpoint: endpoint.name };
    const done = (): void => {
      if (!isReading(asked)) log.error(about, 'was done after its time was up');
    };
    const failed = (error: unknown): void => {
      // Given up, or refused: it has changed nothing, and nothing is wrong here.
      if (!(error instanceof Problem))
        log.error({ err: loggable(error), ...about }, 'failed after its time was up');
    };
    this.#work.then(done, failed);
  }
}
