import type { IncomingMessage, ServerResponse } from 'node:http';
import { getRequestListener } from '@hono/node-server';
import type { FetchHandler } from './serve.js';

/** What `node:http` calls with each request; Express takes it as a handler too. */
export type NodeListener = (request: IncomingMessage, response: ServerResponse) => void;

/**
 * Hosts a handler in `node:http` or Express. In Express, mount it before any body parser: it reads
 * bodies itself.
 *
 * @param handler what `serve` returned
 * @example
 * createServer(nodeListener(serve(harbour, { store }))).listen(8080, '127.0.0.1');
 */
export const nodeListener = (handler: FetchHandler): NodeListener => {
  const listen = getRequestListener(handler, { overrideGlobalObjects: false });
  return (request, response) => {
    // Express takes away what it was mounted at; the API's own paths say where it is.
    const { originalUrl } = request as IncomingMessage & { originalUrl?: string };
    if (originalUrl !== undefined) request.url = originalUrl;
    // What goes wrong with a connection is told by the connection itself.
    void listen(request, response);
  };
};

/** The part of a Fastify instance that is used. */
interface FastifyLike {
  removeAllContentTypeParsers(): unknown;
  addContentTypeParser(
    type: string,
    parse: (request: unknown, payload: unknown, done: (error: null) => void) => void,
  ): unknown;
  all(path: string, answer: (request: FastifyRequestLike, reply: FastifyReplyLike) => void): unknown;
}
interface FastifyRequestLike {
  readonly raw: IncomingMessage;
}
interface FastifyReplyLike {
  readonly raw: ServerResponse;
  hijack(): unknown;
}

/**
 * Hosts a handler in Fastify, as a plugin: within it, bodies are left to the handler.
 *
 * @param handler what `serve` returned
 * @example
 * app.register(fastifyRoutes(serve(harbour, { store })));
 */
export const fastifyRoutes = (handler: FetchHandler): ((app: FastifyLike) => Promise<void>) => {
  const listen = nodeListener(handler);
  return async (app) => {
    app.removeAllContentTypeParsers();
    app.addContentTypeParser('*', (_request, _payload, done) => done(null));
    app.all('/*', (request, reply) => {
      reply.hijack();
      listen(request.raw, reply.raw);
    });
  };
};
