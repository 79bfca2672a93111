import type { IncomingMessage, ServerResponse } from 'node:http';
import type { Http2ServerRequest, Http2ServerResponse } from 'node:http2';
import type { HttpBindings } from '@hono/node-server';
import { type Answer, isStreamed } from '../message/answer.js';
import { listBody, readied } from './connection.js';
import { directOf, type FetchHandler } from './fetch-handler.js';
import { noteHost } from './host-request.js';
import { nodeAsked } from './node-asked.js';

/** What `node:http` and `node:http2` call with each request; Express takes it as a handler too. */
export type NodeListener = (
  request: IncomingMessage | Http2ServerRequest,
  response: ServerResponse | Http2ServerResponse,
) => void;

/** The most bytes of content that are copied to be sent along with the headers. */
const ONE_PIECE = 8192;

type Content = ReadableStream<Uint8Array> | null;

/** Sends a list while it is made. That its client goes away is no failure. */
const sendStream = (content: Content, incoming: IncomingMessage, outgoing: ServerResponse): Promise<void> =>
  new Promise((resolve) => {
    const body = listBody(content, incoming);
    outgoing.once('close', () => {
      body.destroy();
      resolve();
    });
    body.pipe(outgoing);
  });

/** Sends an answer as it is. Whole, its length is known. */
const sendAnswer = (
  { status, headers, content }: Answer,
  incoming: IncomingMessage,
  outgoing: ServerResponse,
): void => {
  if (content instanceof ReadableStream) {
    outgoing.writeHead(status, headers);
    void sendStream(content, incoming, outgoing);
    return;
  }
  if (content === null) {
    outgoing.writeHead(status, headers).end();
    return;
  }
  outgoing.writeHead(status, { ...headers, 'content-length': Buffer.byteLength(content) });
  // As text that stands for its bytes, it goes out with the headers in one piece.
  if (typeof content === 'string') outgoing.end(content);
  else if (content.length > ONE_PIECE) outgoing.end(content);
  else
    outgoing.end(
      Buffer.from(content.buffer, content.byteOffset, content.length).toString('latin1'),
      'latin1',
    );
};

/** Hosts a handler that takes requests of the web only. What makes them is loaded where there is such a handler. */
const wrappingListener = async (handler: FetchHandler) => {
  const [{ getRequestListener }, { RESPONSE_ALREADY_SENT }] = await Promise.all([
    import('@hono/node-server'),
    import('@hono/node-server/utils/response'),
  ]);
  const answer = async (request: Request, { incoming, outgoing }: HttpBindings): Promise<Response> => {
    const response = await handler(noteHost(request, incoming));
    // What is said of a connection has no place in HTTP/2 (RFC 9113, section 8.2.2).
    if (incoming.httpVersionMajor > 1) response.headers.delete('connection');
    if (!isStreamed(response)) return response;
    outgoing.writeHead(response.status, Object.fromEntries(response.headers));
    // Node's own HTTP/1 is what it listens to.
    await sendStream(response.body, incoming, outgoing as ServerResponse);
    return RESPONSE_ALREADY_SENT;
  };
  return getRequestListener((request, env) => answer(request, env as HttpBindings), {
    overrideGlobalObjects: false,
  });
};

/**
 * Hosts a handler in `node:http` or Express. In Express, mount it before any body parser: it reads
 * bodies itself, and behind one it has only what that made of them.
 *
 * @param handler what `serve` returned
 * @example
 * createServer(nodeListener(serve(harbour, { store }))).listen(8080, '127.0.0.1');
 */
export const nodeListener = (handler: FetchHandler): NodeListener => {
  const direct = directOf(handler);
  let wrapping: ReturnType<typeof wrappingListener> | null = null;
  return (anyRequest, anyResponse) => {
    // Those of HTTP/2 are like those of HTTP/1 in all that is asked of them.
    const [request, response] = [anyRequest as IncomingMessage, anyResponse as ServerResponse];
    // Express takes away what it was mounted at; the API's own paths say where it is.
    const { originalUrl } = request as IncomingMessage & { originalUrl?: string };
    if (originalUrl !== undefined) request.url = originalUrl;
    const parsed = parsedBody(request);
    readied(request, response);
    const asked = direct && nodeAsked({ incoming: request, outgoing: response, host: request, parsed });
    if (direct !== null && asked !== null) {
      // What cannot be sent breaks the connection, which tells of it.
      direct(asked)
        .then((given) => sendAnswer(given, request, response))
        .catch((error: Error) => response.destroy(error));
      return;
    }
    if (parsed !== null) Object.assign(request, { rawBody: parsed });
    wrapping ??= wrappingListener(handler);
    // What goes wrong with a connection is told by the connection itself.
    wrapping.then((listen) => listen(request, response)).catch((error: Error) => response.destroy(error));
  };
};

/** Fields of a form as they were sent, from what a parser made of them. */
const formText = (fields: object): string =>
  new URLSearchParams(Object.entries(fields).map(([name, value]) => [name, String(value)])).toString();

/**
 * What a body parser in front of the API has read, as bytes again; null where none has. JSON that was parsed
 * is JSON again, though its numbers may have lost digits: better to mount the API before the parser.
 */
const parsedBody = (request: IncomingMessage & { readonly body?: unknown }): Buffer | null => {
  const { body, headers } = request;
  if (body === undefined || !request.readableEnded) return null;
  if (Buffer.isBuffer(body)) return body;
  if (typeof body === 'string') return Buffer.from(body);
  const isForm = headers['content-type']?.includes('x-www-form-urlencoded') === true;
  return Buffer.from(
    isForm && typeof body === 'object' && body !== null ? formText(body) : JSON.stringify(body),
  );
};
