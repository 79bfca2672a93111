import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { nodeListener, type Served, type ServeOptions, serve } from '@gribo/http';
import { type AnyApi, type CallerIn, type MemoryStore, memoryStore } from 'gribo';
import type { LinkedEntities } from 'gribo/kit';

export interface TestServerOptions<P extends AnyApi> extends Omit<ServeOptions<P>, 'store' | 'caller'> {
  /** The rows that are stored, by the names of their entities: `make.rows()` of a factory, or your own. Default: none. */
  readonly rows?: Readonly<Record<string, Iterable<object>>>;
}

/** One request. */
export interface Asking<P extends AnyApi> {
  /** Who asks: the audience and facts. Default: nobody in particular. */
  readonly as?: CallerIn<P> | null;
  /** What is sent, as JSON; a text, bytes or a form is sent as it is. */
  readonly body?: unknown;
  readonly headers?: Readonly<Record<string, string>>;
}

/** An API on rows in memory. */
export interface TestServer<P extends AnyApi> {
  /** The rows, as the requests have left them. */
  readonly store: MemoryStore;
  /** @example await server.ask('GET /vessels/3', { as: { audience: 'agent' } }) */
  ask(route: string, asking?: Asking<P>): Promise<Response>;
  /** The address of a real server on a free port of this machine, for clients that need one; started when it is first asked for. */
  url(): Promise<string>;
  close(): Promise<void>;
}

const isRaw = (body: unknown): body is BodyInit =>
  typeof body === 'string' ||
  body instanceof Uint8Array ||
  body instanceof FormData ||
  body instanceof URLSearchParams;

const initOf = (method: string, { body, headers = {} }: Asking<AnyApi>): RequestInit => {
  if (body === undefined) return { method, headers };
  if (isRaw(body)) return { method, headers, body };
  return { method, headers: { 'content-type': 'application/json', ...headers }, body: JSON.stringify(body) };
};

const listening = async (handle: Served): Promise<Server> => {
  const server = createServer(nodeListener(handle));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return server;
};

/**
 * An API on rows in memory, for tests: who asks is said with each request, in the place of tokens. Where no edition is named, it is
 * the newest.
 *
 * @param api the API
 * @param model the model
 * @param options `rows`, and what `serve` takes
 * @returns `ask`, `store`, `url` and `close`
 * @throws {DeclarationError} `DECLARATION` as `serve` does
 * @example
 * const server = testServer(harbour, db, { rows: make.rows() });
 * const response = await server.ask('GET /vessels/3', { as: { audience: 'agent' } });
 */
export const testServer = <P extends AnyApi>(
  api: P,
  model: LinkedEntities,
  { rows = {}, ...options }: TestServerOptions<P> = {},
): TestServer<P> => {
  const store = memoryStore(model as Parameters<typeof memoryStore>[0], rows as never);
  const callers = new WeakMap<Request, CallerIn<P> | null>();
  const handle = serve<AnyApi>(api, {
    failures: 'tell',
    unnamed: 'newest',
    ...options,
    store,
    caller: (request) => callers.get(request) ?? null,
  } as ServeOptions<AnyApi>);
  let server: Promise<Server> | null = null;
  return {
    store,
    ask: (route, asking = {}) => {
      const [method = 'GET', path = '/'] = route.split(' ');
      const request = new Request(new URL(path, 'http://api.test'), initOf(method, asking as Asking<AnyApi>));
      callers.set(request, asking.as ?? null);
      return handle(request);
    },
    url: async () => {
      server ??= listening(handle);
      return `http://127.0.0.1:${((await server).address() as AddressInfo).port}`;
    },
    close: async () => {
      const open = await server;
      await handle.close(open === null ? { within: 1_000 } : { within: 1_000, server: open });
    },
  };
};
