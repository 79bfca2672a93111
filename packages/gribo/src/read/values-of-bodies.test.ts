import { expect } from 'chai';
import fc from 'fast-check';
import {
  type AnyColumn,
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
  type ReaderPolicies,
  reader,
  real,
  shape,
  text,
  time,
  timestamp,
  uuid,
  writer,
} from '../index.js';
import { runs } from '../testing/cases.js';
import { type Any, inputOf } from '../testing/read-bodies.js';
import { quickMoment } from './quick-moment.js';
import { readMoment } from './read-values.js';

/** The value that a JSON text is read to, or the code of what is wrong with it. */
const readAs = (
  column: AnyColumn,
  jsonText: string,
  convert?: (value: Any) => Any,
  policies: ReaderPolicies = {},
): unknown => {
  const got = reader(inputOf(column, convert), policies).json(`{"value":${jsonText}}`) as Any;
  return got.ok ? got.value.value : got.issues[0].code;
};

describe('values of bodies', () => {
  const cases: readonly [string, AnyColumn, string, unknown][] = [
    ['text', text(), '"ü\\n\\u00e9"', 'ü\né'],
    ['a lone surrogate', text(), '"\\ud800"', 'format'],
    ['characters of two units, one each', text({ min: 2, max: 2 }), '"😀潮"', '😀潮'],
    ['a character of two units that is one too few', text({ min: 2 }), '"😀"', 'length'],
    ['a character of two units that is one too many', text({ max: 1 }), '"a😀"', 'length'],
    ['a number for text', text(), '5', 'type'],
    ['integer', integer(), '42', 42],
    ['-0', integer(), '-0', 0],
    ['an exponent', integer(), '1e2', 100],
    ['a fraction for an integer', integer(), '1.5', 'type'],
    ['2^53 + 1 for an integer', integer(), '9007199254740993', 'range'],
    ['real', real(), '0.1e-3', 0.0001],
    ['1e400', real(), '1e400', 'range'],
    ['0.1e-400', real(), '0.1e-400', 0],
    ['bigint', bigint(), '"9007199254740993"', 9007199254740993n],
    ['bigint as a number', bigint(), '12', 'type'],
    ['bigint as text', bigint(), '"-12"', -12n],
    ['bigint with a fraction', bigint(), '"1.0"', 'format'],
    ['bigint out of range', bigint({ min: 0n }), '"-1"', 'range'],
    ['bigint of too many digits', bigint(), `"${'9'.repeat(2000)}"`, 'range'],
    ['decimal as text', decimal(5, 2), '"1.50"', '1.50'],
    ['decimal as a number', decimal(5, 2), '1.5', 'type'],
    ['decimal -0', decimal(5, 2), '"-0.00"', '0.00'],
    ['decimal with too many places', decimal(5, 2), '"1.505"', 'range'],
    ['decimal with too many digits', decimal(5, 2), '"1234"', 'range'],
    ['decimal with an exponent', decimal(5, 2), '"1e1"', 'format'],
    ['bool', bool(), 'true', true],
    ['1 for true', bool(), '1', 'type'],
    ['date', date(), '"2024-02-29"', '2024-02-29'],
    ['30 February', date(), '"2024-02-30"', 'format'],
    ['29 February 2100', date(), '"2100-02-29"', 'format'],
    ['time', time(), '"06:30:00.250"', '06:30:00.25'],
    ['time without seconds', time(), '"06:30"', '06:30:00'],
    ['time of nothing', time(), '"00:00:00.000"', '00:00:00'],
    ['24:00', time(), '"24:00"', 'format'],
    ['timestamp', timestamp(), '"2026-03-01t06:30:00.123456z"', new Date('2026-03-01T06:30:00.123Z')],
    ['timestamp without offset', timestamp(), '"2026-03-01T06:30:00"', 'format'],
    ['a leap second', timestamp(), '"2016-12-31T23:59:60Z"', 'format'],
    ['29 February 2100 with a time', timestamp(), '"2100-02-29T00:00:00Z"', 'format'],
    ['29 February 2000 with a time', timestamp(), '"2000-02-29T00:00:00Z"', new Date('2000-02-29T00:00:00Z')],
    ['the year 99', timestamp(), '"0099-03-01T00:00:00.000Z"', new Date('0099-03-01T00:00:00Z')],
    ['30 February with a time', timestamp(), '"2026-02-30T00:00:00Z"', 'format'],
    ['uuid', uuid(), '"0190B6F0-7C4F-7D5E-8E3B-1F2A3C4D5E6F"', '0190b6f0-7c4f-7d5e-8e3b-1f2a3c4d5e6f'],
    ['no uuid', uuid(), '"x"', 'format'],
    ['json', json(), '{"a":[1,2.5,{"__proto__":1}]}', JSON.parse('{"a":[1,2.5,{"__proto__":1}]}')],
    ['json null', json(), 'null', null],
    ['bytes', bytes(), '"AQID/w=="', Uint8Array.of(1, 2, 3, 255)],
    ['bytes too many', bytes({ max: 3 }), '"AQID/w=="', 'length'],
    ['base64 without padding', bytes(), '"AQID/w"', 'format'],
    ['base64 with bits left over', bytes(), '"Zh=="', 'format'],
    ['base64 with bits left over, of two', bytes(), '"AQI9AAB="', 'format'],
    ['json with a number beyond all', json(), '{"a":[1e400]}', 'range'],
    ['json of a number beyond all', json(), '-1e400', 'range'],
    ['a whole number that would be rounded', real(), '9007199254740993', 'range'],
    ['a large whole number that is kept', real(), '9007199254740992', 9007199254740992],
    ['a large number with an exponent', real(), '1e300', 1e300],
    ['base64 of other letters', bytes(), '"AQ!D"', 'format'],
    ['json with half a character', json(), '{"a":["\\ud800"]}', 'format'],
    ['json with half a character in a name', json(), '{"\\udc00":1}', 'format'],
    ['choice', oneOf('a', 'b'), '"b"', 'b'],
    ['no choice', oneOf('a', 'b'), '"c"', 'choice'],
  ];
  for (const [name, column, body, expected] of cases) {
    it(`read ${name}`, () => expect(readAs(column, body)).to.deep.equal(expected));
  }

  it('are numbers for bigints and decimals too, where that is taken, to the last digit', () => {
    const asNumbers = (column: AnyColumn, body: string): unknown =>
      readAs(column, body, undefined, { digits: 'textOrNumber' });
    expect(asNumbers(bigint(), '9007199254740993')).to.equal(9007199254740993n);
    expect(asNumbers(bigint(), '"12"')).to.equal(12n);
    expect(asNumbers(bigint(), '1.0')).to.equal('format');
    expect(asNumbers(decimal(20, 10), '1.5000000000')).to.equal('1.5000000000');
    expect(asNumbers(decimal(5, 2), '1e1')).to.equal('format');
  });

  it('of moments that are read at first sight are read as by looking closer, whatever is changed in them', () => {
    for (const right of ['2026-03-01T06:30:00Z', '2024-02-29T23:59:59.123Z']) {
      for (let at = 0; at < right.length; at++) {
        for (const other of '0123456789:/.-+TtZz x') {
          const changed = right.slice(0, at) + other + right.slice(at + 1);
          const quick = quickMoment(changed);
          if (quick !== undefined) expect(readMoment(changed), changed).to.deep.equal(quick);
        }
      }
      expect(quickMoment(right), right).to.deep.equal(new Date(right));
    }
  });

  it('are led back through conversions', () => {
    expect(readAs(integer(), '"1998"', asText)).to.equal(1998);
    expect(readAs(integer(), '""', asText)).to.equal('format');
    expect(readAs(integer(), '"1e3"', asText)).to.equal('format');
    expect(readAs(integer(), '"9007199254740993"', asText)).to.equal('format');
    expect(readAs(bool(), '"maybe"', asText)).to.equal('format');
    expect(readAs(bool(), '"false"', asText)).to.equal(false);
    expect(readAs(bigint(), '12', asNumber)).to.equal(12n);
    expect(readAs(timestamp(), '60', epochSeconds)).to.deep.equal(new Date(60_000));
    expect(
      readAs(oneOf('A', 'B'), '"first"', (v) => labelled(v, { A: 'first', B: 'second' } as Any)),
    ).to.equal('A');
    expect(readAs(oneOf('A', 'B'), '"A"', (v) => labelled(v, { A: 'first', B: 'second' } as Any))).to.equal(
      'choice',
    );
    expect(readAs(integer({ max: 5 }), '"6"', asText)).to.equal('range');
  });

  it('say what a body has to hold where a conversion leads back', () => {
    const told = (column: AnyColumn, body: string, convert: (value: Any) => Any): string => {
      const got = reader(inputOf(column, convert)).json(`{"value":${body}}`) as Any;
      return got.issues[0].message;
    };
    expect(told(bigint({ min: 0n }), '-5', asNumber)).to.equal(
      'Expected a whole number of 0 or more, got -5.',
    );
    expect(told(bigint({ min: 0n }), '"5"', asNumber)).to.equal('Expected a whole number, got "5".');
    const year = integer({ min: 1850, max: 2100 });
    const yearText = 'a whole number from 1850 to 2100, as a string';
    expect(told(year, '"1700"', asText)).to.equal(`Expected ${yearText}, got "1700".`);
    expect(told(year, '1900', asText)).to.equal(`Expected ${yearText}, got 1900.`);
    expect(told(year, '"new"', asText)).to.equal(`Expected ${yearText}, got "new".`);
    expect(told(bool(), '"maybe"', asText)).to.equal('Expected one of true, false, got "maybe".');
    expect(told(timestamp(), '1e15', epochSeconds)).to.equal('Expected a whole number, got 1e15.');
    const required = reader(inputOf(year, asText)).object({}) as Any;
    expect(required.issues[0].message).to.equal(`This member is required: ${yearText}.`);
  });

  it('come back as they went out', () => {
    const back = model(
      {
        thing: entity('thing', {
          id: integer().key(),
          a: text(),
          b: real(),
          c: bigint(),
          d: decimal(30, 4),
          e: timestamp(),
          f: bytes(),
          g: json<unknown>(),
          h: bool().nullable(),
        }),
      },
      {},
    );
    const members = (t: Any) => ({ one: { a: t.a, b: t.b }, c: t.c, d: t.d, e: t.e, f: t.f, g: t.g, h: t.h });
    const write = writer(shape(back.thing, members as Any) as Any);
    const readBack = reader(input(back.thing, members as Any) as Any);
    const row = fc.record({
      a: fc.string({ unit: 'grapheme' }),
      b: fc.double({ noNaN: true, noDefaultInfinity: true }).map((n) => n + 0),
      c: fc.bigInt({ min: -(10n ** 30n), max: 10n ** 30n }),
      d: fc.tuple(fc.integer({ min: 1 }), fc.nat(9999)).map(([x, y]) => `${x}.${y}`),
      e: fc.date({ min: new Date('0001-01-01'), max: new Date('9999-12-31'), noInvalidDate: true }),
      f: fc.uint8Array(),
      g: fc.jsonValue().map((value) => JSON.parse(JSON.stringify(value))),
      h: fc.option(fc.boolean()),
    });
    fc.assert(
      fc.property(row, (values) => {
        const got = readBack.json(write.bytes({ id: 1, ...values } as never)) as Any;
        expect(got.issues ?? got.value).to.deep.equal(values);
      }),
      runs(200),
    );
  });
});
