import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Readable } from 'node:stream';
import { type Answer, answerOf } from '../message/answer.js';
import { listBody, readied } from './connection.js';
import { directOf, type FetchHandler } from './fetch-handler.js';
import { noteHost } from './host-request.js';
import { fetchRequest, nodeAsked } from './node-asked.js';

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

/** What a handler answers, on the request itself where that is possible. */
const answered = async (
  handler: FetchHandler,
  request: FastifyRequestLike,
  outgoing: ServerResponse,
): Promise<Answer> => {
  const exchanged = { incoming: request.raw, outgoing, host: request, parsed: null };
  const direct = directOf(handler);
  const asked = direct && nodeAsked(exchanged);
  if (direct !== null && asked !== null) return direct(asked);
  return answerOf(await handler(noteHost(fetchRequest(exchanged), request)));
};

/** A content as Fastify sends it. Bytes have a known length; null would be sent as JSON. */
const contentOf = ({ content }: Answer, raw: IncomingMessage): Readable | Buffer | undefined => {
  if (content instanceof ReadableStream) return listBody(content, raw);
  if (content === null) return undefined;
  return typeof content === 'string'
    ? Buffer.from(content)
    : Buffer.from(content.buffer, content.byteOffset, content.length);
};

const answer = async (
  handler: FetchHandler,
  request: FastifyRequestLike,
  to: FastifyReplyLike,
): Promise<unknown> => {
  readied(request.raw, to.raw);
  const made = await answered(handler, request, to.raw);
  to.code(made.status);
  to.headers(made.headers);
  return to.send(contentOf(made, request.raw));
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
