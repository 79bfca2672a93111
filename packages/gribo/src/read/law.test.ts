import { inspect } from 'node:util';
import { expect } from 'chai';
import fc from 'fast-check';
import {
  amending,
  asText,
  bigint,
  bool,
  bytes,
  date,
  decimal,
  duration,
  entity,
  input,
  integer,
  json,
  model,
  oneOf,
  optional,
  preset,
  type ReaderPolicies,
  reader,
  real,
  text,
  time,
  timestamp,
  toMany,
  toOne,
  uuid,
} from '../index.js';
import { cases, runs } from '../testing/cases.js';

// biome-ignore lint/suspicious/noExplicitAny: random bodies have no static type
type Any = any;

const db = model(
  {
    one: entity('one', {
      id: integer().key().generated(),
      text: text({ min: 1, max: 5, pattern: /^[^x]*$/ }).nullable(),
      int: integer({ min: -5, max: 5 }),
      real: real({ max: 100 }),
      big: bigint({ min: 0n }),
      dec: decimal(5, 2),
      flag: bool(),
      day: date(),
      clock: time(),
      span: duration(),
      at: timestamp(),
      key: uuid(),
      raw: bytes({ max: 4 }),
      kind: oneOf('a', 'b"'),
      maker: text().nullable(),
      twoId: integer().nullable(),
    } as Any),
    two: entity('two', {
      id: integer().key().generated(),
      oneId: integer(),
      name: text(),
      extra: json<unknown>(),
      size: integer(),
    }),
  },
  { one: { many: toMany('two', 'oneId'), to: toOne('two', 'twoId') } } as Any,
) as Any;

const Two = input(db.two, (t: Any) => ({ name: t.name, size: optional(t.size) }));
const Plain = input(
  db.one,
  (o: Any) =>
    ({
      'te"xt': optional(o.text),
      int: o.int,
      real: preset(o.real, 1),
      group: { big: o.big, dec: optional(o.dec), deep: optional({ flag: o.flag }) },
      times: { day: optional(o.day), clock: optional(o.clock), span: optional(o.span), at: o.at },
      key: optional(o.key),
      raw: optional(o.raw),
      kind: optional(o.kind),
      constructor: optional(o.maker),
      many: optional(Two(o.many)),
      to: optional(Two(o.to)),
    }) as Any,
);
const Mixed = input(db.two, (t: Any) => ({
  name: t.name,
  extra: optional(t.extra),
  size: optional(asText(t.size) as Any),
}));
const INPUTS: readonly Any[] = [Plain, amending(Plain, ({ kind, ...rest }: Any) => rest), Mixed];

const number = fc.constantFrom(
  '1',
  '-0',
  '0',
  '5',
  '6',
  '1.0',
  '1e0',
  '0.50',
  '9007199254740993',
  '1e400',
  '0.1e-400',
  '-3',
);
const scalar = fc.oneof(
  number,
  fc.constantFrom(
    'null',
    'true',
    '""',
    '"a"',
    '"abcdef"',
    '"x"',
    '"\\ud800"',
    '"b\\""',
    '"1.50"',
    '"12"',
    '"AQID"',
    '"AQID/w=="',
    '[]',
    '{}',
  ),
  fc.constantFrom(
    '"2024-02-29"',
    '"2023-02-29"',
    '"06:30"',
    '"PT90M"',
    '"P1Y2M3W4DT5H6M7.8S"',
    '"P-1DT-0.5S"',
    '"P"',
    '"PT"',
    '"P1H"',
    '"PT0.1234567S"',
    '"25:00"',
    '"2026-03-01T06:30:00Z"',
    '"2026-02-30T06:30:00.000Z"',
    '"0099-01-01T00:00:00Z"',
    '"2026-03-01T06:30:00+01:00"',
    '"2026-13-01T06:30:00Z"',
  ),
  fc.constantFrom('"0190b6f0-7c4f-7d5e-8e3b-1f2a3c4d5e6f"', '"0190B6F0-7C4F-7D5E-8E3B-1F2A3C4D5E6F"'),
);
const NAMES = [
  'te"xt',
  'int',
  'real',
  'group',
  'big',
  'dec',
  'deep',
  'flag',
  'times',
  'day',
  'clock',
  'span',
  'at',
  'key',
  'raw',
  'kind',
  'constructor',
  'many',
  'to',
  'name',
  'size',
  'extra',
  '__proto__',
  'toString',
  'stranger',
];

/** JSON texts of members that are often right: duplicates, escapes in names and odd spaces included. */
const { value: anyValue } = fc.letrec<{ value: string; object: string }>((tie) => ({
  object: fc
    .tuple(
      fc.array(fc.tuple(fc.constantFrom(...NAMES), tie('value')), { maxLength: 6 }),
      fc.constantFrom('', ' ', '\n\t'),
    )
    .map(
      ([members, space]) =>
        `{${members.map(([name, value]) => `${space}${JSON.stringify(name)}${space}:${value}`).join(',')}${space}}`,
    ),
  value: fc.oneof(
    { maxDepth: 3 },
    scalar,
    tie('object'),
    fc.array(tie('value'), { maxLength: 3 }).map((items) => `[${items.join()}]`),
  ),
}));

/** A body that is right but for what is changed in it. */
const nearlyRight = fc
  .record({
    int: number,
    big: fc.constantFrom('"7"', '7', '"-7"'),
    at: scalar,
    name: scalar,
    more: anyValue,
    where: fc.constantFrom('"int"', '"kind"', '"x"', '"many"'),
  })
  .map(
    ({ int, big, at, name, more, where }) =>
      `{"int":${int},"group":{"big":${big}},"times":{"at":${at}},"real":2,"many":[{"name":${name}},{"name":"b","size":1}],${where}:${more}}`,
  );
const right = fc
  .record({
    int: fc.integer({ min: -5, max: 5 }),
    kind: fc.constantFrom('a', 'b"'),
    names: fc.array(fc.string()),
    day: fc.constantFrom('2024-02-29', '1968-04-02'),
  })
  .map(({ int, kind, names, day }) =>
    JSON.stringify({
      kind,
      int,
      real: 0.5,
      many: names.map((name) => ({ name })),
      times: { at: '2026-03-01T06:30:00.000Z', day },
      group: { dec: '1.50', big: '12' },
    }),
  );

const policies: fc.Arbitrary<ReaderPolicies> = fc.record(
  {
    unknown: fc.constantFrom('refuse' as const, 'ignore' as const),
    nulls: fc.constantFrom('refuse' as const, 'absent' as const),
    choices: fc.constantFrom('name' as const, 'nameOrOrdinal' as const),
    digits: fc.constantFrom('text' as const, 'textOrNumber' as const),
    text: fc.constantFrom('exact' as const, 'lax' as const),
    items: fc.constantFrom(3, 12, 1000),
    depth: fc.constantFrom(2, 3, 32),
  },
  { requiredKeys: [] },
);

const told = (result: unknown): string => inspect(result, { depth: null });

describe('the law of readers', () => {
  it('both engines give equal changes and equal issues, for every body and policy', () => {
    let right_ = 0;
    const bodies = fc.record({
      body: fc.oneof(anyValue, nearlyRight, { arbitrary: right, weight: 3 }),
      input: fc.constantFrom(...INPUTS),
      policies,
    });
    fc.assert(
      fc.property(bodies, ({ body, input: of, policies: chosen }) => {
        const [generated, interpreted] = (['generated', 'interpreted'] as const).map((engine) =>
          reader(of, chosen, { engine }),
        );
        const fromText = generated?.json(body) as Any;
        expect(told(fromText)).to.equal(told(interpreted?.json(body)));
        expect(told(generated?.json(Buffer.from(body)))).to.equal(told(fromText));
        const parsed: unknown = JSON.parse(body);
        expect(told(generated?.object(parsed))).to.equal(told(interpreted?.object(parsed)));
        if (fromText.ok) right_++;
      }),
      runs(2000),
    );
    expect(right_, 'bodies that were right').to.be.above(cases(2000) / 40);
  });

  it('holds for objects that no parser makes', () => {
    const inherited = Object.create({ int: 1 });
    class Body {
      int = 1;
    }
    const bodies: unknown[] = [
      inherited,
      new Body(),
      { int: undefined },
      Object.assign(Object.create(null), { int: 1 }),
      [],
      new Date(),
      null,
      5,
      {
        int: 1,
        get group() {
          return { big: '1' };
        },
      },
    ];
    for (const body of bodies) {
      for (const of of INPUTS) {
        const [generated, interpreted] = (['generated', 'interpreted'] as const).map((engine) =>
          told(reader(of, {}, { engine }).object(body)),
        );
        expect(generated).to.equal(interpreted);
      }
    }
  });
});
