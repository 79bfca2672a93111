import { expect } from 'chai';
import {
  type AnyColumn,
  asNumber,
  asText,
  bigint,
  bool,
  dateOnly,
  decimal,
  entity,
  epochSeconds,
  integer,
  labelled,
  lower,
  masked,
  model,
  oneOf,
  real,
  rounded,
  shape,
  shorten,
  text,
  timestamp,
  upper,
} from '../../index.js';
import { type ConversionPlan, convertBack } from '../../plan/conversion.js';
import { declarationError, writeError, writtenRow } from '../../testing/engines.js';

// biome-ignore lint/suspicious/noExplicitAny: one helper for columns of every type
type Any = any;

const shapeOf = (column: AnyColumn, convert: (value: Any) => Any): Any => {
  const db = model({ thing: entity('thing', { id: integer().key(), value: column }) }, {});
  return shape(db.thing, (t) => ({ value: convert(t.value) }));
};
const converted = (column: AnyColumn, convert: (value: Any) => Any, value: unknown): unknown =>
  (writtenRow(shapeOf(column, convert), { id: 1, value }) as { value: unknown }).value;

const inverseOf = (column: AnyColumn, convert: (value: Any) => Any): ((value: Any) => unknown) | null =>
  backBy(shapeOf(column, convert).plan.fields[0].node.conversion);

const backBy = (conversion: ConversionPlan): ((value: Any) => unknown) | null =>
  conversion.invert === null ? null : (value) => convertBack(conversion, value);

describe('conversions', () => {
  it('shorten keeps so many code points, the last one … where it cut', () => {
    const to5 = (v: Any) => shorten(v, 5);
    expect(converted(text(), to5, 'abcde')).to.equal('abcde');
    expect(converted(text(), to5, 'abcdef')).to.equal('abcd…');
    expect(converted(text(), to5, '🐦🐦🐦🐦🐦')).to.equal('🐦🐦🐦🐦🐦');
    expect(converted(text(), to5, '🐦🐦🐦🐦🐦🐦')).to.equal('🐦🐦🐦🐦…');
    expect(converted(text(), (v) => shorten(v, 1), 'ab')).to.equal('…');
    expect(declarationError(() => shapeOf(text(), (v) => shorten(v, 0)))).to.contain(
      'shorten needs a length of 1 or more',
    );
  });

  it('masked hides everything, or all but the last characters of a long text', () => {
    const last2 = (v: Any) => masked(v, { showLast: 2 });
    expect(converted(text().sealed('personal'), (v) => masked(v), '+00 555')).to.equal('•••');
    expect(converted(text().sealed('personal'), last2, '+00 555 47')).to.equal('•••47');
    expect(converted(text().sealed('personal'), last2, '12345')).to.equal('•••');
    expect(converted(text().sealed('personal').nullable(), last2, null)).to.equal(null);
    expect(declarationError(() => shapeOf(text(), (v) => masked(v, { showLast: -1 })))).to.contain(
      'showLast must be',
    );
  });

  it('rounded rounds numbers as toFixed does, and decimals exactly', () => {
    expect(converted(real(), (v) => rounded(v, 1), 12.345)).to.equal(12.3);
    expect(converted(real(), rounded, -0.4)).to.equal(0);
    expect(converted(integer(), (v) => rounded(v, 2), 7)).to.equal(7);
    const to2 = (v: Any) => rounded(v, 2);
    expect(converted(decimal(30, 4), to2, '12345678901234567890.1250')).to.equal('12345678901234567890.13');
    expect(converted(decimal(30, 4), to2, '-0.005')).to.equal('-0.01');
    expect(converted(decimal(30, 4), to2, '-0.004')).to.equal('0.00');
    expect(converted(decimal(30, 4), to2, '9.999')).to.equal('10.00');
    expect(converted(decimal(30, 4), (v) => rounded(v), '0.5')).to.equal('1');
    expect(converted(decimal(30, 4), to2, '7')).to.equal('7.00');
    expect(declarationError(() => shapeOf(real(), (v) => rounded(v, 21)))).to.contain(
      'rounded needs 0 to 20 places',
    );
  });

  it('upper and lower follow Unicode', () => {
    expect(converted(text(), upper, 'straße é')).to.equal('STRASSE É');
    expect(converted(oneOf('A', 'B'), lower, 'A')).to.equal('a');
  });

  it('dateOnly and epochSeconds read a moment in UTC', () => {
    const moment = new Date('1969-12-31T23:59:59.500Z');
    expect(converted(timestamp(), dateOnly, moment)).to.equal('1969-12-31');
    expect(converted(timestamp(), epochSeconds, moment)).to.equal(-1);
    expect(inverseOf(timestamp(), epochSeconds)?.(60)).to.deep.equal(new Date(60_000));
  });

  it('asNumber gives numbers, and refuses those that no number holds', () => {
    expect(converted(decimal(12, 2), asNumber, '1250.00')).to.equal(1250);
    expect(converted(bigint(), asNumber, 9007199254740991n)).to.equal(9007199254740991);
    const error = writeError(shapeOf(bigint(), asNumber), { id: 1, value: 9007199254740993n });
    expect(error.code).to.equal('ROW_RANGE');
    expect(error.message).to.equal(
      'thing.value: expected a value that asNumber can show, got 9007199254740993n',
    );
    expect(inverseOf(bigint(), asNumber)?.(5)).to.equal(5n);
    expect(inverseOf(decimal(4, 1), asNumber)).to.equal(null);
  });

  it('asText gives text that leads back', () => {
    const cases: readonly [AnyColumn, unknown, string][] = [
      [integer(), 1998, '1998'],
      [real(), -0.5, '-0.5'],
      [integer(), -0, '0'],
      [bigint(), 12n, '12'],
      [bool(), true, 'true'],
      [decimal(4, 2), '1.50', '1.50'],
      [oneOf('A'), 'A', 'A'],
    ];
    for (const [column, value, expected] of cases) {
      expect(converted(column, asText, value)).to.equal(expected);
      if (!Object.is(value, -0)) expect(inverseOf(column, asText)?.(expected)).to.equal(value);
    }
  });

  it('labelled shows a label for each choice', () => {
    const labels = { A: 'any vessel', B: 'up to 180 m' };
    const convert = (v: Any) => labelled(v, labels);
    expect(converted(oneOf('A', 'B'), convert, 'B')).to.equal('up to 180 m');
    expect(inverseOf(oneOf('A', 'B'), convert)?.('any vessel')).to.equal('A');
    expect(inverseOf(oneOf('A', 'B'), (v) => labelled(v, { A: 'x', B: 'x' } as Any))).to.equal(null);
    const message = declarationError(() =>
      shapeOf(oneOf('A', 'B'), (v) => labelled(v, { A: 'x', C: 'y' } as Any)),
    );
    expect(message).to.contain('labelled needs one label for each choice: it lacks B. There is no choice C.');
    expect(declarationError(() => shapeOf(text(), convert))).to.contain(
      'labelled takes oneOf; this value is text',
    );
  });

  it('keep null, and can be chained', () => {
    for (const convert of [(v: Any) => shorten(v, 3), upper, lower, masked]) {
      expect(converted(text().nullable(), convert, null)).to.equal(null);
    }
    expect(converted(timestamp().nullable(), dateOnly, null)).to.equal(null);
    expect(converted(text(), (v) => shorten(upper(v), 4), 'anselma')).to.equal('ANS…');
  });

  it('refuse values of other types', () => {
    expect(declarationError(() => shapeOf(integer(), (v) => shorten(v, 3)))).to.contain(
      'shorten takes text, oneOf, uuid; this value is integer',
    );
    expect(declarationError(() => shapeOf(text(), dateOnly))).to.contain(
      'dateOnly takes timestamp; this value is text',
    );
    expect(declarationError(() => shapeOf(text(), asNumber))).to.contain('asNumber takes decimal, bigint');
  });
});
