import { decode, encode } from 'cborg';
import { type Format, MalformedBody } from './format.js';

/** No request needs to be deeper. */
const MOST_LEVELS = 64;

const base64 = (bytes: Uint8Array): string =>
  btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''));

/** The value as JSON would have it: maps become objects without a prototype, bytes become base64. */
const jsonReady = (value: unknown, levels: number): unknown => {
  if (levels === 0) throw new MalformedBody({ name: 'levels' });
  if (typeof value === 'bigint') return String(value);
  if (value instanceof Uint8Array) return base64(value);
  if (Array.isArray(value)) return value.map((item) => jsonReady(item, levels - 1));
  if (!(value instanceof Map)) return value;
  const made = Object.create(null) as Record<string, unknown>;
  for (const [name, member] of value) {
    if (typeof name !== 'string') throw new MalformedBody({ name: 'keys' });
    made[name] = jsonReady(member, levels - 1);
  }
  return made;
};

const decoded = (body: Uint8Array): unknown => {
  try {
    return decode(body, { useMaps: true, rejectDuplicateMapKeys: true });
  } catch {
    throw new MalformedBody({ name: 'cbor' });
  }
};

const START_OF_ARRAY = Uint8Array.of(0x9f);
const BREAK = Uint8Array.of(0xff);

/** CBOR (RFC 8949) of the same values as JSON: moments and decimals are text, bytes base64. */
export const cbor: Format = {
  name: 'cbor',
  mediaTypes: ['application/cbor'],
  write: (sending) => encode(sending.value()),
  // An array of indefinite length (section 3.2.2): how many rows there are is not known yet.
  stream: async function* (sending) {
    yield START_OF_ARRAY;
    for await (const rows of sending.batches()) for (const row of rows) yield encode(row);
    yield BREAK;
  },
  read: (body, reader) => reader.object(jsonReady(decoded(body), MOST_LEVELS)),
};
