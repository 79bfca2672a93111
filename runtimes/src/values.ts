import {
  bigint,
  bool,
  bytes,
  date,
  decimal,
  entity,
  input,
  integer,
  json,
  list,
  model,
  oneOf,
  reader,
  real,
  shape,
  text,
  timestamp,
  uuid,
  writer,
} from 'gribo';
import { type Outcome, shown } from './outcome.js';

const db = model(
  {
    thing: entity('thing', {
      id: integer().key(),
      text: text(),
      real: real(),
      bigint: bigint(),
      decimal: decimal(20, 4),
      bool: bool(),
      date: date(),
      timestamp: timestamp(),
      bytes: bytes(),
      json: json(),
      uuid: uuid(),
      oneOf: oneOf('a', 'ü "quoted"'),
    }),
  },
  {},
);

const Thing = shape(db.thing, (t) => ({ ...t, 'Schlüssel "潮"': t.text }));
const NewThing = input(db.thing, (t) => ({ ...t }));

const TEXTS = [
  '',
  'plain',
  'ünï "q" \\ \u0000\u001f\u007f',
  '潮'.repeat(40),
  '😀',
  '\ud800',
  'a\udc00b',
  '\u2028',
  'x'.repeat(70_000),
];
const REALS = [
  0,
  -0,
  1,
  -1.5,
  1e21,
  1e-7,
  5e-324,
  1.7976931348623157e308,
  2 ** 53,
  123456789.123,
  1 / 3,
  100,
];
const MOMENTS = [0, -1, 253402300799999, -62135596800000, 951782400123].map((at) => new Date(at));
const JSONS = [null, [], {}, [1, 'ü', { a: null }], { '"': '\ud83d' }, 'text', 1e100];

const rows = Array.from({ length: 36 }, (_, i) => ({
  id: i - 5,
  text: TEXTS[i % TEXTS.length],
  real: REALS[i % REALS.length],
  bigint: [0n, -1n, 9223372036854775807n, -9223372036854775808n, 12345678901n][i % 5],
  decimal: ['0.0000', '-12.3400', '1234567890123456.7890'][i % 3],
  bool: i % 2 === 0,
  date: ['2024-02-29', '0001-01-01', '9999-12-31'][i % 3],
  timestamp: MOMENTS[i % MOMENTS.length],
  bytes: Uint8Array.from({ length: i }, (_one, at) => at * 7 + i),
  json: JSONS[i % JSONS.length],
  uuid: '0f7f5b52-3c5e-4b5e-9b57-0d8d4b3a5a11',
  oneOf: i % 2 === 0 ? 'a' : 'ü "quoted"',
}));

const said = (value: unknown): string =>
  JSON.stringify(value, (_, inner: unknown) => {
    if (typeof inner === 'bigint') return `${inner}n`;
    return inner instanceof Uint8Array ? shown(inner) : inner;
  });

/** What a call gives, or what it throws. */
const attempt = async (what: string, call: () => unknown): Promise<Outcome> => {
  try {
    return { what, came: said(await call()) };
  } catch (error) {
    return { what, came: `threw ${error instanceof Error ? `${error.name}: ${error.message}` : error}` };
  }
};

/** Every kind of value written, each way there is, and what rows that do not fit say. */
export const writers = async (): Promise<readonly Outcome[]> => {
  const write = writer(list(Thing));
  const one = writer(Thing);
  const wrong = (change: object) => () => one.bytes({ ...rows[0], ...change });
  return Promise.all([
    attempt('writer json', () => write.json(rows)),
    attempt('writer bytes', () => write.bytes(rows)),
    attempt('writer object', () => write.object(rows)),
    attempt(
      'writer stream',
      async () => new Uint8Array(await new Response(write.stream(rows)).arrayBuffer()),
    ),
    ...rows.map((row, i) => attempt(`writer bytes of row ${i}`, () => one.bytes(row))),
    attempt('a text that is none', wrong({ text: 5 })),
    attempt('a moment that is none', wrong({ timestamp: new Date(Number.NaN) })),
    attempt('a number that is none', wrong({ real: Number.POSITIVE_INFINITY })),
    attempt('bytes that are none', wrong({ bytes: 'x' })),
  ]);
};

const BODIES = [
  '{}',
  '[]',
  '',
  '\ufeff{}',
  '{"a":1,"a":2}',
  '{"id":1,"text":"\\ud800","real":1e400}',
  '{"id":1.0,"text":"\\u00fc\\n","real":-0,"bigint":"9223372036854775807","decimal":"1.5","bool":true}',
  '{"id":2147483648,"bigint":9223372036854775808,"decimal":"x","date":"2023-02-29","timestamp":"2024-13-01T00:00:00Z"}',
  '{"bytes":"Zh==","json":{"deep":[1,2,{"x":null}]},"uuid":"nope","oneOf":"b"}',
  '{"timestamp":"2024-02-29T12:00:00.123456+02:00","date":"2024-02-29","bytes":"AAEC","json":null}',
  '{"__proto__":1,"constructor":2,"texd":"x"}',
  '{"id":01}',
  '{"id":1,}',
  '{"text":"tab\there"}',
  '{"text":"never ends',
  '{"text":"😀潮","real":0.1e-2}',
  ...rows.map((row) => {
    const written = writer(Thing).object(row) as object;
    return JSON.stringify(written);
  }),
];

const isJson = (text: string): boolean => {
  try {
    return JSON.parse(text) !== undefined;
  } catch {
    // How an engine puts it is its own affair.
    return false;
  }
};

/** Bodies read, as text, as bytes and as parsed values, with the issues of those that are wrong. */
export const readers = async (): Promise<readonly Outcome[]> => {
  const read = reader(NewThing);
  const strict = reader(NewThing, { unknown: 'ignore', nulls: 'absent' });
  return Promise.all(
    BODIES.flatMap((body) => {
      const start = body.slice(0, 60);
      return [
        attempt(`reader text ${start}`, () => read.json(body)),
        attempt(`reader bytes ${start}`, () => read.json(new TextEncoder().encode(body))),
        ...(isJson(body) ? [attempt(`reader object ${start}`, () => read.object(JSON.parse(body)))] : []),
        attempt(`reader with other policies ${start}`, () => strict.json(body)),
      ];
    }),
  );
};
