import type { IncomingMessage, ServerResponse } from 'node:http';
import { Readable } from 'node:stream';
import type { ReadableStream as NodeReadableStream } from 'node:stream/web';
import { getRequestListener, type HttpBindings } from '@hono/node-server';
import { RESPONSE_ALREADY_SENT } from '@hono/node-server/utils/response';
import { isStreamed } from '../response/stream-body.js';
import type { FetchHandler } from './fetch-handler.js';

/** What `node:http` calls with each request; Express takes it as a handler too. */
export type NodeListener = (request: IncomingMessage, response: ServerResponse) => void;

/**
 * Sends a list while it is made. Where it fails midway, the connection is reset: one that is only closed
 * ends a document of HTTP/1.0 like a whole one.
 */
const sendStream = (response: Response, outgoing: ServerResponse): Promise<void> =>
  new Promise((resolve) => {
    outgoing.writeHead(response.status, Object.fromEntries(response.headers));
    // The two standards' types of the same stream differ in name only.
    const body = Readable.fromWeb(response.body as NodeReadableStream<Uint8Array>);
    outgoing.once('close', () => {
      body.destroy();
      resolve();
    });
    // A failure was logged where it happened; that a client went away is none.
    body.once('error', () => outgoing.socket?.resetAndDestroy());
    body.pipe(outgoing);
  });

/** Whether a request carries a body that nobody will read. */
const hasUnreadBody = ({ method, headers }: IncomingMessage): boolean =>
  (method === 'GET' || method === 'HEAD') &&
  (headers['transfer-encoding'] !== undefined || Number(headers['content-length'] ?? 0) > 0);

/**
 * Hosts a handler in `node:http` or Express. In Express, mount it before any body parser: it reads
 * bodies itself.
 *
 * @param handler what `serve` returned
 * @example
 * createServer(nodeListener(serve(harbour, { store }))).listen(8080, '127.0.0.1');
 */
export const nodeListener = (handler: FetchHandler): NodeListener => {
  const answer = async (request: Request, { outgoing }: HttpBindings): Promise<Response> => {
    const response = await handler(request);
    if (!isStreamed(response)) return response;
    await sendStream(response, outgoing);
    return RESPONSE_ALREADY_SENT;
  };
  // Node's own HTTP/1 is what it listens to.
  const listen = getRequestListener((request, env) => answer(request, env as HttpBindings), {
    overrideGlobalObjects: false,
  });
  return (request, response) => {
    // Express takes away what it was mounted at; the API's own paths say where it is.
    const { originalUrl } = request as IncomingMessage & { originalUrl?: string };
    if (originalUrl !== undefined) request.url = originalUrl;
    const parsed = parsedBody(request);
    if (parsed !== null) Object.assign(request, { rawBody: parsed });
    // HTTP/1.0 has no need of it (RFC 9112, section 3.2), but there is no URL without one.
    request.headers.host ??= 'localhost';
    // Kept open, the connection would be read to the end of that body, however long it is.
    if (hasUnreadBody(request)) response.shouldKeepAlive = false;
    // What goes wrong with a connection is told by the connection itself.
    void listen(request, response);
  };
};

/**
 * What a body parser in front of the API has read, as bytes again; null where none has. JSON that was parsed
 * is JSON again, though its numbers may have lost digits: better to mount the API before the parser.
 */
const parsedBody = (request: IncomingMessage & { readonly body?: unknown }): Buffer | null => {
  if (request.body === undefined || !request.readableEnded) return null;
  if (Buffer.isBuffer(request.body)) return request.body;
  return Buffer.from(typeof request.body === 'string' ? request.body : JSON.stringify(request.body));
};
