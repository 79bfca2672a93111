import fc from 'fast-check';
import {
  amending,
  asNumber,
  asText,
  bigint,
  bool,
  bytes,
  date,
  decimal,
  entity,
  epochSeconds,
  input,
  integer,
  json,
  labelled,
  model,
  oneOf,
  optional,
  preset,
  real,
  text,
  time,
  timestamp,
  toMany,
  toOne,
  uuid,
} from '../index.js';

// biome-ignore lint/suspicious/noExplicitAny: random declarations have no static type
type Any = any;

/** JSON texts that are right for a column, nearly right, or just wrong. */
interface Column {
  readonly make: () => Any;
  readonly right: readonly string[];
  readonly convert?: (value: Any) => Any;
}

const quoted = (...texts: readonly string[]): readonly string[] => texts.map((one) => JSON.stringify(one));

const COLUMNS: Readonly<Record<string, Column>> = {
  text: { make: () => text(), right: quoted('', 'a', 'ключ', '😀', 'a\nb') },
  short: { make: () => text({ min: 2, max: 4 }), right: quoted('ab', 'abcd', 'ключ', '潮潮', 'a😀') },
  code: { make: () => text({ pattern: /^[A-Z]{2}\d?$/ }), right: quoted('AB', 'QM7') },
  integer: { make: () => integer(), right: ['0', '-1', '1.0', '1e2', '2147483648', '-0'] },
  year: { make: () => integer({ min: 1850, max: 2100 }), right: ['1850', '2100', '1999.0'] },
  real: { make: () => real(), right: ['0.5', '-1e-7', '1e300', '12', '0.1e-400'] },
  length: { make: () => real({ min: 0, max: 99.5 }), right: ['0', '99.5', '1e1'] },
  bigint: { make: () => bigint(), right: quoted('0', '-12', '9223372036854775808', '-0') },
  weight: { make: () => bigint({ min: 0n, max: 1250n }), right: quoted('0', '9', '1250', '999') },
  below: { make: () => bigint({ min: -105n, max: -7n }), right: quoted('-7', '-105', '-99') },
  decimal: { make: () => decimal(5, 2), right: quoted('0', '-0.00', '999.99', '12.5') },
  whole: { make: () => decimal(3, 0), right: quoted('0', '999') },
  fraction: { make: () => decimal(2, 2), right: quoted('0.99', '0', '-0.5') },
  bool: { make: () => bool(), right: ['true', 'false'] },
  date: { make: () => date(), right: quoted('2024-02-29', '0000-01-01', '9999-12-31') },
  time: { make: () => time(), right: quoted('06:30', '23:59:59', '00:00:00.123456789') },
  timestamp: {
    make: () => timestamp(),
    right: quoted('2026-03-01T06:30:00Z', '2026-03-01t06:30:00.5+02:00', '0000-01-01T00:00:00.000Z'),
  },
  uuid: {
    make: () => uuid(),
    right: quoted('0190b6f0-7c4f-7d5e-8e3b-1f2a3c4d5e6f', '0190B6F0-7C4F-7D5E-8E3B-1F2A3C4D5E6F'),
  },
  json: { make: () => json<unknown>(), right: ['null', '[]', '{"a":[1,{"b":null}]}', '"x"', '0.5'] },
  bytes: { make: () => bytes(), right: quoted('', 'AQ==', 'AQI=', 'AQID', 'AQIDBA==') },
  four: { make: () => bytes({ max: 4 }), right: quoted('', 'AQ==', 'AQID', 'AQIDBA==') },
  five: { make: () => bytes({ max: 5 }), right: quoted('AQIDBAU=', 'AQIDBA==') },
  six: { make: () => bytes({ max: 6 }), right: quoted('AQIDBAUG') },
  oneOf: { make: () => oneOf('bulk', 'a"b', 'ü'), right: quoted('bulk', 'a"b', 'ü') },
  yearText: {
    make: () => integer({ min: 1850, max: 2100 }),
    right: quoted('1850', '2100', '1999'),
    convert: asText,
  },
  realText: { make: () => real(), right: quoted('1.5', '-1e3', '0'), convert: asText },
  boolText: { make: () => bool(), right: quoted('true', 'false'), convert: asText },
  bigText: { make: () => bigint({ min: 0n }), right: quoted('0', '12'), convert: asText },
  decimalText: { make: () => decimal(5, 2), right: quoted('1.50'), convert: asText },
  choiceText: { make: () => oneOf('a', 'b'), right: quoted('a', 'b'), convert: asText },
  shortText: { make: () => text({ max: 3 }), right: quoted('', 'abc'), convert: asText },
  uuidText: { make: () => uuid(), right: quoted('0190b6f0-7c4f-7d5e-8e3b-1f2a3c4d5e6f'), convert: asText },
  weightNumber: {
    make: () => bigint({ min: 0n, max: 1250n }),
    right: ['0', '1250', '1e3'],
    convert: asNumber,
  },
  bigNumber: { make: () => bigint(), right: ['0', '-9007199254740991'], convert: asNumber },
  seconds: { make: () => timestamp(), right: ['0', '-62167219200', '253402300799'], convert: epochSeconds },
  label: {
    make: () => oneOf('A', 'B'),
    right: quoted('first', 'second'),
    convert: (value) => labelled(value, { A: 'first', B: 'second' } as Any),
  },
};

const NAMES = Object.keys(COLUMNS);

/** Texts that are wrong for most columns, and edges of what is right for some. */
const ODD: readonly string[] = [
  ...Object.values(COLUMNS).flatMap(({ right }) => right),
  ...[
    'null',
    '1',
    '-1',
    '1.5',
    '1e400',
    '9007199254740993',
    '1849',
    '2101',
    '99.6',
    '[]',
    '{}',
    '[1]',
    '{"a":1}',
    'true',
  ],
  ...quoted(
    'abcde',
    '😀😀😀',
    '潮潮潮潮潮',
    'A',
    'ABC',
    'AB7\n',
    '1e3',
    '1.0',
    '01',
    '+1',
    ' 1',
    '1251',
    '-6',
    '-106',
    '1000.00',
  ),
  ...quoted(
    '1.505',
    '.5',
    '5.',
    '2023-02-29',
    '2024-13-01',
    '2024-2-9',
    '24:00',
    '06:30:60',
    '6:30',
    '06:30Z',
  ),
  ...quoted('2016-12-31T23:59:60Z', '2026-03-01T06:30:00', '2026-03-01 06:30:00Z', '2026-03-01T06:30Z'),
  ...quoted('9999-12-31T23:59:59-01:00', '0000-01-01T00:00:00+01:00', '2026-03-01T06:30:00.1234567890Z'),
  ...quoted(
    'AQ',
    'AQ=',
    'Zh==',
    'AQI9AAB=',
    'AQ!D',
    'AQ-_',
    'AQIDBAUG',
    'AQIDBAUGBw==',
    'AQIDBAU=',
    'true ',
    'TRUE',
  ),
  ...quoted('0190b6f07c4f7d5e8e3b1f2a3c4d5e6f', '{0190b6f0-7c4f-7d5e-8e3b-1f2a3c4d5e6f}', 'third', 'A', 'c'),
  '"\\ud800"',
  '{"a":"\\udc00"}',
  '[1e400]',
];

interface Field {
  readonly column: string;
  readonly presence: 'required' | 'optional' | 'preset';
  readonly nullable: boolean;
  readonly grouped: boolean;
}

const fields: fc.Arbitrary<readonly Field[]> = fc.uniqueArray(
  fc.record({
    column: fc.constantFrom(...NAMES),
    presence: fc.constantFrom('required' as const, 'optional' as const, 'preset' as const),
    nullable: fc.boolean(),
    grouped: fc.boolean(),
  }),
  { minLength: 1, maxLength: 8, selector: ({ column }) => column },
);

/** What a body of an input may look like: members by name, and what each may hold. */
type Body = fc.Arbitrary<string>;

const often = <T>(right: fc.Arbitrary<T>, other: fc.Arbitrary<T>): fc.Arbitrary<T> =>
  fc.oneof({ arbitrary: right, weight: 12 }, { arbitrary: other, weight: 1 });

const bodyOf = (members: readonly (readonly [name: string, value: Body, isSure: boolean])[]): Body => {
  const each = members.map(([name, value, isSure]) =>
    fc
      .tuple(fc.nat(99), value)
      .map(([chance, body]) => (chance < (isSure ? 2 : 40) ? [] : [`${JSON.stringify(name)}:${body}`])),
  );
  const stray = fc.nat(99).map((chance) => (chance < 2 ? ['"stranger":1'] : []));
  return fc.tuple(...each, stray).map((parts) => `{${parts.flat().join(',')}}`);
};

const valueIn = ({ column, nullable }: Field): Body =>
  often(
    fc.constantFrom(...(COLUMNS[column]?.right ?? []), ...(nullable ? ['null'] : [])),
    fc.constantFrom(...ODD),
  );

/** An input with bodies for it: many are right, many are wrong in one place. */
export interface InputCase {
  readonly input: Any;
  readonly bodies: Body;
}

const presetOf = (column: string): Any => {
  const [first = 'null'] = COLUMNS[column]?.right ?? [];
  return JSON.parse(first);
};

const declared = (of: readonly Field[], row: Any): Any => {
  const members = of.map((field) => {
    const convert = COLUMNS[field.column]?.convert ?? ((value: Any) => value);
    const value = convert(row[field.column]);
    if (field.presence === 'preset') return [field, preset(value, presetOf(field.column))] as const;
    return [field, field.presence === 'optional' ? optional(value) : value] as const;
  });
  const those = (grouped: boolean): Any =>
    Object.fromEntries(
      members.filter(([field]) => field.grouped === grouped).map(([{ column }, value]) => [column, value]),
    );
  const group = those(true);
  return { ...those(false), ...(Object.keys(group).length === 0 ? {} : { group }) };
};

const membersOf = (of: readonly Field[], amends: boolean): [string, Body, boolean][] => {
  const those = (grouped: boolean): [string, Body, boolean][] =>
    of
      .filter((field) => field.grouped === grouped)
      .map((field) => [field.column, valueIn(field), !amends && field.presence === 'required']);
  const group = those(true);
  const isSure = group.some(([, , sure]) => sure);
  return [
    ...those(false),
    ...(group.length === 0 ? [] : [['group', bodyOf(group), isSure] as [string, Body, boolean]]),
  ];
};

const columnsOf = (of: readonly Field[]): Any =>
  Object.fromEntries(
    of.map(({ column, nullable }) => {
      const made = COLUMNS[column]?.make();
      return [column, nullable ? made.nullable() : made];
    }),
  );

/** Random inputs over every kind of column, with nested rows, for creating and for amending. */
export const inputCases: fc.Arbitrary<InputCase> = fc
  .record({ own: fields, inner: fields, amends: fc.boolean() })
  .map(({ own, inner, amends }) => {
    const id = { id: integer().key().generated() };
    const db = model(
      {
        one: entity('one', { ...id, ...columnsOf(own), twoId: integer().nullable() } as Any),
        two: entity('two', { ...id, ...columnsOf(inner), oneId: integer().nullable() } as Any),
      },
      { one: { to: toOne('two', 'twoId'), many: toMany('two', 'oneId') } } as Any,
    ) as Any;
    const Inner = input(db.two, (row: Any) => declared(inner, row));
    const Own = input(
      db.one,
      (row: Any) =>
        ({
          ...declared(own, row),
          to: optional(Inner(row.to)),
          many: optional(Inner(row.many)),
        }) as Any,
    );
    const nested = bodyOf(membersOf(inner, false));
    const bodies = bodyOf([
      ...membersOf(own, amends),
      ['to', often(nested, fc.constantFrom('null', '[]', '1')), false],
      [
        'many',
        often(
          fc.array(nested, { maxLength: 2 }).map((rows) => `[${rows.join(',')}]`),
          fc.constantFrom('null', '{}', '[null]'),
        ),
        false,
      ],
    ]);
    return { input: amends ? amending(Own, (members: Any) => members) : Own, bodies };
  });
