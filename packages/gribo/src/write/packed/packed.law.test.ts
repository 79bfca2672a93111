import { expect } from 'chai';
import fc from 'fast-check';
import {
  bigint,
  bool,
  bytes,
  constant,
  count,
  csvLines,
  date,
  decimal,
  derive,
  entity,
  integer,
  json,
  jsonLines,
  list,
  model,
  oneOf,
  real,
  type ShapeOf,
  shape,
  text,
  time,
  timestamp,
  toMany,
  toOne,
  unlessNull,
  uuid,
  writer,
} from '../../index.js';
import { type PackedLayout, packedRows } from '../../kit.js';
import { runs } from '../../testing/cases.js';

// biome-ignore lint/suspicious/noExplicitAny: random declarations have no static type
type Any = any;

/** A column: how it is declared, what its fields may be, and what a store makes of one. */
interface Kind {
  readonly make: () => Any;
  readonly field: fc.Arbitrary<string>;
  readonly value: (field: string) => unknown;
}

const anyText = fc.oneof(
  fc.string({ unit: 'grapheme', maxLength: 60 }),
  fc.string({
    unit: fc.constantFrom(
      ',',
      '"',
      '\r',
      '\n',
      '\t',
      '\v',
      '\\',
      '\u0001',
      '\b',
      '\f',
      '=',
      '\uff0b',
      'N',
      'b',
      '\ufeff',
    ),
  }),
);

/** Digits as a database may write them, and as it never would. */
const digits = fc.oneof(
  fc.integer().map(String),
  fc.maxSafeInteger().map(String),
  fc.bigInt().map(String),
  fc.constantFrom('-0', '007', '1.0', '1e5', '', '-', '+1', '999999999999999', '9999999999999999'),
);

const fractions = fc.oneof(
  fc.double({ noNaN: true, noDefaultInfinity: true }).map(String),
  fc.integer().map((n) => String(n / 1e5)),
  fc.constantFrom(
    'NaN',
    'Infinity',
    '1e+20',
    '1e-05',
    '-0',
    '-0.5',
    '0.10',
    '.5',
    '5.',
    '0.0000001',
    '12.0000001',
    '100',
    '1234567890.123456',
    '007',
    '-00.5',
    '01.25',
  ),
);

const moments = fc.oneof(
  fc
    .date({
      min: new Date('0001-01-01T00:00:00Z'),
      max: new Date('9999-12-31T23:59:59.999Z'),
      noInvalidDate: true,
    })
    .map((at) =>
      at
        .toISOString()
        .replace('T', ' ')
        .replace('Z', '')
        .replace(/\.?0+$/, (all) => (all.startsWith('.') ? '' : all)),
    ),
  fc.constantFrom(
    '2026-03-01 06:30:00',
    '2026-03-01 06:30:00.5',
    '2026-03-01 06:30:00.123456',
    '2026-03-01x06:30:00',
    '2026-03-01 06:30:00+00',
    'infinity',
    '2026-13-01 06:30:00',
    '12026-03-01 06:30:00',
    '2026-03-01 06:30:00 BC',
    '2026-03-01 06:30:00.',
  ),
);

const momentOf = (field: string): Date => {
  const found = /^(\d{4}-\d\d-\d\d) (\d\d:\d\d:\d\d)(?:\.(\d{1,6}))?(\+00)?$/.exec(field);
  if (found === null) return new Date(Number.NaN);
  const [, day, clock, fraction = ''] = found;
  return new Date(`${day}T${clock}.${fraction.padEnd(3, '0').slice(0, 3)}Z`);
};

const parsed = (field: string): unknown => {
  try {
    return JSON.parse(field);
  } catch {
    return undefined;
  }
};

const KINDS: Readonly<Record<string, Kind>> = {
  text: { make: () => text(), field: anyText, value: (field) => field },
  integer: { make: () => integer(), field: digits, value: Number },
  bigint: { make: () => bigint(), field: digits, value: (field) => field },
  real: {
    make: () => real(),
    field: fractions,
    value: (field) => (field === '' ? Number.NaN : Number(field)),
  },
  decimal: {
    make: () => decimal(12, 2),
    field: fc.oneof(digits, fractions, fc.constantFrom('4.50', '-4.50', '0.00', '1.234')),
    value: (field) => field,
  },
  places: { make: () => decimal(12, 0), field: digits, value: (field) => field },
  bool: { make: () => bool(), field: fc.constantFrom('t', 'f', 'true', ''), value: (field) => field === 't' },
  date: {
    make: () => date(),
    field: fc.constantFrom(
      '2026-03-01',
      '0001-01-01',
      '2026-3-01',
      '2026-13-01',
      '2026-03-32',
      '2026-03-00',
      'infinity',
      '20260-03-1',
    ),
    value: (field) => field,
  },
  time: {
    make: () => time(),
    field: fc.constantFrom(
      '06:30:00',
      '23:59:59',
      '24:00:00',
      '06:30:00.25',
      '06:60:00',
      '06:30:60',
      '06-30-00',
    ),
    value: (field) => field,
  },
  timestamp: { make: () => timestamp(), field: moments, value: momentOf },
  uuid: {
    make: () => uuid(),
    field: fc.oneof(
      fc.uuid(),
      fc.uuid().map((id) => id.toUpperCase()),
      fc.uuid().map((id) => id.replaceAll('-', '_')),
    ),
    value: (field) => field,
  },
  json: {
    make: () => json<unknown>(),
    field: fc.oneof(
      fc.json(),
      fc.jsonValue().map((value) => JSON.stringify(value, null, 1)),
      fc.constantFrom('null', '"\\u2028"', '{'),
    ),
    value: parsed,
  },
  oneOf: {
    make: () => oneOf('bulk', 'a"b', 'ü', '=\\,'),
    field: fc.constantFrom('bulk', 'a"b', 'ü', '=\\,', 'bul', 'other'),
    value: (field) => field,
  },
  bytes: { make: () => bytes(), field: fc.constantFrom('', 'ab', 'ü'), value: (field) => Buffer.from(field) },
};

const NAMES = ['a b', '"', '\\', 'ключ', '0', '10', '\u0001'];

const spec = fc.record({
  kind: fc.constantFrom(...Object.keys(KINDS)),
  nullable: fc.boolean(),
  /** How the column is a member: as it is, in a group, left out where it is null, or by code. */
  as: fc.constantFrom('plain', 'plain', 'plain', 'group', 'unlessNull', 'derived'),
});
type Spec = typeof spec extends fc.Arbitrary<infer T> ? T : never;

const columns = fc.dictionary(fc.constantFrom(...NAMES), spec, {
  minKeys: 1,
  maxKeys: 5,
  noNullPrototype: true,
});
type Columns = Readonly<Record<string, Spec>>;

const column = ({ kind, nullable }: Spec): Any => {
  const made = KINDS[kind]?.make();
  return nullable ? made.nullable() : made;
};

const memberOf = (value: Any, { as, kind }: Spec, isRare: boolean): Any => {
  if (as === 'group') return { inside: value, nothing: {} };
  if (as === 'unlessNull') return unlessNull(value);
  if (as === 'derived' && isRare && kind !== 'bytes')
    return derive([value], json<unknown>(), (any: unknown) => [String(any)]);
  return value;
};

interface Case {
  readonly own: Columns;
  readonly other: Columns;
  /** Whether the link may lead nowhere, and how it is used. */
  readonly nullable: boolean;
  readonly nested: 'nested' | 'unlessNull' | 'path' | 'not';
  /** Whether something is in it that takes values. */
  readonly isRare: boolean;
}

const declared = ({ own, other, nullable, nested, isRare }: Case): ShapeOf<unknown> => {
  const entries = (all: Columns): Any =>
    Object.fromEntries(Object.entries(all).map(([name, one]) => [name, column(one)]));
  const to = integer();
  const db: Any = model(
    {
      one: entity('one', {
        id: integer().key(),
        toId: nullable ? to.nullable() : to,
        ...entries(own),
      } as Any),
      two: entity('two', { id: integer().key(), ...entries(other) } as Any),
    },
    { one: { to: toOne('two', 'toId'), many: toMany('two', 'id') } } as Any,
    { columnNames: 'same' },
  );
  const members = (v: Any, all: Columns): Any =>
    Object.fromEntries(
      Object.entries(all).map(([name, one]) => [`${name}!`, memberOf(v[name], one, isRare)]),
    );
  const inner = shape(db.two, ((v: Any) => members(v, other)) as Any);
  return shape(db.one, ((v: Any) => ({
    id: v.id,
    ...(nested === 'nested' ? { to: inner(v.to as Any) } : {}),
    ...(nested === 'unlessNull'
      ? { to: nullable ? unlessNull(inner(v.to as Any) as Any) : inner(v.to as Any) }
      : {}),
    ...(nested === 'path'
      ? { behind: Object.values(other).length > 0 ? v.to[Object.keys(other)[0] as string] : v.to.id }
      : {}),
    ...members(v, own),
    ...(isRare ? { many: count(v.many as Any) } : {}),
    audited: constant({ by: 'us, "all" of us' }),
  })) as Any) as ShapeOf<unknown>;
};

/** A line's fields: the keys, its own columns, the other's key and columns. */
const lineOf = ({ own, other }: Case): fc.Arbitrary<readonly (string | null)[]> => {
  const field = ({ kind, nullable }: Spec): fc.Arbitrary<string | null> => {
    const { field } = KINDS[kind] as Kind;
    return nullable
      ? fc.option(field)
      : fc.oneof({ weight: 60, arbitrary: field }, { weight: 1, arbitrary: fc.constant(null) });
  };
  const ours = Object.values(own).map(field);
  const theirs = Object.values(other).map(field);
  return fc
    .tuple(
      fc.nat().map(String),
      fc.option(fc.constant('1'), { freq: 4 }),
      fc.tuple(...ours),
      fc.tuple(...theirs),
    )
    .map(([id, to, mine, behind]) => [id, ...mine, to, ...(to === null ? behind.map(() => null) : behind)]);
};

const layoutOf = ({ own, other }: Case): PackedLayout => {
  const ownNames = Object.keys(own);
  const present = ownNames.length + 1;
  const places = (all: Columns, first: number): [string, number][] =>
    Object.entries(all).flatMap(([name, { kind }], i) => (kind === 'bytes' ? [] : [[name, first + i]]));
  return {
    present: 0,
    columns: new Map([['id', 0], ...places(own, 1)]),
    ones: new Map([
      [
        'to',
        { present, ones: new Map(), columns: new Map([['id', present], ...places(other, present + 1)]) },
      ],
    ]),
  };
};

/** What a store makes of a line. */
const rowOf = ({ own, other }: Case, fields: readonly (string | null)[]): object => {
  const values = (all: Columns, first: number): object =>
    Object.fromEntries(
      Object.entries(all).map(([name, { kind }], i) => {
        const field = fields[first + i] ?? null;
        return [name, field === null ? null : KINDS[kind]?.value(field)];
      }),
    );
  const present = Object.keys(own).length + 1;
  const to = fields[present] === null ? null : { id: Number(fields[present]), ...values(other, present + 1) };
  return { id: Number(fields[0]), ...values(own, 1), to, many: [] };
};

const ESCAPED: Readonly<Record<string, string>> = {
  '\\': '\\\\',
  '\b': '\\b',
  '\f': '\\f',
  '\n': '\\n',
  '\r': '\\r',
  '\t': '\\t',
  '\v': '\\v',
};

/** A field as a database may write it: it need not escape what only means something to people. */
const packedField = (field: string, isSparing: boolean): string =>
  field.replace(isSparing ? /[\\\n\t]/g : /[\\\b\f\n\r\t\v]/g, (one) => ESCAPED[one] ?? one);

const packed = (fields: readonly (string | null)[], index: number): string =>
  `${fields.map((field) => (field === null ? '\\N' : packedField(field, index % 2 === 0))).join('\t')}\n`;

/** The bytes in chunks of a size, which cut where they like, or lines as texts. */
async function* chunked(all: Uint8Array, size: number): AsyncGenerator<Uint8Array | string> {
  if (size % 3 === 0)
    return yield* Buffer.from(all)
      .toString('utf8')
      .match(/(?:[^\n]*\n){1,2}/g) ?? [];
  for (let at = 0; at < all.length; at += size) yield Buffer.from(all.subarray(at, at + size));
}

const cases = fc
  .record({
    own: columns,
    other: columns,
    nullable: fc.boolean(),
    nested: fc.constantFrom('nested', 'unlessNull', 'path', 'not' as const),
    isRare: fc.integer({ min: 0, max: 9 }).map((n) => n === 0),
  })
  .chain((one) =>
    fc.record({
      one: fc.constant(one as Case),
      lines: fc.array(lineOf(one as Case), { maxLength: 4 }),
      size: fc.integer({ min: 1, max: 200 }),
    }),
  );

/** What comes of a stream: its text, or what it fails with. */
const outcomeOf = async (stream: () => ReadableStream<Uint8Array>): Promise<string> => {
  try {
    return await new Response(stream()).text();
  } catch (error) {
    return `failed: ${(error as Error).message}`;
  }
};

const WAYS: Readonly<Record<string, (body: Any, rows: Any) => ReadableStream<Uint8Array>>> = {
  json: (body, rows) => writer(body, {}, { engine: 'generated' }).stream(rows as never),
  interpreted: (body, rows) => writer(body, {}, { engine: 'interpreted' }).stream(rows as never),
  lines: (body, rows) => jsonLines(body).stream(rows as never),
  csv: (body, rows) => csvLines(body).stream(rows as never),
  guarded: (body, rows) => csvLines(body, {}, { guardFormulas: true }).stream(rows as never),
};

describe('the law of packed rows', function () {
  this.timeout(3_600_000);
  it('they are written as the rows are that they stand for, and fail as those do', async () => {
    await fc.assert(
      fc.asyncProperty(cases, async ({ one, lines, size }) => {
        const body = list(declared(one) as Any);
        const rows = lines.map((fields) => rowOf(one, fields));
        const all = Buffer.from(lines.map(packed).join(''));
        const open = () => {
          const made = { layout: layoutOf(one), width: lines[0]?.length ?? 1 };
          return packedRows(async () => ({
            ...made,
            row: (fields) => rowOf(one, fields),
            chunks: chunked(all, size),
          }));
        };
        for (const [name, stream] of Object.entries(WAYS)) {
          const wanted = await outcomeOf(() => stream(body, rows));
          expect(await outcomeOf(() => stream(body, open())), name).to.equal(wanted);
        }
        const iterated: object[] = [];
        for await (const row of open()) iterated.push(row);
        expect(iterated).to.deep.equal(rows);
      }),
      runs(300),
    );
  });

  it('an end in the middle of a line is a failure, whoever reads it', async () => {
    const cut = () =>
      packedRows(async () => ({
        layout: { columns: new Map([['id', 0]]), ones: new Map(), present: 0 },
        width: 1,
        row: ([id]) => ({ id: Number(id) }),
        chunks: chunked(Buffer.from('1\n2\n3'), 2),
      }));
    const db = model({ one: entity('one', { id: integer().key() }) }, {});
    const body = list(shape(db.one, ({ id }) => ({ id })));
    expect(await outcomeOf(() => writer(body).stream(cut() as never))).to.match(
      /ended in the middle of a line/,
    );
    const read = async (): Promise<void> => {
      for await (const _row of cut());
    };
    expect(await read().catch((error: unknown) => error)).to.have.property('code', 'ENDED');
  });
});
