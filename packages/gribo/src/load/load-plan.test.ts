import { expect } from 'chai';
import {
  audience,
  count,
  derive,
  equals,
  first,
  given,
  holds,
  type LoadPlan,
  list,
  loadPlan,
  shape,
  some,
  text,
} from '../index.js';
import { fleet } from '../testing/fleet.js';
import { ordering } from '../values/comparison.js';
import { addOrder } from './add-order.js';

/** A plan as text: `vessel(id, name) > operator(id, name)`. */
const told = (plan: LoadPlan): string => {
  const columns = plan.columns.map((column) => column.stored).join(', ');
  const links = plan.links.map(({ link, plan: behind, selection }) => {
    const some = selection.where.length + selection.sort.length > 0 || selection.limit !== null ? '*' : '';
    return ` > ${link.name}${some}: ${told(behind)}`;
  });
  const counts = plan.figures.map(({ name }) => ` # ${name}`);
  return `${plan.table}(${columns})${links.join('')}${counts.join('')}`;
};

const CallLine = shape(fleet.portCall, (c) => ({ eta: c.eta }));

describe('loadPlan', () => {
  it('names the columns that members read and the key, in the entity’s order', () => {
    const S = shape(fleet.vessel, (v) => ({ sign: v.callSign, name: v.name }));
    expect(told(loadPlan(S))).to.equal('vessel(id, name, call_sign)');
    expect(told(loadPlan(list(S)))).to.equal(told(loadPlan(S)));
    // Stores keep statements by plans: it is the same each time.
    expect(loadPlan(S)).to.equal(loadPlan(S));
  });

  it('follows links, with the columns that join both sides', () => {
    const S = shape(fleet.vessel, (v) => ({
      by: v.operator.name,
      group: v.operator.parent.name,
      calls: CallLine(v.portCalls),
    }));
    expect(told(loadPlan(S))).to.equal(
      'vessel(id, operator_id) > operator: operator(id, name, parent_id) > parent: operator(id, name) > portCalls: port_call(id, vessel_id, eta)',
    );
  });

  it('goes through the entity in the middle', () => {
    const Pilot = shape(fleet.pilot, ({ name }) => ({ name }));
    const [link] = loadPlan(shape(fleet.portCall, (c) => ({ pilots: Pilot(c.pilots) }))).links;
    expect(link?.link.through).to.deep.include({ from: ['portCallId'], to: ['pilotId'] });
    expect(link?.link.through?.entity.table).to.equal('pilotage');
  });

  it('counts in the store, unless the rows are loaded anyway', () => {
    const Counted = shape(fleet.vessel, (v) => ({ n: count(v.portCalls) }));
    expect(told(loadPlan(Counted))).to.equal('vessel(id) # portCalls');
    const Both = shape(fleet.vessel, (v) => ({ n: count(v.portCalls), calls: CallLine(v.portCalls) }));
    expect(told(loadPlan(Both))).to.equal('vessel(id) > portCalls: port_call(id, vessel_id, eta)');
  });

  it('passes a selection on, and loads all where members want different ones', () => {
    const S = shape(fleet.vessel, (v) => ({
      last: first(
        some(v.portCalls, { where: (c) => [equals(c.status, 'sailed')], sort: ['eta desc'] }),
        CallLine,
      ),
    }));
    const [{ selection }] = loadPlan(S).links as [LoadPlan['links'][number]];
    expect(selection.limit).to.equal(1);
    expect(
      selection.where.map((part) =>
        part.kind === 'compares' ? [part.left.column.name, part.operator, part.right] : part.kind,
      ),
    ).to.deep.equal([['status', 'equals', { kind: 'value', value: 'sailed' }]]);
    expect(told(loadPlan(S))).to.equal('vessel(id) > portCalls*: port_call(id, vessel_id, eta, status)');
    const Two = shape(fleet.vessel, (v) => ({ ...S(v), all: CallLine(v.portCalls) }));
    expect(told(loadPlan(Two))).to.equal('vessel(id) > portCalls: port_call(id, vessel_id, eta, status)');
  });

  it('includes what conditions and derived values read, and nothing that the situation leaves out', () => {
    const S = shape(fleet.vessel, (v) => ({
      kind: given(
        holds([v.active], (active) => active),
        v.kind,
      ),
      label: derive([v.name, v.operator.name], text(), (a, b) => `${a} ${b}`),
      built: given(audience('agent'), v.builtYear),
    }));
    expect(told(loadPlan(S))).to.equal(
      'vessel(id, name, kind, active, operator_id) > operator: operator(id, name)',
    );
    expect(told(loadPlan(S, { audience: 'agent' }))).to.contain('built_year');
  });
});

describe('a load plan with an order', () => {
  it('knows of them what it knows of the others, in the entity’s order', () => {
    const S = shape(fleet.vessel, (v) => ({ name: v.name }));
    const sort = fleet.vessel.entity.columns
      .filter(({ name }) => name === 'callSign' || name === 'name')
      .map((column) => ordering(column));
    const plan = addOrder(loadPlan(S), fleet.vessel.entity, sort);
    expect(plan.columns.map((column) => Object.keys(column))).to.deep.equal(
      plan.columns.map(() => ['name', 'stored', 'type', 'coded']),
    );
    expect(told(plan)).to.equal('vessel(id, name, call_sign)');
    expect(addOrder(plan, fleet.vessel.entity, sort)).to.equal(plan);
  });
});
