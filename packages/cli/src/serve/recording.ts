import { readFileSync } from 'node:fs';
import { writeWhole } from '../running/write-whole.js';
import { Mistake } from '../screen/mistake.js';

/*
 * Requests and what was answered, as an HTTP Archive (HAR 1.2): browsers write such files and open them.
 */

interface Named {
  readonly name: string;
  readonly value: string;
}

/** One exchange, so far as it is written and read here. */
interface Entry {
  readonly startedDateTime: string;
  readonly time: number;
  readonly request: {
    readonly method: string;
    readonly url: string;
    readonly httpVersion: string;
    readonly headers: readonly Named[];
    readonly queryString: readonly Named[];
    readonly cookies: readonly Named[];
    readonly headersSize: number;
    readonly bodySize: number;
    readonly postData?: { readonly mimeType: string; readonly text: string };
  };
  readonly response: {
    readonly status: number;
    readonly statusText: string;
    readonly httpVersion: string;
    readonly headers: readonly Named[];
    readonly cookies: readonly Named[];
    readonly content: {
      readonly size: number;
      readonly mimeType: string;
      readonly text?: string;
      readonly encoding?: 'base64';
    };
    readonly redirectURL: string;
    readonly headersSize: number;
    readonly bodySize: number;
  };
  readonly cache: object;
  readonly timings: { readonly send: number; readonly wait: number; readonly receive: number };
}

/** Headers that say who somebody is: they are in no file. */
const SECRET = ['authorization', 'proxy-authorization', 'cookie', 'set-cookie', 'idempotency-key'];

/** Headers that decide what is answered. */
const DECIDING = ['accept', 'x-audience', 'x-caller', 'x-facts', 'if-none-match', 'range'];

const namedIn = (headers: Headers): readonly Named[] =>
  [...headers].filter(([name]) => !SECRET.includes(name)).map(([name, value]) => ({ name, value }));

const headersOf = (named: readonly Named[]): Headers => {
  const headers = new Headers();
  for (const { name, value } of named) headers.append(name, value);
  return headers;
};

/** What makes two requests the same. */
const keyOf = (method: string, url: string, headers: Headers, body: string): string => {
  const { pathname, search } = new URL(url);
  return JSON.stringify([method, pathname + search, DECIDING.map((name) => headers.get(name)), body]);
};

const isText = (type: string): boolean => /^text\/|json|xml|yaml|csv/.test(type);

const contentOf = (bytes: Uint8Array, type: string): Entry['response']['content'] => {
  const about = { size: bytes.length, mimeType: type };
  if (bytes.length === 0) return about;
  const buffer = Buffer.from(bytes);
  return isText(type)
    ? { ...about, text: buffer.toString('utf8') }
    : { ...about, text: buffer.toString('base64'), encoding: 'base64' };
};

/** Writes down what is asked and answered, and keeps the file up to date. */
export class Recording {
  readonly #path: string;
  readonly #creator: string;
  readonly #entries: Entry[] = [];
  #writing: Promise<void> = Promise.resolve();

  constructor(path: string, version: string) {
    this.#path = path;
    this.#creator = version;
  }

  /** Lets a request be answered, and writes it down once its answer has been read. */
  async answered(request: Request, answer: (request: Request) => Promise<Response>): Promise<Response> {
    const began = performance.now();
    const at = new Date().toISOString();
    const sent =
      request.body === null ? new Uint8Array() : new Uint8Array(await request.clone().arrayBuffer());
    const response = await answer(request);
    const bytes = new Uint8Array(await response.arrayBuffer());
    const type = request.headers.get('content-type') ?? '';
    const time = performance.now() - began;
    this.#entries.push({
      startedDateTime: at,
      time,
      request: {
        method: request.method,
        url: request.url,
        httpVersion: 'HTTP/1.1',
        headers: namedIn(request.headers),
        queryString: [...new URL(request.url).searchParams].map(([name, value]) => ({ name, value })),
        cookies: [],
        headersSize: -1,
        bodySize: sent.length,
        ...(sent.length === 0
          ? {}
          : { postData: { mimeType: type, text: Buffer.from(sent).toString('utf8') } }),
      },
      response: {
        status: response.status,
        statusText: response.statusText,
        httpVersion: 'HTTP/1.1',
        headers: namedIn(response.headers),
        cookies: [],
        content: contentOf(bytes, response.headers.get('content-type') ?? ''),
        redirectURL: '',
        headersSize: -1,
        bodySize: bytes.length,
      },
      cache: {},
      timings: { send: 0, wait: time, receive: 0 },
    });
    await this.#write();
    const { status, headers } = response;
    return new Response([204, 205, 304].includes(status) ? null : bytes, { status, headers });
  }

  /** One after the other: a file is never half of one and half of another. */
  #write(): Promise<void> {
    const log = {
      version: '1.2',
      creator: { name: 'gribo', version: this.#creator },
      entries: this.#entries,
    };
    const write = (): Promise<void> =>
      writeWhole([{ path: this.#path, text: `${JSON.stringify({ log }, null, 2)}\n` }]);
    this.#writing = this.#writing.then(write, write);
    return this.#writing;
  }
}

/** What was recorded, to be answered again. */
export class Replay {
  readonly #byKey = new Map<string, Entry[]>();

  private constructor(entries: readonly Entry[]) {
    for (const entry of entries) {
      const { method, url, headers, postData } = entry.request;
      const key = keyOf(method, url, headersOf(headers), postData?.text ?? '');
      this.#byKey.set(key, [...(this.#byKey.get(key) ?? []), entry]);
    }
  }

  /** @throws {Mistake} where the file is no HTTP Archive */
  static of(path: string): Replay {
    try {
      const { log } = JSON.parse(readFileSync(path, 'utf8')) as {
        readonly log: { readonly entries: readonly Entry[] };
      };
      return new Replay(log.entries);
    } catch (error) {
      const reason = error instanceof Error ? error.message : String(error);
      throw new Mistake(`${path} could not be read as an HTTP Archive: ${reason}`);
    }
  }

  /** What was answered to this request; several answers come in their order, the last one again and again. Null: there is none. */
  async answer(request: Request): Promise<Response | null> {
    const body = request.body === null ? '' : await request.clone().text();
    const key = keyOf(request.method, request.url, request.headers, body);
    const [entry, ...later] = this.#byKey.get(key) ?? [];
    if (entry === undefined) return null;
    if (later.length > 0) this.#byKey.set(key, later);
    const { status, headers, content } = entry.response;
    const bytes = Buffer.from(content.text ?? '', content.encoding === 'base64' ? 'base64' : 'utf8');
    return new Response([204, 205, 304].includes(status) ? null : bytes, {
      status,
      headers: headersOf(headers),
    });
  }
}
