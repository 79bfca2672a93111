import type { Store } from 'gribo';
import type { ApiPlan } from 'gribo/kit';
import type { EditionsSettings } from '../editions/editions-options.js';
import { checkHandlers } from '../handlers/check-handlers.js';
import type { AnyHandler } from '../handlers/handlers.js';
import { type Closing, close } from '../life/close.js';
import { Flights } from '../life/flights.js';
import { Health } from '../life/health.js';
import { isWatched, Observed } from '../life/observed.js';
import type { Answer } from '../message/answer.js';
import { type Asked, isReading } from '../message/asked.js';
import { type Identity, identityOf } from '../message/identity.js';
import { refusedOf } from '../problems/failed-response.js';
import { Problem } from '../problems/problem.js';
import { type Caller, type CallerSaid, callerOf } from '../request/caller.js';
import { notingHeaders, withNoted } from '../request/headers-read.js';
import { readableTypes } from '../request/read-body.js';
import { isRows } from '../request/read-rows.js';
import { allowedMethods, type Place } from '../request/routes.js';
import { splitUrl } from '../request/split-url.js';
import type { Settings } from '../settings/settings.js';
import { type KeptAnswers, type Repeated, repeatedBy } from '../stores/kept-answers.js';
import type { Replicas } from '../stores/replicas.js';
import type { Asking } from './asking.js';
import type { PipelineRules } from './pipeline.js';
import { type ReadRequest, RequestWork, type ServerParts } from './request-work.js';
import type { Side } from './side.js';
import { type Addressed, type EndpointAsked, Sides } from './sides.js';

/** What a server needs of the options, without their types. */
export interface ServerOptions extends PipelineRules {
  readonly store: Store | (() => Store | Promise<Store>);
  /** Null: all requests go to the store. */
  readonly replicas: Replicas | null;
  /** Null: nothing is kept, and no request is known again. */
  readonly kept: KeptAnswers | null;
  /** Null: nobody in particular, whoever asks. */
  readonly caller: ((request: Request) => CallerSaid | null | Promise<CallerSaid | null>) | null;
  /** Null: everybody is let in. */
  readonly admit: ((asking: Asking) => void | Promise<void>) | null;
  /** Whether the headers are noted that callers are known by. */
  readonly notesHeaders: boolean;
  readonly now: () => Date;
  readonly rowsOfHandlers: 'check' | 'trust';
  readonly handlers: Readonly<Record<string, AnyHandler | undefined>>;
  readonly base: string;
  readonly editions: EditionsSettings;
  /** The path at which it says how it is; null: at none. */
  readonly health: string | null;
  /** Whether a caller is told how long things took; null: none is. */
  readonly serverTiming: ((request: Request) => boolean) | null;
}

/** A request on its way, with what watches it: null where nobody does. */
type Underway = Pick<ReadRequest, 'flight' | 'observed'> & {
  /** Who asks; null as long as that is not known. */
  identity: Identity | null;
};

/** Whether a store could not do it: what a handler tells in its own name is not that. */
const isUnavailable = (error: unknown): boolean => {
  const { code } = ((error instanceof Problem ? error.cause : error) ?? {}) as { readonly code?: unknown };
  return code === 'UNAVAILABLE';
};

const endpointAt = ({ place }: Addressed, method: string): EndpointAsked | null => {
  const endpoint = place?.methods.get(method === 'HEAD' ? 'GET' : method);
  if (place === null || endpoint === undefined) return null;
  const parameters = endpoint.parameters.map((name, i) => [name, place.values[i] ?? ''] as const);
  return { endpoint, parameters: Object.fromEntries(parameters) };
};

const notAllowed = (place: Place): Problem => {
  const allow = allowedMethods(place);
  return new Problem(405, { detail: `There are: ${allow}.`, headers: { allow } });
};

/** One API behind HTTP. */
export class Server {
  readonly #options: ServerOptions;
  readonly #settings: Settings;
  readonly #sides: Sides;
  readonly #parts = new Map<Side, ServerParts>();
  readonly #flights = new Flights();
  readonly #health: Health;
  #store: Promise<Store> | null = null;

  constructor(plan: ApiPlan, options: ServerOptions, settings: Settings) {
    checkHandlers(plan, options.handlers);
    this.#options = options;
    this.#settings = settings;
    this.#sides = new Sides(plan, settings, options, options.editions, options.base);
    this.#health = new Health(() => this.#opened(), options.now);
  }

  close(closing: Closing): Promise<void> {
    return close(this.#flights, closing);
  }

  async answer(asked: Asked): Promise<Answer> {
    const isTimed = this.#options.serverTiming?.(asked.request) === true;
    const observed = isTimed || isWatched() ? new Observed(asked) : null;
    const flight = this.#flights.begin();
    // What is on its way is not there yet: whoever reads slowly is waited for too.
    if (asked.whenSent(() => flight.end())) flight.isTold = true;
    const answer = await this.#answer(asked, { flight, observed, identity: null });
    if (observed !== null) observed.status = answer.status;
    // Of a list that is sent while it is made, the end is told by whoever makes it.
    if (!(answer.content instanceof ReadableStream)) {
      flight.made();
      observed?.end();
    }
    const { isClosing } = this.#flights;
    if (!isClosing && !isTimed) return answer;
    const headers: Record<string, string> = { ...answer.headers };
    if (isTimed && observed !== null) headers['server-timing'] = observed.timing;
    if (isClosing) headers['connection'] = 'close';
    return { ...answer, headers };
  }

  async #answer(asked: Asked, underway: Underway): Promise<Answer> {
    let addressed: Addressed | null = null;
    let found: EndpointAsked | null = null;
    let answer: Answer;
    const { observed } = underway;
    try {
      const { path, search } = splitUrl(asked.url);
      if (path.length + search.length > this.#settings.limits.url) throw new Problem(414);
      if (path === this.#options.health && isReading(asked))
        return await this.#health.answer(asked.method, this.#flights.isClosing);
      addressed = this.#sides.addressed(asked, this.#within(path), this.#options.now());
      if (observed !== null) observed.edition = addressed.side.plan.edition?.name ?? null;
      found = endpointAt(addressed, asked.method);
      if (observed !== null) observed.endpoint = found?.endpoint.name ?? null;
      const place = this.#sides.open(addressed);
      if (asked.method === 'OPTIONS') return this.#optionsOf(place);
      if (found === null) throw notAllowed(place);
      addressed.side.pipeline.checkSite(asked);
      answer = await this.#serve(asked, found, addressed, underway);
    } catch (error) {
      const { pipeline } = addressed?.side ?? this.#sides.newest;
      const { identity } = underway;
      const said = addressed === null ? {} : { accept: addressed.accept };
      const refused = { ...refusedOf(asked), ...said, identity };
      answer = pipeline.failed(refused, found?.endpoint ?? null, error);
    }
    return this.#sides.told(answer, addressed, found);
  }

  /** A path without what all paths start with. @throws {Problem} 404 where it does not start with that */
  #within(path: string): string {
    const { base } = this.#options;
    const isHere =
      path.startsWith(base) && (base === '' || path.length === base.length || path[base.length] === '/');
    if (!isHere) throw new Problem(404, { detail: 'There is nothing at this path.' });
    return path.slice(base.length);
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

  async #serve(
    asked: Asked,
    { endpoint, parameters }: EndpointAsked,
    { side, accept, base, now }: Addressed,
    underway: Underway,
  ): Promise<Answer> {
    const { pipeline } = side;
    const noted = new Set<string>();
    const caller = await this.#callerOf(asked, noted, now);
    const identity = identityOf(caller.given.caller, side.plan.identity);
    underway.identity = identity;
    const { observed } = underway;
    if (observed !== null) observed.identity = identity;
    await this.#options.admit?.({
      request: asked.request,
      endpoint: endpoint.name,
      audience: caller.audience,
      identity,
      now,
    });
    const decidedBy = withNoted(this.#options.decidedBy, noted);
    const admitted = await pipeline.admit(asked, endpoint, caller, { accept, decidedBy });
    if (observed !== null) observed.audience = admitted.audience;
    const taken = await pipeline.read(asked, endpoint, admitted.audience);
    const read: ReadRequest = { ...underway, admitted, taken, parameters, base };
    const parts = this.#partsOf(side);
    if (!isReading(asked)) return this.#change(parts, read);
    const replica = this.#options.replicas?.choose(asked, identity) ?? null;
    if (replica === null) return new RequestWork(parts, read, await this.#opened()).answer(null);
    try {
      return await new RequestWork(parts, read, replica).answer(null);
    } catch (error) {
      if (!isUnavailable(error) || underway.flight.reason !== null) throw error;
      this.#options.replicas?.failed(replica);
      return new RequestWork(parts, read, await this.#opened()).answer(null);
    }
  }

  /** @param noted gets the headers that it is known by, where nobody has named them */
  async #callerOf(asked: Asked, noted: Set<string>, now: Date): Promise<Caller> {
    const { caller: said, notesHeaders } = this.#options;
    if (said === null) return callerOf(null, now);
    const { request } = asked;
    if (!notesHeaders) return callerOf(await said(request), now);
    return callerOf(await notingHeaders(request, noted, () => said(request)), now);
  }

  #partsOf(side: Side): ServerParts {
    let parts = this.#parts.get(side);
    if (parts === undefined) {
      const { plan, pipeline } = side;
      parts = { ...this.#options, plan, pipeline, settings: this.#settings };
      this.#parts.set(side, parts);
    }
    return parts;
  }

  async #change(parts: ServerParts, read: ReadRequest): Promise<Answer> {
    const { kept, replicas } = this.#options;
    const store = await this.#opened();
    const repeated = kept === null ? null : this.#repeatedBy(parts.plan, read);
    const repeating = kept === null || repeated === null ? null : { kept, repeated };
    try {
      return await new RequestWork(parts, read, store).answer(repeating);
    } finally {
      // Whoever was told that it may have been done, looks.
      replicas?.changed(read.admitted.asked, read.identity);
    }
  }

  /** What a request is known by when it comes again. @throws {Problem} 400 where it cannot be known */
  #repeatedBy({ edition }: ApiPlan, { admitted, taken, identity }: ReadRequest): Repeated | null {
    const { asked, audience } = admitted;
    const isWhole = taken.files === null && !isRows(taken.change);
    const repeated = repeatedBy(
      asked,
      identity,
      [audience, edition?.name],
      isWhole ? taken.change : null,
      this.#settings.formatParameter,
    );
    if (repeated === null || isWhole) return repeated;
    throw new Problem(400, {
      detail: 'Idempotency-Key is not taken here: lists and files are read while they are stored.',
    });
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
}
