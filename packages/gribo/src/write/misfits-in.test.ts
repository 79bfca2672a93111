import { expect } from 'chai';
import { asked, equals, first, given, list, misfitsIn, page, shape, some, unseal, writer } from '../index.js';
import { bareVesselRow, fleet, vesselRow } from '../testing/fleet.js';

const CallLine = shape(fleet.portCall, (c) => ({ id: c.id, eta: c.eta }), { name: 'CallLine' });
const Detail = shape(
  fleet.vessel,
  (v) => ({
    id: v.id,
    hull: { name: v.name, kind: v.kind },
    operatorName: v.operator.name,
    phone: unseal('agent', v.masterPhone),
    portCalls: given(asked('calls'), CallLine(v.portCalls)),
    next: first(some(v.portCalls, { where: (c) => [equals(c.status, 'announced')] }), CallLine),
  }),
  { name: 'Detail' },
);

const told = (...[body, data, situation]: Parameters<typeof misfitsIn>): readonly string[] =>
  misfitsIn(body, data, situation).map(({ message }) => message);

describe('misfitsIn', () => {
  it('finds nothing in rows that can be written', () => {
    const rows = [vesselRow, bareVesselRow];
    expect(told(list(Detail), rows, { audience: 'agent', asked: ['calls'] } as never)).to.deep.equal([]);
    expect(told(page(Detail), { items: rows, number: 1, size: 2, total: 2, pages: 1 })).to.deep.equal([]);
  });

  it('finds at once what a query lacks, where a writer stops at the first', () => {
    const { operator: _operator, name: _name, ...row } = vesselRow;
    const lacking = { ...row, masterPhone: 7, portCalls: [{ id: 1, status: 'announced' }, null] };
    expect(told(Detail, lacking, { audience: 'agent', asked: ['calls'] } as never)).to.deep.equal([
      'Detail.hull.name: expected a string, got nothing: the row has no "name"; load it, or set it to null where it has none',
      'Detail.operatorName: expected the row of link "operator", got nothing: load vessel.operator (null where there is none); loadPlan(body) lists all that is needed',
      'Detail.phone: expected a string, got a number',
      'Detail.portCalls[0].eta: expected a Date, got nothing: the row has no "eta"; load it, or set it to null where it has none',
      'Detail.portCalls[1]: expected a row, got null',
      'Detail.next[1]: expected a row, got null',
    ]);
    expect(() => writer(Detail).json(lacking as never)).to.throw(
      'Detail.hull.name: expected a string, got nothing',
    );
  });

  it('asks for what the situation needs and no more', () => {
    const row = { id: 1, name: 'Anselma', kind: 'tug', operator: null, portCalls: [] };
    expect(told(Detail, row)).to.deep.equal([]);
    expect(told(Detail, row, { audience: 'agent' } as never)).to.have.length(1);
  });

  it('says what is no row, and what are none', () => {
    expect(told(Detail, null)).to.deep.equal(['Detail: expected a row, got null']);
    expect(told(list(Detail), { rows: [] })).to.deep.equal([
      'Detail: expected an array of rows, got an object',
    ]);
  });

  it('stops at a hundred', () => {
    const rows = Array.from({ length: 60 }, (_, i) => ({ id: i }));
    const found = misfitsIn(list(Detail), rows);
    expect(found).to.have.length(100);
    expect(found[0]?.path).to.equal('Detail[0].hull.name');
  });
});
