import { expect } from 'chai';
import fc from 'fast-check';
import {
  type AnyColumn,
  amending,
  asNumber,
  assigned,
  asText,
  bigint,
  bool,
  bytes,
  count,
  date,
  decimal,
  entity,
  epochSeconds,
  type Issue,
  input,
  inputFrom,
  integer,
  json,
  labelled,
  lower,
  model,
  oneOf,
  optional,
  preset,
  type ReaderPolicies,
  reader,
  real,
  shape,
  text,
  time,
  timestamp,
  toMany,
  toOne,
  unlessNull,
  uuid,
  writer,
} from '../index.js';
import { declarationError } from '../testing/engines.js';
import { quickMoment } from './quick-moment.js';
import { readMoment } from './read-values.js';

// biome-ignore lint/suspicious/noExplicitAny: wrong bodies and declarations are the point
type Any = any;

const db = model(
  {
    operator: entity('operator', {
      id: integer().key().generated(),
      name: text({ min: 1, max: 20 }),
      phone: text().nullable().sealed('personal'),
    }),
    vessel: entity('vessel', {
      id: integer().key().generated(),
      imoNumber: text({ pattern: /^\d{7}$/ }),
      name: text({ min: 1, max: 10 }),
      callSign: text().nullable(),
      kind: oneOf('bulk', 'tanker'),
      builtYear: integer({ min: 1850, max: 2100 }),
      operatorId: integer().nullable(),
      flag: text().nullable(),
      createdAt: timestamp().generated(),
    }),
    portCall: entity('portCall', {
      id: integer().key().generated(),
      vesselId: integer(),
      eta: timestamp(),
      note: text().nullable(),
    }),
  },
  { vessel: { portCalls: toMany('portCall', 'vesselId'), operator: toOne('operator', 'operatorId') } },
);

const NewCall = input(db.portCall, (c) => ({ eta: c.eta, note: optional(c.note) }), { name: 'NewCall' });
const NewVessel = input(
  db.vessel,
  (v) => ({
    imo: v.imoNumber,
    name: v.name,
    sign: optional(v.callSign),
    kind: v.kind,
    operator: { id: v.operatorId },
    built: preset(v.builtYear, 2000),
    more: optional({ flag: v.flag }),
    calls: optional(NewCall(v.portCalls)),
  }),
  { name: 'NewVessel' },
);
const EditVessel = amending(NewVessel, ({ imo, calls, ...rest }) => rest);

const good = { imo: '9100274', name: 'Anselma', kind: 'bulk', operator: { id: 3 } };

const read = (body: unknown, policies: ReaderPolicies = {}, of: Any = NewVessel): unknown => {
  const parsed = reader(of, policies).object(body);
  const fromText = reader(of, policies).json(JSON.stringify(body));
  expect(fromText, 'json and object').to.deep.equal(parsed);
  if (!parsed.ok)
    throw new Error(
      parsed.issues.map(({ pointer, code, message }) => `${pointer} ${code}: ${message}`).join('\n'),
    );
  return parsed.value;
};

const issues = (body: unknown, policies: ReaderPolicies = {}, of: Any = NewVessel): string[] => {
  try {
    read(body, policies, of);
    return [];
  } catch (error) {
    return (error as Error).message.split('\n');
  }
};

const issuesOfText = (body: string | Uint8Array, policies: ReaderPolicies = {}): readonly Issue[] => {
  const got = reader(NewVessel, policies).json(body);
  return got.ok ? [] : got.issues;
};

describe('input and reader', () => {
  it('read a body to a change under the entity’s own names, groups flattened', () => {
    expect(read(good)).to.deep.equal({
      imoNumber: '9100274',
      name: 'Anselma',
      kind: 'bulk',
      operatorId: 3,
      builtYear: 2000,
    });
    const all = {
      ...good,
      sign: null,
      built: 1999,
      more: { flag: 'QM' },
      calls: [{ eta: '2026-03-01T06:30:00+02:00', note: 'x' }, { eta: '2026-03-02T00:00:00Z' }],
    };
    expect(read(all)).to.deep.equal({
      imoNumber: '9100274',
      name: 'Anselma',
      callSign: null,
      kind: 'bulk',
      operatorId: 3,
      builtYear: 1999,
      flag: 'QM',
      portCalls: [
        { eta: new Date('2026-03-01T04:30:00Z'), note: 'x' },
        { eta: new Date('2026-03-02T00:00:00Z') },
      ],
    });
  });

  it('tell every issue, in the order of the document, with its pointer', () => {
    const body = {
      kind: 'raft',
      nmae: 'x',
      operator: { id: 'x', 'a/b~c': 1 },
      imo: '12',
      built: 1700,
      name: '',
      calls: [{ eta: 'soon' }, 5],
    };
    expect(issues(body)).to.deep.equal([
      '/kind choice: Expected one of bulk, tanker, got "raft".',
      '/nmae unknown: There is no such member. Did you mean "name"?',
      '/operator/id type: Expected a whole number, got "x".',
      '/operator/a~1b~0c unknown: There is no such member.',
      '/imo pattern: Expected a string that matches ^\\d{7}$, got "12".',
      '/built range: Expected a whole number from 1850 to 2100, got 1700.',
      '/name length: Expected a string with a length from 1 to 10, got "".',
      '/calls/0/eta format: Expected a date and time with its offset, such as 2026-03-01T06:30:00Z, got "soon".',
      '/calls/1 type: Expected an object, got 5.',
    ]);
    expect(issues({})).to.deep.equal([
      '/imo required: This member is required: a string.',
      '/name required: This member is required: a string.',
      '/kind required: This member is required: one of bulk, tanker.',
      '/operator required: This member is required: an object.',
    ]);
    expect(issues([])).to.deep.equal([' type: Expected an object, got an array.']);
    expect(issues({ ...good, operator: 5, calls: {} })).to.deep.equal([
      '/operator type: Expected an object, got 5.',
      '/calls type: Expected an array, got an object.',
    ]);
  });

  it('take null where the column may be null, and for a group where all its columns may', () => {
    expect(read({ ...good, operator: null, more: null })).to.include({ operatorId: null, flag: null });
    const Group = input(db.vessel, (v) => ({ group: { name: v.name, sign: v.callSign } }));
    expect(issues({ group: null }, {}, Group)).to.deep.equal(['/group type: Expected an object, got null.']);
    const Nested = input(db.vessel, (v) => ({ group: { sign: v.callSign, more: { flag: v.flag } } }));
    expect(issues({ group: null }, {}, Nested)).to.deep.equal(['/group type: Expected an object, got null.']);
    expect(issues({ ...good, name: null })).to.deep.equal([
      '/name null: This must not be null: it always has a value.',
    ]);
    expect(issues({ ...good, name: null }, { nulls: 'absent' })).to.deep.equal([
      '/name required: This member is required: a string.',
    ]);
    expect(read({ ...good, built: null }, { nulls: 'absent' })).to.include({ builtYear: 2000 });
  });

  it('take an empty object, and nothing else, where there are no members', () => {
    const Nothing = input(db.vessel, () => ({}));
    const reading = reader(Nothing);
    expect([reading.engine, reading.json('{}')]).to.deep.equal(['generated', { ok: true, value: {} }]);
    expect(issues({ name: 'x' }, {}, Nothing)).to.deep.equal(['/name unknown: There is no such member.']);
  });

  it('waive a group, and groups in it, where each of their members may be left out', () => {
    const Waived = input(db.vessel, (v) => ({
      a: { sign: optional(v.callSign), b: { kind: preset(v.kind, 'bulk') } },
    }));
    expect(read({}, {}, Waived)).to.deep.equal({ kind: 'bulk' });
    const Needed = input(db.vessel, (v) => ({ a: { sign: optional(v.callSign), b: { kind: v.kind } } }));
    expect(issues({}, {}, Needed)).to.deep.equal(['/a required: This member is required: an object.']);
    expect(issues({ a: {} }, {}, Needed)).to.deep.equal([
      '/a/b required: This member is required: an object.',
    ]);
  });

  it('follow their policies', () => {
    expect(read({ ...good, stranger: 1 }, { unknown: 'ignore' })).to.not.have.property('stranger');
    expect(read({ ...good, kind: 1 }, { choices: 'nameOrOrdinal' })).to.include({ kind: 'tanker' });
    expect(issues({ ...good, kind: 2 }, { choices: 'nameOrOrdinal' })).to.have.length(1);
    expect(issues({ ...good, kind: 1 })).to.deep.equal(['/kind type: Expected one of bulk, tanker, got 1.']);
    expect(read({ ...good, built: '1999' }, { text: 'lax' })).to.include({ builtYear: 1999 });
    expect(issues({ ...good, built: '1999' })).to.have.length(1);
    const french = reader(NewVessel, { say: ({ code }) => `Problème: ${code}` }).object({
      ...good,
      built: 1,
    });
    expect(french.ok ? [] : french.issues).to.deep.equal([
      {
        pointer: '/built',
        code: 'range',
        wanted: 'integer',
        limits: { min: 1850, max: 2100 },
        message: 'Problème: range',
      },
    ]);
  });

  it('stop at a hundred issues, and say so', () => {
    const many = issues({
      ...good,
      ...Object.fromEntries(Array.from({ length: 150 }, (_, i) => [`x${i}`, 1])),
    });
    expect(many).to.have.length(101);
    expect(many.at(-1)).to.equal(' limit: There are more than 100 issues.');
  });

  it('amend: what is absent stays unchanged, null clears, and what is set once is fixed', () => {
    expect(read({}, {}, EditVessel)).to.deep.equal({});
    expect(read({ name: 'B', sign: null, operator: {} }, {}, EditVessel)).to.deep.equal({
      name: 'B',
      callSign: null,
    });
    expect(issues({ imo: '9100274', name: null }, {}, EditVessel)).to.deep.equal([
      '/imo fixed: This is set once, when the vessel is created.',
      '/name null: This must not be null: it always has a value.',
    ]);
    const Nested = amending(NewVessel, ({ operator: _operator, ...rest }) => ({ ...rest, operator: {} }));
    expect(issues({ operator: { id: 1 } }, {}, Nested)).to.deep.equal([
      '/operator/id fixed: This is set once, when the vessel is created.',
    ]);
  });

  it('refuse declarations that set nothing, or what is not the body’s to set', () => {
    const message = declarationError(() =>
      input(db.vessel, (v: Any) => ({
        id: v.id,
        at: { createdAt: v.createdAt },
        owner: v.operator.name,
        low: lower(v.name) as Any,
        twice: v.kind,
        again: optional(v.kind),
        typo: v.nmae,
        row: v.operator,
        five: 5 as Any,
        wrong: NewCall(v.operator),
        alone: NewCall(v),
        column: NewCall(v.name),
      })),
    );
    expect(message.split('\n')).to.deep.equal([
      'input "vessel": 11 things are wrong',
      '  vessel.id: id is made by the database: leave it out, or say assigned(v.id)',
      '  vessel.at.createdAt: createdAt is made by the database: leave it out, or say assigned(v.createdAt)',
      "  vessel.owner: name is a column of another row: nest an input over the link, or set this row's own key column",
      '  vessel.low: lower has no way back, so an input cannot take it',
      '  vessel.typo: vessel has no column or link "nmae". Did you mean "name"?',
      '  vessel.row: this is a row or rows: nest an input over the link, NewItem(v.items)',
      '  vessel.five: expected a column, a group or a nested input, got 5',
      '  vessel.wrong: NewCall is an input over portCall, but the link leads to operator',
      '  vessel.alone: an input is nested over a link of the row: NewItem(v.items)',
      '  vessel.column: an input is nested over a link of the row: NewItem(v.items)',
      '  vessel.again: sets kind, as vessel.twice does',
    ]);
    const Assigned = input(db.vessel, (v) => ({ id: assigned(v.id) }));
    expect(read({ id: 7 }, {}, Assigned)).to.deep.equal({ id: 7 });
    const Sealed = input(db.operator, (o) => ({ name: o.name, phone: o.phone }));
    expect(read({ name: 'A', phone: '+00' }, {}, Sealed)).to.deep.equal({ name: 'A', phone: '+00' });
  });

  it('refuse presets that would be refused if they were sent', () => {
    const message = declarationError(() =>
      input(
        db.vessel,
        (v: Any) => ({
          name: preset(v.name, 'Anselma'),
          kind: preset(v.kind, 'raft'),
          of: { built: preset(v.builtYear, 'new') },
          calls: preset(NewCall(v.portCalls), [{ eta: 'soon' }]),
        }),
        { name: 'New' },
      ),
    );
    expect(message.split('\n').map((line) => line.split(': Expected')[0])).to.deep.equal([
      'input "New": 3 things are wrong',
      '  New.kind: its preset would be refused',
      '  New.of.built: its preset would be refused',
      '  New.calls: its preset would be refused',
    ]);
    const Right = input(db.vessel, (v) => ({ name: v.name, of: preset({ kind: v.kind }, { kind: 'bulk' }) }));
    expect(read({ name: 'A' }, {}, Right)).to.deep.equal({ name: 'A', kind: 'bulk' });
  });

  it('are made from a shape: its members turned round where they can be', () => {
    const Vessel = shape(
      db.vessel,
      (v) => ({
        id: v.id,
        title: v.name,
        size: { built: asText(v.builtYear), loud: lower(v.kind) },
        owner: v.operator.name,
        sign: unlessNull(v.callSign),
        calls: count(v.portCalls),
      }),
      { name: 'Vessel' },
    );
    const { leftOut, ...made } = inputFrom(Vessel, { drop: ['sign'] });
    expect(read({ title: 'A', size: { built: '1999' } }, {}, made)).to.deep.equal({
      name: 'A',
      builtYear: 1999,
    });
    expect(issues({ size: {} }, {}, made).map((issue) => issue.split(':')[0])).to.deep.equal([
      '/size/built required',
      '/title required',
    ]);
    expect(leftOut.map(({ member, why }) => `${member}: ${why}`)).to.deep.equal([
      'id: the database makes it',
      'size.loud: lower has no way back',
      'owner: it comes from behind the link operator',
      'calls: it is computed',
    ]);
    expect(declarationError(() => inputFrom(Vessel, { drop: ['titel'] }))).to.contain(
      'no member "titel" to drop. Did you mean "title"?',
    );
    expect(declarationError(() => inputFrom(shape(db.vessel, ({ id }) => ({ id }))))).to.contain(
      'no member of the shape can come in',
    );
  });

  it('nest a to-one link', () => {
    const NewOperator = input(db.operator, (o) => ({ name: o.name }));
    const WithOperator = input(db.vessel, (v) => ({ name: v.name, owner: NewOperator(v.operator) }));
    expect(read({ name: 'A', owner: { name: 'B' } }, {}, WithOperator)).to.deep.equal({
      name: 'A',
      operator: { name: 'B' },
    });
    expect(issues({ name: 'A', owner: null }, {}, WithOperator)).to.deep.equal([
      '/owner type: Expected an object, got null.',
    ]);
  });
});

const inputOf = (column: AnyColumn, convert: (value: Any) => Any = (value) => value): Any => {
  const one = model({ thing: entity('thing', { id: integer().key().generated(), value: column }) }, {});
  return input(one.thing, (t: Any) => ({ value: convert(t.value) }));
};

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
      { numRuns: 200 },
    );
  });
});

describe('hostile bodies', () => {
  it('are issues: no JSON, a member twice, bytes that are no text', () => {
    const cases: readonly [string, string][] = [
      ['', 'The text is no JSON: expected a value at line 1, column 1'],
      ['{"name":\n tru}', 'The text is no JSON: expected a value at line 2, column 2'],
      ['{"a":1,}', 'The text is no JSON: expected a member name in quotes at line 1, column 8'],
      ['[1 2]', 'The text is no JSON: expected "," or "]" at line 1, column 4'],
      ['{"a" 1}', 'The text is no JSON: expected ":" at line 1, column 6'],
      ['{} x', 'The text is no JSON: expected the end of the text at line 1, column 4'],
      [
        '"a\u0001"',
        'The text is no JSON: expected the end of a string, without control characters at line 1, column 3',
      ],
      ['"\\x"', 'The text is no JSON: expected an escape such as \\n or \\u00e9 at line 1, column 3'],
      ['01', 'The text is no JSON: expected the end of the text at line 1, column 2'],
    ];
    for (const [body, message] of cases) {
      const issues = issuesOfText(body);
      expect(issues, body).to.have.length(1);
      expect(issues[0], body).to.include({ pointer: '', code: 'syntax', message: `${message}.` });
      expect(issues[0]?.reason?.line, body).to.equal(Number(/line (\d+)/.exec(message ?? '')?.[1]));
    }
    expect(issuesOfText('{"operator":{"id":1,"id":2}}')[0]).to.include({
      pointer: '/operator/id',
      code: 'syntax',
    });
    expect(issuesOfText(Uint8Array.of(0x7b, 0xff, 0x7d))[0]).to.include({
      code: 'syntax',
      message: 'The bytes are no UTF-8 text.',
    });
  });

  it('that are right but for a member that is there twice are refused, by both engines', () => {
    // Presets are read by the interpreter: with a value of its own, the program reads all of it.
    const once = JSON.stringify({ ...good, built: 1999 });
    for (const engine of ['generated', 'interpreted'] as const) {
      const codes = (body: string): string[] => {
        const got = reader(NewVessel, {}, { engine }).json(body);
        return got.ok ? [] : got.issues.map(({ pointer, code }) => `${pointer} ${code}`);
      };
      expect(codes(once)).to.deep.equal([]);
      expect(codes(once.replace('{', '{"name":"Twice",'))).to.deep.equal(['/name syntax']);
      expect(codes(once.replace('"kind"', '"n\\u0061me" :"x","kind"'))).to.deep.equal(['/name syntax']);
      // Colons, quotes and backslashes inside strings are no members.
      expect(codes(once.replace('"Anselma"', '"a\\":\\\\"'))).to.deep.equal([]);
    }
  });

  it('that were parsed already are no bigint where digits are lost', () => {
    const Big = input(
      model({ big: entity('big', { id: integer().key().generated(), n: bigint(), j: json<unknown>() }) }, {})
        .big,
      (b) => ({ n: b.n, j: b.j }),
    );
    for (const engine of ['generated', 'interpreted'] as const) {
      const codes = (body: object): string[] => {
        const got = reader(Big, { digits: 'textOrNumber' }, { engine }).object(body);
        return got.ok ? [] : got.issues.map(({ pointer, code }) => `${pointer} ${code}`);
      };
      expect(codes({ n: 2 ** 53 - 1, j: 1 })).to.deep.equal([]);
      expect(codes({ n: 2 ** 63, j: 1 })).to.deep.equal(['/n range']);
      expect(codes({ n: -(2 ** 53), j: 1 })).to.deep.equal(['/n range']);
      expect(codes({ n: 1, j: { a: Number.NaN } })).to.deep.equal(['/j range']);
      expect(codes({ n: 1, j: { a: undefined } })).to.deep.equal(['/j type']);
      expect(codes({ n: 1, j: [() => 1] })).to.deep.equal(['/j type']);
    }
  });

  it('do not crash, hang or pollute', () => {
    const deep = `${'['.repeat(100_000)}${']'.repeat(100_000)}`;
    expect(issuesOfText(deep)[0]?.code).to.equal('limit');
    expect(issuesOfText(`{"name":"${'x'.repeat(10_000_000)}"}`)[0]?.code).to.equal('limit');
    expect(issuesOfText(`[${'1,'.repeat(999_999)}1]`, { bytes: 1e8 })[0]?.code).to.equal('limit');
    let nested: unknown = 1;
    for (let i = 0; i < 100_000; i++) nested = [nested];
    const Free = inputOf(json());
    const got = reader(Free).object({ value: nested }) as Any;
    expect(got.issues[0].code).to.equal('limit');
    const polluted = reader(NewVessel, { unknown: 'ignore' }).json(
      '{"__proto__":{"polluted":1},"constructor":{"prototype":{"polluted":1}},"name":"A"}',
    );
    expect(polluted.ok).to.equal(false);
    expect(({} as Any).polluted).to.equal(undefined);
    const names = reader(NewVessel).json('{"__proto__":{},"constructor":1,"toString":2}');
    const codes = names.ok ? [] : names.issues.map(({ pointer, code }) => `${pointer} ${code}`);
    expect(codes.slice(0, 3)).to.deep.equal([
      '/__proto__ unknown',
      '/constructor unknown',
      '/toString unknown',
    ]);
  });

  it('keep names of one escaped character, after others like them too', () => {
    const read = reader(inputOf(json()));
    // Some engines take such a name for the backslash that stood there before.
    for (const name of ['\\\\', '\\n', '\\"', '\\u0001', '\\u0061', '\\/']) {
      const got = read.json(`{"value":{"id2":"x","${name}" :"v"}}`) as Any;
      const [, last] = Object.keys(got.value.value);
      expect(last, name).to.equal(
        { '\\\\': '\\', '\\n': '\n', '\\"': '"', '\\u0001': '\u0001', '\\u0061': 'a', '\\/': '/' }[name],
      );
    }
  });

  it('that break off anywhere are told at once, by both engines', () => {
    const whole = '{"name":"A\\"n","imoNumber":"9074729","flag":{"state":"QM"}}';
    for (let end = 0; end < whole.length; end++) {
      expect(issuesOfText(whole.slice(0, end))[0]?.code, whole.slice(0, end)).to.equal('syntax');
    }
  });

  it('never throw, and parse as JSON.parse does where that is exact', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.json(),
          fc.string({
            unit: fc.constantFrom('{', '}', '[', ']', '"', ':', ',', '1', 'e', '-', '\\', 'u', ' '),
          }),
        ),
        (body) => {
          const got = reader(inputOf(json())).json(`{"value":${body}}`) as Any;
          let expected: Any;
          try {
            expected = JSON.parse(`{"value":${body}}`);
          } catch {
            expect(got.ok).to.equal(false);
            return;
          }
          if (got.ok) expect(JSON.stringify(got.value.value)).to.equal(JSON.stringify(expected.value));
        },
      ),
      { numRuns: 500 },
    );
  });
});
