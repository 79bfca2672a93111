import { readFileSync } from 'node:fs';
import { Mistake } from '../screen/mistake.js';
import { bytesOf, type Entry, type Named } from './http-archive.js';

/** Headers that decide what is answered, whatever the API. */
const DECIDING = ['accept', 'x-audience', 'x-caller', 'x-facts', 'if-none-match', 'range'];

/** A body, a character for each byte, and its type. What stands between the parts of one is made up anew for each request: it makes no difference. */
const sentAs = (type: string, body: string): readonly [type: string, body: string] => {
  const [parameter, quoted, bare] = /;\s*boundary=(?:"([^"]+)"|([^\s;]+))/i.exec(type) ?? [];
  const boundary = quoted ?? bare;
  if (parameter === undefined || boundary === undefined) return [type, body];
  return [type.replace(parameter, ''), body.replaceAll(boundary, '')];
};

const headersOf = (named: readonly Named[]): Headers => {
  const headers = new Headers();
  for (const { name, value } of named) headers.append(name, value);
  return headers;
};

/** A request, so far as it is compared. */
interface Compared {
  readonly method: string;
  readonly url: string;
  readonly headers: Headers;
  readonly body: Buffer;
}

/** What makes two requests the same. */
const keyOf = ({ method, url, headers, body }: Compared, deciding: readonly string[]): string => {
  const { pathname, search } = new URL(url);
  const said = [...DECIDING, ...deciding].map((name) => headers.get(name));
  // Without a body, clients differ in whether they say of which type it would be.
  const sent = body.length === 0 ? [] : sentAs(headers.get('content-type') ?? '', body.toString('latin1'));
  return JSON.stringify([method, pathname + search, said, ...sent]);
};

/** What was recorded, to be answered again. */
export class Replay {
  readonly #byKey = new Map<string, Entry[]>();
  readonly #deciding: readonly string[];

  private constructor(entries: readonly Entry[], deciding: readonly string[]) {
    this.#deciding = deciding;
    for (const entry of entries) {
      const { method, url, headers, postData } = entry.request;
      const asked = {
        method,
        url,
        headers: headersOf(headers),
        body: bytesOf(postData?.text, postData?._encoding),
      };
      const key = keyOf(asked, deciding);
      this.#byKey.set(key, [...(this.#byKey.get(key) ?? []), entry]);
    }
  }

  /**
   * @param deciding headers that decide what this API answers, besides those that decide for any
   * @throws {Mistake} where the file is no HTTP Archive
   */
  static of(path: string, deciding: readonly string[]): Replay {
    try {
      const { log } = JSON.parse(readFileSync(path, 'utf8')) as {
        readonly log?: { readonly entries?: readonly Entry[] };
      };
      if (!Array.isArray(log?.entries)) throw new Error('it has no log.entries');
      return new Replay(log.entries, deciding);
    } catch (error) {
      const reason = error instanceof Error ? error.message : String(error);
      throw new Mistake(`${path} could not be read as an HTTP Archive: ${reason}`);
    }
  }

  /** What was answered to this request; several answers come in their order, the last one again and again. Null: there is none. */
  async answer(request: Request): Promise<Response | null> {
    const body = Buffer.from(await request.clone().arrayBuffer());
    const { method, url, headers: said } = request;
    const key = keyOf({ method, url, headers: said, body }, this.#deciding);
    const [entry, ...later] = this.#byKey.get(key) ?? [];
    if (entry === undefined) return null;
    if (later.length > 0) this.#byKey.set(key, later);
    const { status, headers, content } = entry.response;
    const bytes = bytesOf(content.text, content.encoding);
    return new Response([204, 205, 304].includes(status) ? null : bytes, {
      status,
      headers: headersOf(headers),
    });
  }
}
