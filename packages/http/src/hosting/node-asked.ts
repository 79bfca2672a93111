import type { IncomingMessage } from 'node:http';
import { Readable } from 'node:stream';
import { GriboError } from 'gribo';
import { type Asked, type Part, type Source, sourceOf } from '../message/asked.js';
import { noteHost } from './host-request.js';
import { lazyRequest } from './lazy-request.js';
import { headersOf } from './raw-headers.js';

/** What a URL holds that stays as it is when it is parsed: nothing to be escaped, no part that means the one above. */
const PLAIN = /^\/(?!\/)(?!.*(?:\/\.|%2[eE]))[A-Za-z\d\-._~!$&()*+,;=:@%/?]*$/;
const HOST = /^[A-Za-z\d.-]+(?::\d+)?$/;

/** The parts of a request of Node's, at once where they have arrived. */
class NodeSource implements Source {
  readonly #incoming: IncomingMessage;

  constructor(incoming: IncomingMessage) {
    this.#incoming = incoming;
  }

  read(): Part | Promise<Part> {
    return this.#next() ?? this.#waited();
  }

  cancel(): void {
    // Whoever answers says whether the connection ends; what comes until then is thrown away.
    this.#incoming.resume();
  }

  #next(): Part | null {
    const value = this.#incoming.read() as Uint8Array | null;
    if (value !== null) return { done: false, value };
    if (this.#incoming.complete && this.#incoming.readableLength === 0) return { done: true };
    if (this.#incoming.destroyed) throw new GriboError('ENDED', 'request', 'the connection was closed');
    return null;
  }

  #waited(): Promise<Part> {
    return new Promise((resolve, reject) => {
      const incoming = this.#incoming;
      const look = (): void => {
        try {
          const part = this.#next();
          if (part === null) return;
          settle();
          resolve(part);
        } catch (error) {
          settle();
          reject(error);
        }
      };
      const settle = (): void => {
        for (const event of EVENTS) incoming.off(event, look);
        incoming.off('error', failed);
      };
      const failed = (error: Error): void => {
        settle();
        reject(error);
      };
      for (const event of EVENTS) incoming.on(event, look);
      incoming.on('error', failed);
    });
  }
}

const EVENTS = ['readable', 'end', 'close'] as const;

/** The one part of a body that was read before. */
const readBefore = (bytes: Uint8Array): Source => {
  let isRead = false;
  return {
    read: () => {
      if (isRead) return { done: true };
      isRead = true;
      return { done: false, value: bytes };
    },
    cancel: () => undefined,
  };
};

/** A request of Node's, without Fetch objects until somebody looks at one. */
class NodeAsked implements Asked {
  readonly method: string;
  readonly url: string;
  readonly hasBody: boolean;
  readonly #incoming: IncomingMessage;
  readonly #host: object;
  readonly #parsed: Uint8Array | null;
  #request: Request | null = null;
  /** What is made of the request where an application looks into it before its body is read. */
  #made: Request | null = null;

  constructor(incoming: IncomingMessage, host: object, parsed: Uint8Array | null) {
    this.method = incoming.method ?? 'GET';
    this.url = `http://${incoming.headers.host}${incoming.url}`;
    this.hasBody = this.method !== 'GET' && this.method !== 'HEAD';
    this.#incoming = incoming;
    this.#host = host;
    this.#parsed = parsed;
  }

  header(name: string): string | null {
    const values = this.#incoming.headersDistinct[name];
    return values === undefined ? null : values.join(', ');
  }

  source(): Source | null {
    if (!this.hasBody) return null;
    const body = this.#made?.body;
    if (body != null) return sourceOf(body);
    return this.#parsed === null ? new NodeSource(this.#incoming) : readBefore(this.#parsed);
  }

  get request(): Request {
    this.#request ??= noteHost(
      lazyRequest(this.method, this.url, this.#incoming.rawHeaders, () => this.#whole()),
      this.#host,
    );
    return this.#request;
  }

  #whole(): Request {
    const { method, url } = this;
    const headers = headersOf(this.#incoming.rawHeaders);
    // The two standards' types of the same stream differ in name only.
    const body = this.hasBody
      ? {
          body: (this.#parsed ?? Readable.toWeb(this.#incoming)) as unknown as BodyInit,
          duplex: 'half' as const,
        }
      : {};
    this.#made = new Request(url, { method, headers, ...body });
    return this.#made;
  }
}

/**
 * A request of Node's HTTP/1 as it came; null where its URL means something else once it is parsed.
 *
 * @param host what the application knows the request by
 * @param parsed the bytes of a body that was read before; null where none was
 */
export const nodeAsked = (
  incoming: IncomingMessage,
  host: object,
  parsed: Uint8Array | null,
): Asked | null =>
  incoming.httpVersionMajor === 1 && PLAIN.test(incoming.url ?? '') && HOST.test(incoming.headers.host ?? '')
    ? new NodeAsked(incoming, host, parsed)
    : null;
