import { expect } from 'chai';
import { count, list, shape } from '../../index.js';
import { declarationError, written, writtenRow } from '../../testing/engines.js';
import { bareVesselRow, fleet, operatorRow, vesselRow } from '../../testing/fleet.js';

const OperatorBrief = shape(fleet.operator, ({ id, name }) => ({ id, name }), { name: 'OperatorBrief' });
const CallLine = shape(fleet.portCall, (c) => ({ id: c.id, eta: c.eta }), { name: 'CallLine' });
const Card = shape(fleet.vessel, ({ id, name, callSign }) => ({ id, name, callSign }), { name: 'Card' });

/** Declarations that only the runtime can refuse, because the compiler is told to look away. */
// biome-ignore lint/suspicious/noExplicitAny: wrong declarations are the point
type Any = any;

describe('shape', () => {
  it('writes columns in the order of the literal, renamed where the key differs', () => {
    const S = shape(fleet.vessel, (v) => ({ name: v.name, number: v.id }));
    expect(JSON.stringify(writtenRow(S, vesselRow))).to.equal('{"name":"Anselma","number":1}');
  });

  it('walks to-one links, null-safe over several of them', () => {
    const S = shape(fleet.vessel, (v) => ({ operatorName: v.operator.name, group: v.operator.parent.name }));
    expect(writtenRow(S, vesselRow)).to.deep.equal({ operatorName: 'Lantern Bay', group: null });
    expect(writtenRow(S, bareVesselRow)).to.deep.equal({ operatorName: null, group: null });
  });

  it('groups members', () => {
    const S = shape(fleet.vessel, (v) => ({ about: { name: v.name, deep: { kind: v.kind } }, none: {} }));
    expect(writtenRow(S, vesselRow)).to.deep.equal({
      about: { name: 'Anselma', deep: { kind: 'tanker' } },
      none: {},
    });
  });

  it('nests a to-one link: an object, or null where there is no row', () => {
    const S = shape(fleet.vessel, (v) => ({ operator: OperatorBrief(v.operator) }));
    expect(writtenRow(S, vesselRow)).to.deep.equal({ operator: { id: 3, name: 'Lantern Bay' } });
    expect(writtenRow(S, bareVesselRow)).to.deep.equal({ operator: null });
  });

  it('nests a to-many link: an array, empty where there are no rows, null behind a missing row', () => {
    const S = shape(fleet.vessel, (v) => ({
      calls: CallLine(v.portCalls),
      sisters: Card(v.operator.vessels),
    }));
    expect(
      written(
        list(S),
        [vesselRow, bareVesselRow].map((row) => withSisters(row)),
      ),
    ).to.deep.equal([
      {
        calls: [
          { id: 11, eta: '2026-03-01T06:00:00.000Z' },
          { id: 12, eta: '2026-05-01T06:00:00.000Z' },
          { id: 13, eta: '2026-04-01T06:00:00.000Z' },
        ],
        sisters: [{ id: 1, name: 'Anselma', callSign: 'QA1' }],
      },
      { calls: [], sisters: null },
    ]);
  });

  it('nests many-to-many rows', () => {
    const PilotName = shape(fleet.pilot, ({ name }) => ({ name }));
    const S = shape(fleet.portCall, (c) => ({ pilots: PilotName(c.pilots) }));
    expect(writtenRow(S, { id: 1, pilots: [{ id: 1, name: 'Agna' }] })).to.deep.equal({
      pilots: [{ name: 'Agna' }],
    });
  });

  it('nests the same row', () => {
    const S = shape(fleet.vessel, (v) => ({ id: v.id, card: Card(v) }));
    expect(writtenRow(S, bareVesselRow)).to.deep.equal({
      id: 2,
      card: { id: 2, name: 'Anselma', callSign: null },
    });
  });

  it('is spread to extend and destructured to drop', () => {
    const S = shape(fleet.vessel, (v) => {
      const { callSign, ...rest } = Card(v);
      return { ...rest, sign: callSign };
    });
    expect(writtenRow(S, vesselRow)).to.deep.equal({ id: 1, name: 'Anselma', sign: 'QA1' });
  });

  it('is spread over a to-one link: every value is null where there is no row', () => {
    const Full = shape(fleet.operator, (o) => ({ ...OperatorBrief(o), fleet: count(o.vessels) }));
    const S = shape(fleet.vessel, (v) => ({ ...Full(v.operator), vessel: v.name }));
    const operator = { ...operatorRow, vessels: [vesselRow] };
    const expected = { id: 3, name: 'Lantern Bay', fleet: 1, vessel: 'Anselma' };
    expect(writtenRow(S, { ...vesselRow, operator })).to.deep.equal(expected);
    expect(writtenRow(S, bareVesselRow)).to.deep.equal({
      id: null,
      name: null,
      fleet: null,
      vessel: 'Anselma',
    });
  });

  it('takes member names that need escaping, and __proto__', () => {
    const S = shape(fleet.vessel, (v) => ({ 'a "b"\n': v.id, 'ü🐦': v.name, ['__proto__']: v.kind }));
    const text = JSON.stringify(writtenRow(S, vesselRow));
    expect(text).to.equal('{"a \\"b\\"\\n":1,"ü🐦":"Anselma","__proto__":"tanker"}');
  });

  it('reads rows without a prototype, and class instances with getters', () => {
    const S = shape(fleet.pilot, ({ id, name }) => ({ id, name }));
    class Pilot {
      readonly id = 7;
      get name(): string {
        return 'Berin';
      }
    }
    expect(writtenRow(S, Object.assign(Object.create(null), { id: 7, name: 'Berin' }))).to.deep.equal({
      id: 7,
      name: 'Berin',
    });
    expect(writtenRow(S, new Pilot())).to.deep.equal({ id: 7, name: 'Berin' });
  });

  it('takes arrays that are only array-like, and other iterables', () => {
    const S = shape(fleet.vessel, (v) => ({ calls: CallLine(v.portCalls), many: count(v.portCalls) }));
    const [one] = vesselRow.portCalls;
    const expected = { calls: [{ id: 11, eta: '2026-03-01T06:00:00.000Z' }], many: 1 };
    expect(writtenRow(S, { portCalls: { 0: one, length: 1 } })).to.deep.equal(expected);
    expect(writtenRow(S, { portCalls: new Set([one]) })).to.deep.equal(expected);
    expect(written(list(S), { 0: { portCalls: [one] }, length: 1 })).to.deep.equal([expected]);
  });

  it('is plain frozen data once it is declared', () => {
    const frozen = (value: unknown): boolean =>
      typeof value !== 'object' || value === null || value instanceof RegExp
        ? true
        : Object.isFrozen(value) && Object.values(value).every(frozen);
    expect(frozen(Card.plan)).to.equal(true);
    expect(JSON.parse(JSON.stringify(Card.plan.fields.map((field) => field.name)))).to.deep.equal([
      'id',
      'name',
      'callSign',
    ]);
  });

  it('lists everything in a literal that is no member', () => {
    const message = declarationError(() =>
      shape(
        fleet.vessel,
        (v: Any) => ({
          typo: v.nme,
          sealed: v.masterPhone,
          row: v.operator,
          rows: v.portCalls,
          number: 5 as Any,
          called: OperatorBrief(v) as Any,
          uncalled: OperatorBrief as Any,
          group: { far: v.operator.parent.phone },
        }),
        { name: 'Wrong' },
      ),
    );
    expect(message.split('\n')).to.deep.equal([
      'shape "Wrong": 8 things are wrong',
      '  Wrong.typo: vessel has no column or link "nme". Did you mean "name"?',
      '  Wrong.sealed: this column is sealed (personal): wrap it in unseal(audience, …) or masked(…), or leave it out',
      '  Wrong.row: this is a whole row: nest it with a shape, Shape(v.link), or name its columns',
      '  Wrong.rows: these are many rows: nest them with a shape, Shape(v.links), or use count(v.links) or first(v.links, Shape)',
      '  Wrong.number: expected a member, got 5; use constant(…)',
      '  Wrong.called: this is a shape over operator: call it with a row of it, or with a link to it',
      '  Wrong.uncalled: expected a member, got a function; a shape is called with a row: Shape(v.link)',
      '  Wrong.group.far: this column is sealed (personal): wrap it in unseal(audience, …) or masked(…), or leave it out',
    ]);
  });

  it('refuses members of another row, a __proto__ literal, and what is no literal', () => {
    let other: Any;
    shape(fleet.vessel, (v) => {
      other = v;
      return { id: v.id };
    });
    const strange = declarationError(() => shape(fleet.vessel, () => ({ id: other.id }) as Any));
    expect(strange).to.contain('vessel.id: it was made from the row of another shape');
    const proto = declarationError(() => shape(fleet.vessel, (v) => ({ __proto__: v.name }) as Any));
    expect(proto).to.contain('expected an object of members');
    expect(declarationError(() => shape(fleet.vessel, (() => 3) as Any))).to.contain('got 3');
  });

  it('tells a mistake that is spread, instead of losing it', () => {
    const message = declarationError(() =>
      shape(fleet.vessel, (v: Any) => ({ ...OperatorBrief(v.oprator) })),
    );
    expect(message).to.contain('vessel has no column or link "oprator". Did you mean "operator"?');
  });

  it('names itself by its option, its function or its entity', () => {
    expect(shape(fleet.pilot, ({ id }) => ({ id }), { name: 'A' }).plan.name).to.equal('A');
    expect(
      shape(fleet.pilot, function Pilot({ id }) {
        return { id };
      }).plan.name,
    ).to.equal('Pilot');
    expect(shape(fleet.pilot, ({ id }) => ({ id })).plan.name).to.equal('pilot');
  });
});

const withSisters = (row: typeof vesselRow | typeof bareVesselRow): object =>
  row.operator === null ? row : { ...row, operator: { ...row.operator, vessels: [vesselRow] } };
