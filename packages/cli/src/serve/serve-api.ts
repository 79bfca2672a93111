import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { type FetchHandler, type Handlers, nodeListener, Problem, serve } from '@gribo/http';
import type { AnyApi, CallerGiven, Store } from 'gribo';
import { didYouMean, type FactPlan, sayWanted, valueFromText } from 'gribo/kit';
import { editionNaming } from '../asked/asked-edition.js';
import { askingAs } from '../asked/caller.js';
import { pickAudience } from '../asked/situation.js';
import { BOARD_PATH, BoardServer } from '../board/board-server.js';
import type { GriboConfig } from '../config/config.js';
import { loadConfig } from '../config/load-config.js';
import { momentOf } from '../config/moment-of.js';
import { sampleStore } from '../config/samples-of.js';
import { watchDeclarations } from '../config/watch.js';
import { describeFailure, Mistake } from '../screen/mistake.js';
import type { Screen } from '../screen/screen.js';
import { announce } from './announce.js';
import { type AnsweringOptions, answering } from './answering.js';
import { type Pretence, pretenceOf, pretendedProblem } from './pretence.js';
import { standIns } from './stand-ins.js';

export interface ServeOptions extends AnsweringOptions {
  readonly samples?: boolean;
  readonly port: number;
  readonly audience?: string;
}

const HOST = '127.0.0.1';
const HEADER = 'x-audience';
const CALLER = 'x-caller';
const FACTS = 'x-facts';

/** Whom a request names in a header; undefined where it names nobody. */
const namedIn = <T>(request: Request, header: string, known: ReadonlyMap<string, T>): T | undefined => {
  const named = request.headers.get(header);
  if (named === null) return undefined;
  const found = known.get(named);
  if (found !== undefined) return found;
  throw new Problem(400, { detail: `${header} must be one of ${[...known.keys()].join(', ')}.` });
};

/** The facts that a request says of its caller: `operatorId=3&zone=UTC`, each as it stands in a query. */
const factsSaid = (request: Request, known: readonly FactPlan[]): Readonly<Record<string, unknown>> => {
  const said = request.headers.get(FACTS);
  if (said === null) return {};
  return Object.fromEntries(
    [...new URLSearchParams(said)].map(([name, text]) => {
      const fact = known.find((each) => each.name === name);
      if (fact === undefined)
        throw new Problem(400, {
          detail: `${FACTS}: there is no fact "${name}".${didYouMean(
            name,
            known.map((each) => each.name),
          )}`,
        });
      if (fact.nullable && text === 'null') return [name, null];
      const got = valueFromText(fact, text);
      if (!got.ok)
        throw new Problem(400, { detail: `${FACTS}: ${name} must be ${sayWanted(got.wanted, got.limits)}.` });
      return [name, got.value];
    }),
  );
};

/** Who asks: whom the request names itself, for this is for development; else as the configuration says. */
const callerOf = (config: GriboConfig, otherwise: CallerGiven | null, pretend: Pretence | null) => {
  const callers = new Map(Object.entries(config.callers ?? {}));
  const audiences = new Map(
    config.api.plan.audiences.map((audience) => [audience, askingAs(config, { audience }).caller]),
  );
  return async (request: Request): Promise<CallerGiven | null> => {
    const status = pretenceOf(request, pretend)?.status ?? null;
    // Thrown here, it is told in the format that the caller accepts, as any other problem is.
    if (status !== null) throw pretendedProblem(status);
    const facts = factsSaid(request, config.api.plan.caller);
    const named =
      namedIn<CallerGiven>(request, CALLER, callers) ?? namedIn<CallerGiven>(request, HEADER, audiences);
    const found = named ?? otherwise ?? (await config.caller?.(request)) ?? null;
    return Object.keys(facts).length === 0 ? found : { ...found, ...facts };
  };
};

/** Whether a request names this machine: a page elsewhere may have a name of its own that leads here. */
const isForHere = ({ hostname }: URL): boolean => hostname === HOST || hostname === 'localhost';

/** Opens a port of this machine alone. */
const listening = async (server: Server, wanted: number): Promise<number> => {
  await new Promise<void>((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      const isTaken = error.code === 'EADDRINUSE';
      reject(isTaken ? new Mistake(`Something is at port ${wanted} already: name another, --port.`) : error);
    });
    server.listen(wanted, HOST, resolve);
  });
  return (server.address() as AddressInfo).port;
};

/** Serves the API with its board on this machine alone, on its store or on sample rows, until it is ended. */
export const serveApi = async (
  config: GriboConfig,
  configPath: string,
  openStore: () => Promise<Store>,
  options: ServeOptions,
  screen: Screen,
): Promise<void> => {
  const otherwise = pickAudience(config, options.audience);
  const store = options.samples === true ? sampleStore(config) : await openStore();
  const board = new BoardServer(config, configPath, store);
  const handlerOf = (declared: GriboConfig): FetchHandler =>
    serve(declared.api, {
      store,
      // Whose types they are of only the configuration knows.
      handlers: { ...declared.handlers, ...standIns(declared, options.samples === true) } as Handlers<AnyApi>,
      ...(declared.now === undefined ? {} : { now: declared.now }),
      caller: callerOf(
        declared,
        otherwise === null ? null : askingAs(declared, { audience: otherwise }).caller,
        options.pretend ?? null,
      ),
      formatParameter: true,
      // Whoever asks here develops it.
      failures: 'tell',
      // A page on another port or site must not write here, whoever it says it is.
      otherSites: 'refuse',
      decidedBy: ['X-Caller', 'X-Audience', 'X-Facts', 'Authorization', 'Cookie'],
      ...(declared.formats === undefined ? {} : { formats: declared.formats }),
      ...(declared.policies === undefined ? {} : { policies: declared.policies }),
      ...(declared.cache === undefined ? {} : { cache: declared.cache }),
      ...(declared.editions === undefined ? {} : { editions: declared.editions }),
      ...(declared.unnamed === undefined ? {} : { unnamed: declared.unnamed }),
    });
  let api = handlerOf(config);
  const { version } = config.api.plan;
  const deciding = Object.keys(editionNaming(config).headers);
  const asked = answering(options, { version, deciding, now: () => momentOf(config) }, (request) =>
    api(request),
  );
  const handle = async (request: Request): Promise<Response> => {
    const url = new URL(request.url);
    if (!isForHere(url)) return new Response(`Ask for ${HOST}.`, { status: 421 });
    const { pathname, searchParams } = url;
    if (pathname === BOARD_PATH) return Response.redirect(new URL(`${BOARD_PATH}/${url.search}`, url), 302);
    if (!pathname.startsWith(`${BOARD_PATH}/`)) return asked(request);
    if (request.method === 'POST' && pathname === `${BOARD_PATH}/draft`) return board.write(request);
    if (request.method !== 'GET' && request.method !== 'HEAD')
      return new Response('The board is only read.', { status: 405, headers: { allow: 'GET, HEAD' } });
    return board.handle(pathname.slice(BOARD_PATH.length), searchParams);
  };
  const server = createServer(nodeListener(handle));
  const port = await listening(server, options.port);
  const changed = async (): Promise<void> => {
    try {
      const next = await loadConfig(configPath);
      api = handlerOf(next);
      board.changed(next);
    } catch (error) {
      // What was served before goes on until the declaration is mended.
      screen.print(screen.colours.red(describeFailure(error).message));
    }
  };
  const watching = (): void =>
    announce(config, { ...options, address: `http://${HOST}:${port}`, header: HEADER }, screen);
  await watchDeclarations(configPath, { watching, changed });
  board.end();
  await new Promise<void>((resolve) => {
    server.close(() => resolve());
    server.closeAllConnections();
  });
};
