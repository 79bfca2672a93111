import { runInNewContext } from 'node:vm';
import { expect } from 'chai';
import {
  type AnyColumn,
  bigint,
  bool,
  bytes,
  date,
  decimal,
  entity,
  integer,
  json,
  list,
  model,
  oneOf,
  real,
  type ShapeOf,
  shape,
  text,
  time,
  timestamp,
  unlessNull,
  uuid,
  writer,
} from '../index.js';
import { ENGINES, looseWriter, writeError, writtenRow } from '../testing/engines.js';

/** A shape of one member over one column of a type. */
const shapeOf = (column: AnyColumn): ShapeOf<unknown> => {
  const db = model({ thing: entity('thing', { id: integer().key(), value: column }) }, {});
  return shape(db.thing, (t) => ({ value: t.value as never })) as ShapeOf<unknown>;
};

const written = (column: AnyColumn, value: unknown): unknown =>
  (writtenRow(shapeOf(column), { id: 1, value }) as { value: unknown }).value;

const refused = (column: AnyColumn, value: unknown): string => {
  const error = writeError(shapeOf(column), { id: 1, value });
  expect(error.path).to.equal('thing.value');
  return `${error.code} ${error.message.replace('thing.value: expected ', '')}`;
};

const UUID = '0190B6F0-7c4f-7d5e-8e3b-1f2a3c4d5e6f';

describe('values', () => {
  const accepted: readonly [string, AnyColumn, unknown, unknown][] = [
    ['text', text(), 'plain', 'plain'],
    ['empty text', text(), '', ''],
    [
      'text with quotes, line breaks and controls',
      text(),
      'a "b"\\\n\t\u0000\u007f',
      'a "b"\\\n\t\u0000\u007f',
    ],
    ['non-Latin text and emoji', text(), '潮風 Тихая 🐦', '潮風 Тихая 🐦'],
    ['long ASCII text', text(), 'x'.repeat(5000), 'x'.repeat(5000)],
    ['long text with something to escape', text(), `${'x'.repeat(500)}"é`, `${'x'.repeat(500)}"é`],
    ['lone surrogates', text(), 'a\ud800b\udc00', 'a\ud800b\udc00'],
    ['text of 33 to 96 letters', text(), `${'abcdefgh'.repeat(8)}\\`, `${'abcdefgh'.repeat(8)}\\`],
    ['integer', integer(), 42, 42],
    ['integer beyond 2^31', integer(), 2 ** 53, 2 ** 53],
    ['negative integer', integer(), -2147483649, -2147483649],
    ['integer -0', integer(), -0, 0],
    ['real', real(), 0.1 + 0.2, 0.1 + 0.2],
    ['real with few places', real(), -54.18273, -54.18273],
    ['real 8.78982', real(), 8.78982, 8.78982],
    ['real tiny', real(), 5e-324, 5e-324],
    ['real huge', real(), 1.7976931348623157e308, 1.7976931348623157e308],
    ['real -0', real(), -0, 0],
    ['real 1e21', real(), 1e21, 1e21],
    ['bigint', bigint(), 9007199254740993n, '9007199254740993'],
    ['bigint as a safe integer', bigint(), -12, '-12'],
    ['bigint as text', bigint(), '9007199254740993', '9007199254740993'],
    ['decimal with trailing zeros', decimal(12, 2), '1250.00', '1250.00'],
    ['negative decimal', decimal(12, 2), '-0.50', '-0.50'],
    ['long decimal', decimal(60, 0), '1'.repeat(60), '1'.repeat(60)],
    ['true', bool(), true, true],
    ['false', bool(), false, false],
    ['date text', date(), '1968-04-02', '1968-04-02'],
    ['date as a Date, in UTC', date(), new Date('2026-03-01T23:59:59Z'), '2026-03-01'],
    ['time', time(), '06:30:00.250', '06:30:00.25'],
    ['short time', time(), '23:59', '23:59:00'],
    ['timestamp', timestamp(), new Date('2026-06-15T06:00:00.007Z'), '2026-06-15T06:00:00.007Z'],
    ['timestamp before 1970', timestamp(), new Date('1921-12-31T23:59:59.999Z'), '1921-12-31T23:59:59.999Z'],
    [
      'timestamp on a leap day',
      timestamp(),
      new Date('2000-02-29T00:00:00.000Z'),
      '2000-02-29T00:00:00.000Z',
    ],
    [
      'timestamp of the year 0',
      timestamp(),
      new Date('0000-01-01T00:00:00.000Z'),
      '0000-01-01T00:00:00.000Z',
    ],
    [
      'timestamp of the year 9999',
      timestamp(),
      new Date('9999-12-31T23:59:59.999Z'),
      '9999-12-31T23:59:59.999Z',
    ],
    ['timestamp of another realm', timestamp(), runInNewContext('new Date(0)'), '1970-01-01T00:00:00.000Z'],
    ['uuid, as it is', uuid(), UUID, UUID],
    ['json', json<unknown>(), { a: [1, 'x', null], b: { c: true } }, { a: [1, 'x', null], b: { c: true } }],
    ['json null', json<unknown>(), null, null],
    ['json with toJSON', json<unknown>(), { at: new Date(0) }, { at: '1970-01-01T00:00:00.000Z' }],
    ['bytes', bytes(), Uint8Array.from([1, 2, 3, 255]), 'AQID/w=='],
    ['bytes of a buffer', bytes(), Buffer.from('hello'), 'aGVsbG8='],
    ['no bytes', bytes(), new Uint8Array(), ''],
    ['choice', oneOf('bulk', 'tug "x"'), 'tug "x"', 'tug "x"'],
    ['null where it may be', text().nullable(), null, null],
  ];
  for (const [name, column, value, expected] of accepted) {
    it(`write ${name}`, () => expect(written(column, value)).to.deep.equal(expected));
  }

  it('write base64 of every length as the standard does', () => {
    for (let length = 0; length < 9; length++) {
      const value = Uint8Array.from({ length }, (_, i) => 250 - i * 31);
      expect(written(bytes(), value)).to.equal(Buffer.from(value).toString('base64'));
    }
  });

  it('write moments as Date does, through every century', () => {
    const Moment = shapeOf(timestamp());
    const write = writer(list(Moment));
    const DAY = 86_400_000;
    for (let year = 0; year < 10_000; year += 100) {
      const turn = Date.parse(`${String(year).padStart(4, '0')}-01-01T00:00:00.000Z`);
      const values: Date[] = [];
      // The last days of February, the turns of years, and days in between.
      for (let day = 0; day < 1500; day++) values.push(new Date(turn + day * DAY + ((day * 7919) % DAY)));
      const rows = values.map((value) => ({ value }));
      const expected = JSON.stringify(values.map((value) => ({ value })));
      expect(write.json(rows) === expected, `the century of ${year}`).to.equal(true);
    }
  });

  it('write texts of any size, whatever the buffer held before', () => {
    const db = model(
      {
        thing: entity('thing', {
          id: integer().key(),
          a: text().nullable(),
          b: text().nullable(),
          c: bytes().nullable(),
          d: json<unknown>().nullable(),
        }),
      },
      {},
    );
    const Thing = shape(db.thing, ({ a, b, c, d }) => ({ a, b, c, d, again: { a, c: unlessNull(c) } }));
    const big = 200_000;
    const cases = [
      'x'.repeat(big),
      '"'.repeat(big),
      '潮'.repeat(big),
      '\u0001'.repeat(big),
      '\ud800'.repeat(big),
      null,
    ];
    for (const a of cases) {
      const row = { id: 1, a, b: a, c: a === null ? null : new Uint8Array(big), d: a };
      const [generated, interpreted] = ENGINES.map((engine) => looseWriter(Thing, engine).json(row));
      expect(generated === interpreted).to.equal(true);
    }
  });

  const wrong: readonly [string, AnyColumn, unknown, string][] = [
    [
      'undefined',
      text(),
      undefined,
      'ROW_MISSING a string, got nothing: the row has no "value"; load it, or set it to null where it has none',
    ],
    ['null where it may not be', text(), null, 'ROW_NULL a string, got null'],
    ['a number for text', text(), 5, 'ROW_TYPE a string, got 5'],
    ['a fraction for an integer', integer(), 1.5, 'ROW_TYPE an integer, got 1.5'],
    ['text for an integer', integer(), '5', 'ROW_TYPE an integer, got "5"'],
    ['NaN', real(), Number.NaN, 'ROW_TYPE a finite number, got NaN'],
    ['infinity', real(), Number.NEGATIVE_INFINITY, 'ROW_TYPE a finite number, got -Infinity'],
    ['infinity for an integer', integer(), Number.POSITIVE_INFINITY, 'ROW_TYPE an integer, got Infinity'],
    [
      'an unsafe number for a bigint',
      bigint(),
      2 ** 53,
      'ROW_TYPE a bigint, a safe integer or its text, got 9007199254740992',
    ],
    [
      'text that is no whole number',
      bigint(),
      '1.0',
      'ROW_TYPE a bigint, a safe integer or its text, got "1.0"',
    ],
    ['a number for a decimal', decimal(12, 2), 12.5, 'ROW_TYPE a decimal as text, got 12.5'],
    ['text that is no decimal', decimal(12, 2), '1e5', 'ROW_TYPE a decimal as text, got "1e5"'],
    ['0 for false', bool(), 0, 'ROW_TYPE true or false, got 0'],
    ['text that is no day', date(), '2026-13-01', 'ROW_TYPE a day as YYYY-MM-DD or a Date, got "2026-13-01"'],
    ['a time of day that is none', time(), '24:00', 'ROW_TYPE a time as HH:MM:SS, got "24:00"'],
    ['text for a timestamp', timestamp(), 'soon', 'ROW_TYPE a Date, got "soon"'],
    ['an invalid Date', timestamp(), new Date(Number.NaN), 'ROW_TYPE a Date, got an invalid Date'],
    [
      'a Date after 9999',
      timestamp(),
      new Date('+010000-01-01T00:00:00Z'),
      'ROW_RANGE a Date in the years 0000 to 9999, got a Date in the year 10000',
    ],
    [
      'a Date before 0',
      timestamp(),
      new Date('-000001-12-31T23:59:59Z'),
      'ROW_RANGE a Date in the years 0000 to 9999, got a Date in the year -1',
    ],
    [
      'a day after 9999',
      date(),
      new Date('+010000-01-01T00:00:00Z'),
      'ROW_RANGE a Date in the years 0000 to 9999, got a Date in the year 10000',
    ],
    ['text that is no UUID', uuid(), 'x', 'ROW_TYPE a UUID, got "x"'],
    ['a function for json', json<unknown>(), () => 1, 'ROW_TYPE a JSON value, got a function'],
    ['a bigint inside json', json<unknown>(), { a: 1n }, 'ROW_TYPE a JSON value, got an object'],
    ['text for bytes', bytes(), 'AQID', 'ROW_TYPE a Uint8Array, got "AQID"'],
    ['another choice', oneOf('bulk', 'tug'), 'ferry', 'ROW_TYPE one of bulk, tug, got "ferry"'],
    ['a long text', integer(), 'y'.repeat(500), `ROW_TYPE an integer, got "${'y'.repeat(39)}…`],
  ];
  for (const [name, column, value, message] of wrong) {
    it(`refuse ${name}`, () => expect(refused(column, value)).to.equal(message));
  }

  it('refuse a cycle inside json', () => {
    const cycle: Record<string, unknown> = {};
    cycle['self'] = cycle;
    expect(refused(json<unknown>(), cycle)).to.equal('ROW_TYPE a JSON value, got an object');
  });

  it('are read by via: under another name, by a getter or a method', () => {
    const column = text().via((row: { label(): string }) => row.label());
    expect(writtenRow(shapeOf(column), { label: () => 'via' })).to.deep.equal({ value: 'via' });
    const broken = text().via(() => {
      throw new Error('gone');
    });
    expect(refused(broken, 1)).to.equal(
      'ROW_FUNCTION column "value" to be computed, got nothing: its function threw "gone"',
    );
  });

  it('share nothing with the row', () => {
    const value = { list: [1] };
    const S = shapeOf(json<unknown>());
    expect(writtenRow(S, { id: 1, value })).to.deep.equal({ value: { list: [1] } });
  });
});
