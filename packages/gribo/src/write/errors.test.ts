import { expect } from 'chai';
import {
  derive,
  entity,
  integer,
  list,
  model,
  type RowError,
  shape,
  text,
  unseal,
  wrap,
  writer,
} from '../index.js';
import { thrownBy, writeError } from '../testing/engines.js';
import { bareVesselRow, fleet, vesselRow } from '../testing/fleet.js';

const CallLine = shape(fleet.portCall, (c) => ({ id: c.id, eta: c.eta }), { name: 'CallLine' });
const Detail = shape(
  fleet.vessel,
  (v) => ({
    id: v.id,
    operatorName: v.operator.name,
    'two words': { kind: v.kind },
    portCalls: CallLine(v.portCalls),
  }),
  { name: 'Detail' },
);

const withCalls = (portCalls: unknown): object => ({ ...vesselRow, portCalls });

describe('RowError', () => {
  it('names the place: list, member, group and nested list', () => {
    const [call] = vesselRow.portCalls;
    const rows = [vesselRow, withCalls([call, call, { ...call, eta: 'soon' }])];
    const error = writeError(list(Detail), rows);
    expect(error.message).to.equal('Detail[1].portCalls[2].eta: expected a Date, got "soon"');
    expect(error).to.include({
      name: 'RowError',
      code: 'ROW_TYPE',
      path: 'Detail[1].portCalls[2].eta',
      expected: 'expected a Date',
    });
    expect(writeError(Detail, { ...vesselRow, kind: 'raft' }).path).to.equal('Detail["two words"].kind');
  });

  it('says which link was not loaded, and how to load it', () => {
    const { operator: _operator, ...withoutOperator } = vesselRow;
    expect(writeError(Detail, withoutOperator).message).to.equal(
      'Detail.operatorName: expected the row of link "operator", got nothing: load vessel.operator (null where there is none); loadPlan(body) lists all that is needed',
    );
    expect(writeError(Detail, withCalls(undefined)).message).to.equal(
      'Detail.portCalls: expected the rows of link "portCalls", got nothing: load vessel.portCalls; loadPlan(body) lists all that is needed',
    );
  });

  it('refuses what is no row and no array of rows', () => {
    expect(writeError(Detail, null).message).to.equal('Detail: expected a row, got null');
    expect(writeError(list(Detail), 'rows').message).to.equal(
      'Detail: expected an array of rows, got "rows"',
    );
    expect(writeError(list(Detail), [vesselRow, null]).message).to.equal(
      'Detail[1]: expected a row, got null',
    );
    expect(writeError(Detail, withCalls('none')).message).to.contain(
      'expected an array of rows in "portCalls", got "none"',
    );
    expect(writeError(Detail, withCalls([1])).message).to.equal('Detail.portCalls[0]: expected a row, got 1');
    expect(writeError(Detail, { ...vesselRow, operator: 3 }).message).to.contain(
      'expected a row of operator in "operator", got 3',
    );
  });

  it('refuses a missing row behind a link that always has one', () => {
    const S = shape(fleet.portCall, (c) => ({ vessel: c.vessel.name }));
    const error = writeError(S, { vessel: null });
    expect(error).to.include({ code: 'ROW_NULL', path: 'portCall.vessel' });
  });

  it('never shows a sealed value, nor what a function over one threw', () => {
    const S = shape(fleet.vessel, (v) => ({
      phone: unseal('agent', v.masterPhone),
      masked: unseal(
        'agent',
        derive([v.masterPhone], text(), (phone) => {
          throw new Error(phone);
        }),
      ),
    }));
    const wrongType = writeError(S, { masterPhone: ['+00 secret'] }, { audience: 'agent' });
    expect(wrongType.message).to.equal('vessel.phone: expected a string, got an array');
    const db = model(
      { safe: entity('safe', { id: integer().key(), code: integer().sealed('security') }) },
      {},
    );
    const Safe = shape(db.safe, (x) => ({
      code: unseal('agent', x.code),
      twice: unseal(
        'agent',
        derive([x.code], integer(), (n) => 2 * n),
      ),
    }));
    const typed = writeError(Safe, { id: 1, code: '4711' }, { audience: 'agent' });
    expect(typed.message).to.equal('safe.code: expected an integer, got a string');
    const threw = writeError(S, { masterPhone: '+00 secret' }, { audience: 'agent' });
    expect(`${threw.message}${String(threw.cause)}`).to.not.contain('secret');
    expect(threw.path).to.equal('vessel.masked');
  });

  it('tells of a row that answers differently each time', () => {
    let reads = 0;
    const moody = {
      get id(): unknown {
        reads++;
        return reads === 1 ? 'wrong' : 1;
      },
    };
    const S = shape(fleet.vessel, ({ id }) => ({ id }));
    const error = thrownBy(() => writer(S, {}, { engine: 'generated' }).json(moody as object)) as RowError;
    expect(error.message).to.contain('vessel.id: expected a value of its type');
    expect(error.message).to.contain('change its answer');
  });

  it('leaves nothing behind: the next row is written as if nothing had happened', () => {
    const write = writer(Detail);
    const before = write.json(bareVesselRow);
    expect(() => write.json({ ...bareVesselRow, portCalls: [{}] })).to.throw();
    expect(write.json(bareVesselRow)).to.equal(before);
  });

  it('lets a writer be used inside the function of another one', () => {
    const inner = writer(CallLine);
    const S = shape(fleet.vessel, (v) => ({
      id: v.id,
      inner: derive([v.id], text(), () =>
        Buffer.from(inner.bytes(vesselRow.portCalls[0] as object)).toString(),
      ),
      name: v.name,
    }));
    expect(writer(S).json(vesselRow)).to.equal(
      '{"id":1,"inner":"{\\"id\\":11,\\"eta\\":\\"2026-03-01T06:00:00.000Z\\"}","name":"Anselma"}',
    );
  });
});

describe('an envelope of one row', () => {
  it('has that row: null is none', () => {
    const Wrapped = wrap(Detail, (content) => ({ data: content }));
    expect(writeError(Wrapped, { item: null })).to.include({ code: 'ROW_NULL' });
    expect(writeError(Wrapped, {})).to.include({ code: 'ROW_MISSING' });
  });
});
