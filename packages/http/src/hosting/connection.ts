import type { IncomingMessage, ServerResponse } from 'node:http';
import type { ServerHttp2Stream } from 'node:http2';
import { Readable } from 'node:stream';
import type { ReadableStream as NodeReadableStream } from 'node:stream/web';

/** Whether a request carries a body that nobody will read. */
const hasUnreadBody = ({ method, headers }: IncomingMessage): boolean =>
  (method === 'GET' || method === 'HEAD') &&
  (headers['transfer-encoding'] !== undefined || Number(headers['content-length'] ?? 0) > 0);

/** Makes a request ready to be read: it has a host, and a body that nobody reads ends the connection. */
export const readied = (request: IncomingMessage, response: ServerResponse): void => {
  // HTTP/1.0 has no need of it (RFC 9112, section 3.2), but there is no URL without one.
  request.headers.host ??= 'localhost';
  // Kept open, the connection would be read to the end of that body, however long it is.
  if (hasUnreadBody(request)) response.shouldKeepAlive = false;
};

/** What HTTP/2 calls it (RFC 9113, section 7). */
const INTERNAL_ERROR = 2;

/** Breaks a connection so that nobody takes what was sent for the whole; of HTTP/2 the one stream alone. */
const reset = (request: IncomingMessage): void => {
  const { stream } = request as IncomingMessage & { readonly stream?: ServerHttp2Stream };
  if (stream === undefined) request.socket.resetAndDestroy();
  else stream.close(INTERNAL_ERROR);
};

/**
 * The body of a list that is sent while it is made. Where it fails midway, the connection is reset: one that is only
 * closed ends a document of HTTP/1.0 like a whole one. A failure was logged where it happened.
 */
export const listBody = (body: ReadableStream<Uint8Array> | null, request: IncomingMessage): Readable => {
  // The two standards' types of the same stream differ in name only.
  const readable = Readable.fromWeb(body as NodeReadableStream<Uint8Array>);
  readable.once('error', () => reset(request));
  return readable;
};
