import { expect } from 'chai';
import {
  all,
  atMost,
  callerOf,
  count,
  derive,
  equals,
  given,
  integer,
  list,
  now,
  oneOfThese,
  shape,
  some,
  text,
  timestamp,
  writer,
} from '../../index.js';
import { declarationError, ENGINES, looseWriter, thrownBy } from '../../testing/engines.js';
import { stock } from '../../testing/stock.js';

const caller = callerOf({ operatorId: integer().nullable(), zone: text({ max: 3 }), since: timestamp() });

const Line = shape(stock.vessel, (v) => ({
  mine: given(equals(v.operatorId, caller.operatorId), v.name),
  said: derive([v.name, caller.zone], text(), (name, zone) => `${name} ${zone}`),
  since: caller.since,
  calls: count(some(v.portCalls, { where: (c) => [atMost(c.eta, now)] })),
}));

const row = (operatorId: number | null): object => ({
  operatorId,
  name: 'Anselma',
  portCalls: [{ eta: new Date('2026-01-01T00:00:00Z') }, { eta: new Date('2026-05-01T00:00:00Z') }],
});
const since = new Date('2026-02-03T04:05:06.000Z');
const facts = { operatorId: 2, zone: 'UTC', since };

describe('facts about a caller', () => {
  it('are given where rows are written, one set after the other, with one program', () => {
    for (const engine of ENGINES) {
      const of = (given: object, on: string): unknown =>
        looseWriter(list(Line), engine, {}, { caller: given, now: new Date(on) }).object([row(2), row(null)]);
      const said = { said: 'Anselma UTC', since: since.toISOString() };
      expect(of(facts, '2026-03-01')).to.deep.equal([
        { mine: 'Anselma', ...said, calls: 1 },
        { ...said, calls: 1 },
      ]);
      // Null is equal to nothing, on either side.
      expect(of({ ...facts, operatorId: null }, '2026-06-01')).to.deep.equal([
        { ...said, calls: 2 },
        { ...said, calls: 2 },
      ]);
    }
  });

  it('are looked at before anything is written, and never shown', () => {
    for (const [given, told] of [
      [{ operatorId: 2, since }, "expected a string as the caller's zone, got nothing"],
      [{ ...facts, operatorId: 'secret' }, "expected an integer as the caller's operatorId, got a string"],
      [{ ...facts, zone: null }, "expected a string as the caller's zone, got null"],
      [{ zone: 'UTC', since }, "expected an integer as the caller's operatorId, got nothing"],
    ] as const) {
      const error = thrownBy(() => writer(Line).json(row(1) as never, { caller: given }));
      expect(error).to.include({ code: 'CALLER', message: told });
    }
    expect(thrownBy(() => writer(Line).bytes(row(1) as never))).to.include({ path: 'caller.operatorId' });
  });

  it('cost nothing where there are none', () => {
    const Plain = shape(stock.vessel, ({ name }) => ({ name }));
    expect(writer(Plain).plan.facts).to.deep.equal([]);
    expect(writer(Plain).json({ name: 'Anselma' })).to.equal('{"name":"Anselma"}');
    expect(writer(Line).plan.facts.map(({ name }) => name)).to.deep.equal([
      'operatorId',
      'zone',
      'since',
      'now',
    ]);
  });

  it('are refused where they are none', () => {
    expect(declarationError(() => callerOf({ audience: text(), now: timestamp() }))).to.match(
      /caller\.audience: the name has a meaning already.*caller\.now/s,
    );
    expect(declarationError(() => callerOf({ name: text().sealed('personal') }))).to.contain('needs no seal');
    const wrong = declarationError(() =>
      shape(stock.vessel, (v) => ({
        kinds: given(equals(v.id, caller.zone as never), v.name),
        many: given(oneOfThese(v.id, caller.operatorId as never), v.name),
        other: given(all(v.operator as never), v.name),
      })),
    );
    expect(wrong).to.contain('vessel.kinds: equals compares two of one kind; these are integer and text');
    expect(wrong).to.contain(
      'vessel.many: oneOfThese compares with values: oneOfThese(c.column, [value, …])',
    );
    expect(wrong).to.contain('vessel.other: this is a row: compare one of its columns');
  });
});
