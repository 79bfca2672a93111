import type { SourceWriter } from '../../codegen/source-writer.js';

/** A literal up to this length is written byte by byte in the program; a longer one is copied. */
const UNROLLED = 256;

const encoder = new TextEncoder();

/** Gathers text that is the same for every row, and writes it with as few steps as possible. */
export class LiteralBytes {
  readonly #out: SourceWriter;
  #pending = '';
  /** The bytes of all literals so far: what must be reserved for them. */
  total = 0;

  constructor(out: SourceWriter) {
    this.#out = out;
  }

  add(text: string): void {
    this.#pending += text;
  }

  /** Writes what was gathered; to be called before any code that depends on the row. */
  flush(): void {
    if (this.#pending === '') return;
    const bytes = encoder.encode(this.#pending);
    this.#pending = '';
    this.total += bytes.length;
    if (bytes.length > UNROLLED) {
      this.#out.line(`p=copy(b,${this.#out.constants.name(bytes)},p);`);
      return;
    }
    this.#out.line(`${storesOf(bytes)}p+=${bytes.length};`);
  }
}

/** Eight bytes at a time, then four, two, one: as few bounds checks as possible. */
const storesOf = (bytes: Uint8Array): string => {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const stores: string[] = [];
  let at = 0;
  // No UTF-8 text is a NaN when read as a number, so the bytes of a float are kept as they are.
  for (; bytes.length - at >= 8; at += 8)
    stores.push(`d.setFloat64(p+${at},${view.getFloat64(at, true)},true);`);
  for (; bytes.length - at >= 4; at += 4)
    stores.push(`d.setUint32(p+${at},${view.getUint32(at, true)},true);`);
  for (; bytes.length - at >= 2; at += 2)
    stores.push(`d.setUint16(p+${at},${view.getUint16(at, true)},true);`);
  for (; at < bytes.length; at++) stores.push(`b[p+${at}]=${bytes[at]};`);
  return stores.join('');
};
