import { encode } from 'cborg';

/** A body of a megabyte that is meant to keep a server busy, and how it is refused. */
export interface LargeBody {
  readonly name: string;
  readonly type: string;
  readonly body: string | Uint8Array;
  readonly status: number;
}

const SIZE = 1_048_000;

/** A text repeated until the body has its size. */
const filled = (text: string, before = '', after = ''): string =>
  before + text.repeat(Math.floor((SIZE - before.length - after.length) / text.length)) + after;

/** Numbered texts until the body has its size. */
const numbered = (make: (i: number) => string, before: string, after: string): string => {
  const parts = [before];
  let length = before.length + after.length;
  for (let i = 0; length < SIZE - 40; i++) {
    const part = make(i);
    parts.push(part);
    length += part.length;
  }
  return parts.join('') + after;
};

/** An array of a million empty maps (RFC 8949, section 3.1). */
const emptyMaps = (): Uint8Array => {
  const bytes = new Uint8Array(1_000_005).fill(0xa0);
  bytes[0] = 0x9a;
  new DataView(bytes.buffer).setUint32(1, 1_000_000);
  return bytes;
};

const bodiesOf =
  <B extends LargeBody['body']>(title: string, type: string) =>
  (name: string, status: number, body: B): LargeBody => ({ name: `${title} of ${name}`, type, body, status });

const json = bodiesOf<string>('JSON', 'application/json');
const cbor = bodiesOf<Uint8Array>('CBOR', 'application/cbor');
const xml = bodiesOf<string>('XML', 'application/xml');
const form = bodiesOf<string>('a form', 'application/x-www-form-urlencoded');

/** What the others are compared with: a member with a text of a megabyte. */
export const oneLargeText = (): LargeBody => json('one text', 422, `{"name":"${'x'.repeat(SIZE - 20)}"}`);

/** Bodies of a megabyte, of every format. */
export const largeBodies = (): readonly LargeBody[] => [
  oneLargeText(),
  json(
    'unknown members',
    413,
    numbered((i) => `"m${i}":1,`, '{', '"z":1}'),
  ),
  json(
    'names that are near',
    413,
    numbered((i) => `"nam${i}":1,`, '{', '"z":1}'),
  ),
  json('many levels', 413, '['.repeat(SIZE)),
  json('empty objects', 413, filled('{},', '{"fleet":[', '{}]}')),
  json('numbers', 413, filled('1,', '[', '1]')),
  json('escapes', 422, `{"name":"${'\\u0041'.repeat(174_000)}"}`),
  json('escaped quotes', 422, `{"name":"${'\\"'.repeat(500_000)}"}`),
  json(
    'long names',
    422,
    numbered((i) => `"${i}${'n'.repeat(500)}":1,`, '{', '"z":1}'),
  ),
  json('spaces', 422, `${' '.repeat(SIZE - 2)}{}`),
  json('one number', 422, `{"name":${'1'.repeat(SIZE - 20)}}`),
  json('one member', 400, filled('"a":1,', '{', '"a":1}')),
  cbor('empty maps', 413, emptyMaps()),
  cbor('one text', 422, encode({ name: 'x'.repeat(SIZE - 20) })),
  cbor('many levels', 400, new Uint8Array(SIZE).fill(0x81)),
  cbor('arrays without an end', 400, new Uint8Array(SIZE).fill(0x9f)),
  cbor('an array that says it is longer', 400, Uint8Array.of(0x9b, 0, 0, 0, 1, 0, 0, 0, 0)),
  cbor('bytes', 422, encode({ name: new Uint8Array(SIZE - 20) })),
  cbor(
    'unknown members',
    413,
    encode(Object.fromEntries(Array.from({ length: 90_000 }, (_, i) => [`m${i}`, 1]))),
  ),
  xml('one text', 422, `<r><name>${'x'.repeat(SIZE - 40)}</name></r>`),
  xml(
    'attributes',
    413,
    numbered((i) => ` a${i}="1"`, '<r', '/>'),
  ),
  xml('one attribute', 400, `<r a="${'x'.repeat(SIZE - 40)}"/>`),
  xml('instructions', 413, filled('<?a b?>', '<r>', '</r>')),
  xml('text and elements', 413, filled('x<b/>', '<r>', '</r>')),
  xml('comments', 413, filled('<!---->', '<r>', '</r>')),
  xml('one comment', 422, `<r><!--${'x'.repeat(SIZE - 40)}--></r>`),
  xml('sections', 413, filled('<![CDATA[x]]>', '<r><name>', '</name></r>')),
  xml('entities', 413, filled('&amp;', '<r><name>', '</name></r>')),
  xml('many levels', 413, filled('<a>')),
  xml('tags that never end', 413, filled('<')),
  xml(
    'unknown elements',
    413,
    numbered((i) => `<m${i}/>`, '<r>', '</r>'),
  ),
  xml('a document type', 400, filled(' ', '<!DOCTYPE x [', ']><r/>')),
  xml('one name', 400, filled('n', '<', '/>')),
  xml('spaces in a tag', 400, filled(' ', '<r', '/>')),
  form(
    'members',
    413,
    numbered((i) => `m${i}=1&`, '', ''),
  ),
  form('spaces', 422, `name=${'+'.repeat(SIZE - 10)}`),
  form('escapes', 422, `name=${'%41'.repeat(340_000)}`),
  form('nothing', 413, '&'.repeat(SIZE)),
  form('rows', 413, `name=x&fleet=${filled('{},', '[', '{}]').slice(0, -20)}`),
];
