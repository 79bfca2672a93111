const CRLF = Buffer.from('\r\n');
const END = Buffer.from('\r\n\r\n');

/**
 * Watches how much stands in front of the parts of a form (RFC 2046, section 5.1): parsers leave away what is too much, and a part
 * without its headers is another part.
 */
export class PartHeaders {
  readonly #delimiter: Buffer;
  readonly #most: number;
  /** What may be the start of what is looked for. */
  #rest: Buffer = CRLF;
  /** Bytes of the headers that are underway; null: within a part. */
  #size: number | null = null;

  /** @param most the most bytes of the headers of one part */
  constructor(boundary: string, most: number) {
    this.#delimiter = Buffer.from(`\r\n--${boundary}`);
    this.#most = most;
  }

  /** @returns whether the headers of a part are too many with these bytes */
  add(chunk: Uint8Array): boolean {
    let bytes = Buffer.concat([this.#rest, chunk]);
    for (;;) {
      const wanted = this.#size === null ? this.#delimiter : END;
      const at = bytes.indexOf(wanted);
      if (at === -1) {
        const kept = Math.min(bytes.length, wanted.length - 1);
        return this.#passed(bytes.length - kept) || this.#kept(bytes.subarray(bytes.length - kept));
      }
      if (this.#passed(at)) return true;
      const behind = bytes.subarray(at + wanted.length);
      // A delimiter may follow at once: the end of the line that it starts with is there already.
      bytes = this.#size === null ? behind : Buffer.concat([CRLF, behind]);
      this.#size = this.#size === null ? 0 : null;
    }
  }

  #passed(bytes: number): boolean {
    if (this.#size === null) return false;
    this.#size += bytes;
    return this.#size > this.#most;
  }

  #kept(rest: Buffer): false {
    this.#rest = rest;
    return false;
  }
}
