import type { IncomingMessage, ServerResponse } from 'node:http';
import { Readable } from 'node:stream';
import { GriboError } from 'gribo';
import { type Asked, type Source, sourceOf } from '../message/asked.js';
import { noteHost } from './host-request.js';
import { lazyRequest } from './lazy-request.js';
import { NodeSource, readBefore } from './node-source.js';
import { headersOf } from './raw-headers.js';

/** A request of Node's HTTP/1, with what it is answered by. */
export interface Exchanged {
  readonly incoming: IncomingMessage;
  readonly outgoing: ServerResponse;
  /** What the application knows the request by. */
  readonly host: object;
  /** The bytes of a body that was read before; null where none was. */
  readonly parsed: Uint8Array | null;
}

/** Aborted where the client goes away before it is answered. */
const goneSignal = (outgoing: ServerResponse): AbortSignal => {
  const gone = new AbortController();
  const closed = (): void => {
    if (!outgoing.writableFinished) gone.abort(new GriboError('ENDED', 'request', 'the client has gone'));
  };
  if (outgoing.closed) closed();
  else outgoing.once('close', closed);
  return gone.signal;
};

const urlOf = ({ socket, headers, url }: IncomingMessage): string =>
  `${'encrypted' in socket && socket.encrypted === true ? 'https' : 'http'}://${headers.host}${url}`;

const canHaveBody = ({ method }: IncomingMessage): boolean => method !== 'GET' && method !== 'HEAD';

/** A request of Node's as the Fetch standard has it. */
export const fetchRequest = ({ incoming, outgoing, parsed }: Exchanged): Request => {
  const { method = 'GET', rawHeaders } = incoming;
  const body = parsed ?? Readable.toWeb(incoming);
  return new Request(urlOf(incoming), {
    method,
    headers: headersOf(rawHeaders),
    signal: goneSignal(outgoing),
    // The two standards' types of the same stream differ in name only.
    ...(canHaveBody(incoming) ? { body: body as unknown as BodyInit, duplex: 'half' } : {}),
  });
};

/** A request of Node's, without Fetch objects until somebody looks at one. */
class NodeAsked implements Asked {
  readonly method: string;
  readonly url: string;
  readonly hasBody: boolean;
  readonly #exchanged: Exchanged;
  /** What applications are given, and what that is made into where they look at more than its head. */
  #request: Request | null = null;
  #whole: Request | null = null;

  constructor(exchanged: Exchanged) {
    const { incoming } = exchanged;
    this.method = incoming.method ?? 'GET';
    this.url = urlOf(incoming);
    this.hasBody = canHaveBody(incoming);
    this.#exchanged = exchanged;
  }

  header(name: string): string | null {
    return this.#exchanged.incoming.headersDistinct[name]?.join(', ') ?? null;
  }

  whenGone(told: () => void): void {
    const { outgoing } = this.#exchanged;
    outgoing.once('close', () => {
      if (!outgoing.writableFinished) told();
    });
  }

  whenSent(told: () => void): boolean {
    this.#exchanged.outgoing.once('close', told);
    return true;
  }

  source(): Source | null {
    if (!this.hasBody) return null;
    // Once it is a stream of the Fetch standard, it is read as that.
    if (this.#whole !== null) return this.#whole.body && sourceOf(this.#whole.body);
    const { parsed, incoming } = this.#exchanged;
    return parsed === null ? new NodeSource(incoming) : readBefore(parsed);
  }

  get request(): Request {
    const { incoming, host } = this.#exchanged;
    this.#request ??= noteHost(
      lazyRequest(this.method, this.url, incoming.rawHeaders, () => {
        this.#whole ??= fetchRequest(this.#exchanged);
        return this.#whole;
      }),
      host,
    );
    return this.#request;
  }
}

/** What a path and a query hold that stays as it is when it is parsed: nothing to be escaped, no part that means the one above. */
const PLAIN = /^\/(?!\/)(?!.*(?:\/\.|%2[eE]))[A-Za-z\d\-._~!$&()*+,;=:@%/?]*$/;

/** The host that was looked at last: most servers are asked by one name. */
let looked = { host: '', isPlain: false };

/** Whether a host stays as it is when it is parsed. */
const isPlainHost = (host: string): boolean => {
  if (looked.host !== host) {
    const url = `http://${host}/`;
    looked = { host, isPlain: URL.canParse(url) && new URL(url).host === host };
  }
  return looked.isPlain;
};

/** A request of Node's HTTP/1 as it came; null where its URL means something else once it is parsed. */
export const nodeAsked = (exchanged: Exchanged): Asked | null => {
  const { httpVersionMajor, url = '', headers } = exchanged.incoming;
  const isPlain = httpVersionMajor === 1 && PLAIN.test(url) && isPlainHost(headers.host ?? '');
  return isPlain ? new NodeAsked(exchanged) : null;
};
