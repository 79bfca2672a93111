import { decode, Tokenizer } from 'cborg';
import type { Reader, ReadResult } from 'gribo';
import { MalformedBody, type RowRead } from './format.js';
import { PartCount } from './part-count.js';
import { wholeList } from './whole-list.js';

/** The value as JSON would have it: maps become objects without a prototype, bytes become base64. */
const jsonReady = (value: unknown, levels: number): unknown => {
  if (levels === 0) throw new MalformedBody({ name: 'levels' });
  if (value instanceof Uint8Array) return Buffer.from(value).toString('base64');
  if (Array.isArray(value)) return value.map((item) => jsonReady(item, levels - 1));
  if (!(value instanceof Map)) return value;
  const made = Object.create(null) as Record<string, unknown>;
  for (const [name, member] of value) {
    if (typeof name !== 'string') throw new MalformedBody({ name: 'keys' });
    made[name] = jsonReady(member, levels - 1);
  }
  return made;
};

const OPTIONS = {
  useMaps: true,
  rejectDuplicateMapKeys: true,
  retainStringBytes: true,
  allowBigInt: true,
  allowIndefinite: true,
  allowUndefined: true,
};

const UTF8 = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true });

/** The first byte of U+FEFF, which is taken for a byte order mark and left away. */
const MARK = 0xef;

/** Counts what it reads, and takes no bytes for text that are none. */
class CountingTokenizer extends Tokenizer {
  readonly #parts: PartCount;

  constructor(body: Uint8Array, parts: PartCount) {
    super(body, OPTIONS);
    this.#parts = parts;
  }

  override next(): ReturnType<Tokenizer['next']> {
    this.#parts.add();
    const token = super.next();
    const { value, byteValue } = token;
    if (typeof value !== 'string' || byteValue === undefined) return token;
    // What cannot be decoded became U+FFFD; that character may be there too.
    if (value.includes('\ufffd') || byteValue[0] === MARK) token.value = UTF8.decode(byteValue);
    return token;
  }
}

const decoded = (body: Uint8Array, parts: PartCount): unknown => {
  try {
    return decode(body, { ...OPTIONS, tokenizer: new CountingTokenizer(body, parts) });
  } catch (error) {
    if (error instanceof MalformedBody) throw error;
    throw new MalformedBody({ name: 'cbor' });
  }
};

/** Reads a map as an input. */
export const readCbor = (body: Uint8Array, reader: Reader<object>): ReadResult<object> => {
  // A name and its value are two tokens, and the whole is one.
  const parts = new PartCount(reader.limits.items * 2 + 1);
  return reader.object(jsonReady(decoded(body, parts), reader.limits.depth + 1));
};

/** Reads an array of maps. */
export const readCborRows = (body: Uint8Array, reader: Reader<object>): Iterable<RowRead> =>
  wholeList(jsonReady(decoded(body, new PartCount(body.length + 1)), reader.limits.depth + 2), reader);
