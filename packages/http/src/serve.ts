import type { AnyApi, CallerIn, NameIn, Store } from 'gribo';
import { clock } from 'gribo/kit';
import { type EditionsOptions, editionsSettingsOf } from './editions/editions-options.js';
import type { AnyHandler, Handlers } from './handlers/handlers.js';
import { type Served, withDirect } from './hosting/fetch-handler.js';
import { responseOf } from './message/answer.js';
import { askedOf } from './message/asked.js';
import type { Asking } from './pipeline/asking.js';
import { Server } from './pipeline/server.js';
import { type SiteOptions, siteRulesOf } from './request/check-site.js';
import { checkCaller } from './settings/check-caller.js';
import { decidedByOf, type FormatOptions, settingsOf } from './settings/settings.js';
import { keptAnswersOf, type RepeatsOptions } from './stores/kept-answers.js';
import { type ReadsOptions, replicasOf } from './stores/replicas.js';

export interface ServeOptions<P extends AnyApi>
  extends FormatOptions,
    SiteOptions,
    ReadsOptions,
    RepeatsOptions,
    EditionsOptions<P> {
  /** Where the rows are, or a function that opens it at the first request. */
  readonly store: Store | (() => Store | Promise<Store>);
  /**
   * Who asks: `{ audience }` and the facts that the API declares; null: nobody in particular. Throw a `Problem` to turn a
   * request away. Left out, every response is for nobody in particular, and nothing that is meant for an audience is sent.
   */
  readonly caller?: (request: Request) => CallerIn<P> | null | Promise<CallerIn<P> | null>;
  /**
   * Is asked before anything of a request is read or done: who asks for which endpoint, by the identity of `callerOf`. Throw a
   * `Problem` to refuse it, such as 429 where somebody asks too often. Default: all are let in.
   */
  readonly admit?: (asking: Asking) => void | Promise<void>;
  /**
   * The clock. It is asked once for each request, and all that the request does goes by its moment: `now` in conditions, what is
   * stamped, what a store in memory generates, kept answers, which editions have ended. Default: the program's.
   */
  readonly now?: () => Date;
  /** What replaces or adds to what operations do. */
  readonly handlers?: Handlers<P>;
  /**
   * Rows that handlers give and that their `store` did not: looked up, so that none goes out which its caller may not see by a
   * row rule, or trusted. Default: `check`.
   */
  readonly rowsOfHandlers?: 'check' | 'trust';
  /** What all paths start with, such as `/api`. Default: nothing. */
  readonly base?: string;
  /** Query parameters that are not known: refused with 400, or passed over. Default: `refuse`. */
  readonly unknownParameters?: 'refuse' | 'ignore';
  /**
   * The request's headers that `caller` looks at: caches keep what they lead to apart. Default: `['Authorization', 'Cookie']`,
   * and those that `caller` asks for by their names.
   */
  readonly decidedBy?: readonly string[];
  /** A path at which the service says whether it can answer, without asking who asks: `/health`. Default: none. */
  readonly health?: string;
  /** Whether `Server-Timing` tells callers how long the answer and its statements took: all, or those of some requests. Default: none. */
  readonly serverTiming?: boolean | ((request: Request) => boolean);
  /** Seconds that responses may be kept, by endpoint. The others are asked again each time. */
  readonly cache?: { readonly [Name in NameIn<P>]?: number };
}

const timingOf = (
  said: ServeOptions<AnyApi>['serverTiming'] = false,
): ((request: Request) => boolean) | null => {
  if (typeof said === 'function') return said;
  return said ? () => true : null;
};

/**
 * Serves an API: routes, reads, loads, writes. What it returns mounts wherever the Fetch standard is
 * spoken; `nodeListener` hosts it in `node:http`, Express and Fastify.
 *
 * @param api the API
 * @param options `store`, and what else `ServeOptions` lists
 * @returns a function from a request to its response, which never throws; `close` lets it end
 * @throws {DeclarationError} `DECLARATION` where an endpoint needs a handler and has none, or a
 * handler has no endpoint, or facts about callers are needed and nobody gives them
 * @example
 * const handle = serve(harbour, { store, caller: (request) => ({ audience: audienceOf(request) }) });
 */
export const serve = <P extends AnyApi>(api: P, options: ServeOptions<P>): Served => {
  const { store, caller, base = '', unknownParameters = 'refuse' } = options;
  const isDecided = caller !== undefined;
  if (!isDecided) checkCaller(api);
  const decidedBy = decidedByOf(options.decidedBy, isDecided);
  const server = new Server(
    api.plan,
    {
      store,
      caller: caller ?? null,
      admit: options.admit ?? null,
      notesHeaders: options.decidedBy === undefined,
      now: options.now ?? clock,
      decidedBy,
      replicas: replicasOf(options, decidedBy ?? []),
      kept: keptAnswersOf(options, api.plan.identity, isDecided),
      health: options.health ?? null,
      serverTiming: timingOf(options.serverTiming),
      ...siteRulesOf(options, isDecided),
      base: base.replace(/\/$/, ''),
      editions: editionsSettingsOf(options as EditionsOptions<AnyApi>),
      unknownParameters,
      // By name: that each handler is given what its endpoint has is what `Handlers` says.
      handlers: (options.handlers ?? {}) as Readonly<Record<string, AnyHandler | undefined>>,
      rowsOfHandlers: options.rowsOfHandlers ?? 'check',
      cache: (options.cache ?? {}) as Readonly<Record<string, number | undefined>>,
    },
    settingsOf(options),
  );
  return withDirect(
    async (request) => responseOf(await server.answer(askedOf(request))),
    (asked) => server.answer(asked),
    (closing = {}) => server.close(closing),
  );
};
