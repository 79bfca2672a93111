import { GriboError } from 'gribo';
import type { Format } from './format.js';
import { gathered } from './gathered.js';

type Cborg = typeof import('cborg');

let cborg: Cborg | null = null;

/** The package, loaded where it is used. */
const loaded = async (): Promise<Cborg> => {
  cborg ??= await import('cborg');
  return cborg;
};

const START_OF_ARRAY = Uint8Array.of(0x9f);
const BREAK = Uint8Array.of(0xff);

/** CBOR (RFC 8949) of the same values as JSON: moments and decimals are text, bytes base64. */
export const cbor: Format = {
  name: 'cbor',
  mediaTypes: ['application/cbor'],
  load: async () => {
    await loaded();
  },
  write: (sending) => {
    if (cborg === null) throw new GriboError('MISUSE', 'cbor', 'cbor: write was called before load');
    return cborg.encode(sending.value());
  },
  // An array of indefinite length (section 3.2.2): how many rows there are is not known yet.
  stream: async function* (sending) {
    const { encode } = await loaded();
    yield START_OF_ARRAY;
    for await (const rows of sending.batches()) for (const row of rows) yield encode(row);
    yield BREAK;
  },
  read: async (body, reader) => {
    const { readCbor } = await import('./read-cbor.js');
    return readCbor(body, reader);
  },
  readRows: async function* (body, reader) {
    const { readCborRows } = await import('./read-cbor.js');
    yield* readCborRows(await gathered(body), reader);
  },
};
