import { expect } from 'chai';
import {
  amending,
  api,
  array,
  audience,
  bool,
  type Change,
  collection,
  DeclarationError,
  endpoint,
  entity,
  given,
  input,
  integer,
  jsonSchema,
  list,
  memoryStore,
  model,
  optional,
  preset,
  reader,
  real,
  shape,
  text,
  timestamp,
  values,
} from '../../index.js';

const db = model({ call: entity('call', { id: integer().key(), name: text() }) }, {});
const Call = shape(db.call, ({ id, name }) => ({ id, name }));

const Closing = values({
  reason: text({ min: 3 }),
  at: timestamp().nullable(),
  berth: optional(integer()),
  loud: preset(bool(), false),
  place: { lat: real(), lon: real() },
  hints: optional({ short: text(), long: text() }),
  tugs: list(values({ name: text(), lines: array(integer()) })),
  memo: given(audience('agent'), optional(text())),
});

const findings = (declare: () => unknown): readonly string[] => {
  try {
    declare();
    return [];
  } catch (error) {
    if (!(error instanceof DeclarationError)) throw error;
    return error.findings.map(({ path, message }) => `${path}: ${message}`);
  }
};
// biome-ignore lint/suspicious/noExplicitAny: what is wrong on purpose has no type
const wrong = (literal: any, options?: object) => findings(() => values(literal, options));

describe('values that stand in no table', () => {
  const right = {
    reason: 'storm',
    at: '2026-06-15T06:00:00Z',
    place: { lat: 1.5, lon: 2 },
    tugs: [{ name: 'Ox', lines: [1, 2] }],
  };

  it('are read by both engines, each member under its own name', () => {
    for (const engine of ['generated', 'interpreted'] as const) {
      const read = reader(Closing, {}, { engine });
      expect(read.object(right)).to.deep.equal({
        ok: true,
        value: {
          reason: 'storm',
          at: new Date('2026-06-15T06:00:00Z'),
          loud: false,
          place: { lat: 1.5, lon: 2 },
          tugs: [{ name: 'Ox', lines: [1, 2] }],
        },
      });
      const told = read.object({ reason: 'no', at: null, place: { lat: 'a' }, tugs: [{}], memo: 'x' });
      expect(told.ok ? [] : told.issues.map(({ pointer, code }) => `${pointer} ${code}`)).to.deep.equal([
        '/reason length',
        '/place/lat type',
        '/place/lon required',
        '/tugs/0/name required',
        '/tugs/0/lines required',
        '/memo unknown',
      ]);
      const agent = reader(Closing, {}, { engine, audience: 'agent' });
      expect(agent.object({ ...right, memo: 'x' })).to.have.nested.property('value.memo', 'x');
    }
  });

  it('are of exact types', () => {
    const change: Change<typeof Closing> = {
      reason: 'storm',
      at: null,
      berth: 3,
      loud: true,
      place: { lat: 1, lon: 2 },
      tugs: [{ name: 'Ox', lines: [1] }],
    };
    // @ts-expect-error a reason is a text
    const other: Change<typeof Closing> = { ...change, reason: 3 };
    expect(other.berth).to.equal(3);
    expect(Closing['~standard'].validate(right)).to.have.nested.property('value.reason', 'storm');
  });

  it('are described like any body', () => {
    const schema = jsonSchema(values({ n: integer({ min: 1 }), s: optional(text()) }, { name: 'Told' }));
    expect(schema).to.deep.include({ $ref: '#/$defs/Told' });
    expect(schema).to.have.nested.property('$defs.Told.required').that.deep.equals(['n']);
  });

  it('list everything that is wrong with them', () => {
    expect(
      wrong({
        id: integer().key(),
        phone: text().sealed('personal'),
        made: timestamp().generated(),
        kept: text().stored('x').unique().defaulted(),
        toString: text(),
        inside: { id: integer().key() },
        three: 3,
        late: preset(integer({ max: 3 }), 9),
      }),
    ).to.deep.equal([
      'values.three: expected a column, a group or a nested input, got 3',
      'values.id: values stand in no table: leave .key() out',
      'values.phone: values stand in no table: leave .sealed() out',
      'values.made: values stand in no table: leave .generated() out',
      'values.kept: values stand in no table: leave .defaulted(), .unique(), .stored() out',
      'values.toString: every object has something called toString: call it otherwise, such as its use',
      'values.inside.id: values stand in no table: leave .key() out',
    ]);
    expect(wrong({ late: preset(integer({ max: 3 }), 9) }, { name: 'Late' })).to.deep.equal([
      'Late.late: its preset would be refused: Expected a whole number of 3 or less, got 9.',
    ]);
    expect(wrong(3)).to.deep.equal(['values: expected an object of members']);
    expect(wrong({ short: text({ min: 3, max: 2 }) })).to.deep.equal([
      'values.short: its min 3 is above its max 2',
    ]);
    let row: unknown;
    input(db.call, (c) => {
      row = c.name;
      return { name: c.name };
    });
    expect(wrong({ name: row })).to.deep.equal([
      'values.name: this is a column of a row: values are columns of their own, such as text()',
    ]);
  });

  it('set no row: an input has columns of its row, and a collection takes inputs', () => {
    const stray = 'this stands in no row: use the row that this input is given';
    expect(
      findings(() =>
        input(
          db.call,
          (c) => ({ id: c.id, more: optional(text()), inside: { many: list(Closing) } }) as never,
          { name: 'I' },
        ),
      ),
    ).to.deep.equal([`I.more: ${stray}`, `I.inside.many: ${stray}`]);
    expect(
      findings(() => collection('/calls', db.call, { create: { takes: Closing as never, returns: Call } })),
    ).to.deep.equal(['/calls create: values stand in no table, so no row is made of them: take an input']);
    expect(findings(() => amending(Closing as never, (m) => m, { name: 'A' }))).to.deep.equal([
      'A: values stand in no table, so there is no row to amend: take them as they are',
    ]);
  });

  it('are called as the endpoint that takes them, where they have no name', () => {
    const office = api({
      title: 'O',
      version: '1',
      audiences: ['agent'],
      endpoints: {
        'calls.close': endpoint('POST /calls/{id}/close', { from: db.call, takes: Closing }),
        note: endpoint('POST /notes', { takes: values({ text: text() }, { name: 'Note' }) }),
      },
    });
    expect(office.plan.endpoints.map(({ takes }) => takes?.name)).to.deep.equal(['CallsClose', 'Note']);
    expect(memoryStore(db)).to.have.property('list');
  });
});

describe('what a query is told, and problems', () => {
  it('are checked where they are declared', () => {
    const declared = (options: object) => findings(() => endpoint('POST /x', options as never));
    expect(
      declared({
        query: values({
          page: integer(),
          inside: { a: text() },
          many: list(values({ a: text() })),
          ok: array(text()),
        }),
      }),
    ).to.deep.equal([
      'POST /x?page: the parameter has a meaning already: call it otherwise',
      'POST /x?inside: a parameter is a column, or an array of values: a query has nothing inside others',
      'POST /x?many: a parameter is a column, or an array of values: a query has nothing inside others',
    ]);
    expect(declared({ query: input(db.call, (c) => ({ id: c.id })) })).to.deep.equal([
      'POST /x?: expected values(…): what a query is told stands in no table',
    ]);
    expect(
      declared({
        problems: {
          'a b': { status: 409, title: 'A' },
          late: {
            status: 500,
            title: 'L',
            type: 'not a uri',
            members: values({ detail: text(), n: integer() }),
          },
          odd: { status: 409, title: 'O', members: input(db.call, (c) => ({ id: c.id })) },
        },
      }),
    ).to.deep.equal([
      'POST /x a b: a code is letters, digits, dots and dashes: closed-already',
      'POST /x late: expected a status from 400 to 499, got 500',
      'POST /x late: its type is a URI, or a reference to one',
      'POST /x late: problem details have a member "detail" already',
      'POST /x odd: its members are values(…)',
    ]);
  });
});
