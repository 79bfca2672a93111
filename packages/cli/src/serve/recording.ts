import { isUtf8 } from 'node:buffer';
import { writeWhole } from '../running/write-whole.js';
import type { Entry, Named, Posted } from './http-archive.js';

/** Headers that say who somebody is: they are in no file. */
const SECRET = ['authorization', 'proxy-authorization', 'cookie', 'set-cookie', 'idempotency-key'];

const namedIn = (headers: Headers): readonly Named[] =>
  [...headers].filter(([name]) => !SECRET.includes(name)).map(([name, value]) => ({ name, value }));

const isText = (type: string): boolean => /^text\/|json|xml|yaml|csv/.test(type);

const contentOf = (bytes: Uint8Array, type: string): Entry['response']['content'] => {
  const about = { size: bytes.length, mimeType: type };
  if (bytes.length === 0) return about;
  const buffer = Buffer.from(bytes);
  return isText(type) && isUtf8(buffer)
    ? { ...about, text: buffer.toString('utf8') }
    : { ...about, text: buffer.toString('base64'), encoding: 'base64' };
};

const postedOf = (bytes: Uint8Array, mimeType: string): Posted => {
  const buffer = Buffer.from(bytes);
  return isUtf8(buffer)
    ? { mimeType, text: buffer.toString('utf8') }
    : { mimeType, text: buffer.toString('base64'), _encoding: 'base64' };
};

/** Writes down what is asked and answered, and keeps the file up to date. */
export class Recording {
  readonly #path: string;
  readonly #creator: string;
  readonly #now: () => Date;
  readonly #entries: Entry[] = [];
  #writing: Promise<void> = Promise.resolve();

  constructor(path: string, version: string, now: () => Date) {
    this.#now = now;
    this.#path = path;
    this.#creator = version;
  }

  /** Lets a request be answered, and writes it down once its answer has been read. */
  async answered(request: Request, answer: (request: Request) => Promise<Response>): Promise<Response> {
    const began = performance.now();
    const at = this.#now().toISOString();
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
        ...(sent.length === 0 ? {} : { postData: postedOf(sent, type) }),
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
