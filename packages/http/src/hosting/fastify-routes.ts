import type { IncomingMessage, ServerResponse } from 'node:http';
import { Readable } from 'node:stream';
import { isStreamed } from '../message/answer.js';
import { listBody, readied } from './connection.js';
import type { FetchHandler } from './fetch-handler.js';
import { noteHost } from './host-request.js';

const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS'];

/** The part of a Fastify instance that is used. */
interface FastifyLike {
  removeAllContentTypeParsers(): unknown;
  addContentTypeParser(
    type: string,
    parse: (request: unknown, payload: unknown, done: (error: null) => void) => void,
  ): unknown;
  hasRoute(route: { readonly url: string; readonly method: string }): boolean;
  route(route: {
    readonly method: string[];
    readonly url: string;
    readonly handler: (request: FastifyRequestLike, reply: FastifyReplyLike) => Promise<unknown>;
  }): unknown;
}
interface FastifyRequestLike {
  readonly raw: IncomingMessage;
}
interface FastifyReplyLike {
  readonly raw: ServerResponse;
  code(status: number): unknown;
  headers(headers: Readonly<Record<string, string>>): unknown;
  send(body: Readable | Buffer | undefined): unknown;
}

/** A response's content: whole as its bytes, so that its length is known; a list while it is made. Null would be sent as JSON. */
const contentOf = async (
  response: Response,
  raw: IncomingMessage,
): Promise<Readable | Buffer | undefined> => {
  if (isStreamed(response)) return listBody(response.body, raw);
  return response.body === null ? undefined : Buffer.from(await response.arrayBuffer());
};

const answer = async (
  handler: FetchHandler,
  request: FastifyRequestLike,
  to: FastifyReplyLike,
): Promise<unknown> => {
  const { raw } = request;
  readied(raw, to.raw);
  const response = await handler(noteHost(fetchRequest(raw), request));
  to.code(response.status);
  to.headers(Object.fromEntries(response.headers));
  return to.send(await contentOf(response, raw));
};

/** A request of Node's as the Fetch standard has it. */
const fetchRequest = (raw: IncomingMessage): Request => {
  const { method = 'GET', url = '/', headers } = raw;
  const hasBody = method !== 'GET' && method !== 'HEAD';
  const list = Object.entries(headers).flatMap(([name, value]): [string, string][] =>
    value === undefined ? [] : [[name, String(value)]],
  );
  // The two standards' types of the same stream differ in name only.
  const body = hasBody ? { body: Readable.toWeb(raw) as unknown as BodyInit, duplex: 'half' } : {};
  return new Request(`http://${headers.host}${url}`, { method, headers: list, ...body });
};

/**
 * Hosts a handler in Fastify, as a plugin: within it, bodies are left to the handler.
 *
 * @param handler what `serve` returned
 * @example
 * app.register(fastifyRoutes(serve(harbour, { store })));
 */
export const fastifyRoutes = (handler: FetchHandler): ((app: FastifyLike) => Promise<void>) => {
  return async (app) => {
    app.removeAllContentTypeParsers();
    app.addContentTypeParser('*', (_request, _payload, done) => done(null));
    // Whoever answers the preflights of all paths does so here too.
    const method = METHODS.filter((name) => !app.hasRoute({ url: '/*', method: name }));
    // Sent by Fastify, the response goes through its hooks: those of CORS and of compression among them.
    app.route({
      method,
      url: '/*',
      handler: (request, to) => answer(handler, request, to),
    });
  };
};
