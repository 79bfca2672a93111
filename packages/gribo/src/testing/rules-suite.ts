import { expect } from 'chai';
import {
  all,
  any,
  api,
  atLeast,
  audience,
  callerOf,
  collection,
  count,
  equals,
  first,
  integer,
  isNull,
  list,
  loadPlan,
  maximum,
  not,
  page,
  rowRule,
  type ShapeOf,
  type Store,
  shape,
  some,
  storeFor,
  sum,
  writer,
} from '../index.js';
import { comparison, ordering, type StoreCondition } from '../kit.js';
import { describeReferences } from './references-suite.js';
import { callId, stock, stockRows } from './stock.js';

const caller = callerOf({ operatorId: integer().nullable() });

const PilotName = shape(stock.pilot, ({ name }) => ({ name }));
const CallLine = shape(stock.portCall, (c) => ({
  id: c.id,
  status: c.status,
  eta: c.eta,
  pilots: PilotName(c.pilots),
  crew: count(c.pilots),
  numbers: sum(c.pilots, (p) => p.id),
}));
const Vessel = shape(stock.vessel, (v) => ({
  id: v.id,
  operator: v.operator.name,
  group: v.operator.parent.name,
  calls: CallLine(v.portCalls),
  busy: count(v.portCalls),
  sailed: count(some(v.portCalls, { where: (c) => [equals(c.status, 'sailed')] })),
  last: first(some(v.portCalls, { sort: ['eta desc'] }), CallLine),
  beside: count(v.operator.vessels),
  newest: maximum(v.portCalls, (c) => c.eta),
}));
const Operator = shape(stock.operator, (o) => ({ id: o.id, name: o.name, fleet: Vessel(o.vessels) }));

/** Agents see and change the vessels of their own operator, and its calls but for those that are only announced. */
const office = api({
  title: 'Office',
  version: '1',
  audiences: ['agent', 'office'],
  caller,
  rows: [
    rowRule(
      stock.vessel,
      (v) => any(audience('office'), all(audience('agent'), equals(v.operatorId, caller.operatorId))),
      { about: 'You may change the vessels of your own operator.' },
    ),
    rowRule(stock.portCall, (c) => any(audience('office'), equals(c.vessel.operatorId, caller.operatorId)), {
      change: (c) => all(equals(c.vessel.operatorId, caller.operatorId), not(equals(c.status, 'sailed'))),
    }),
    rowRule(stock.operator, (o) => any(audience('office'), isNull(o.parentId, false))),
    rowRule(stock.pilotage, (p) => any(audience('office'), atLeast(p.pilotId, 2))),
  ],
  endpoints: {
    vessels: collection('/vessels', stock.vessel, { list: page(Vessel), read: Vessel }),
    operators: collection('/operators', stock.operator, { list: list(Operator), read: Operator }),
    calls: collection('/calls', stock.portCall, { list: list(CallLine) }),
  },
});

const columnOf = (entity: keyof typeof stock, name: string) => {
  const found = stock[entity].entity.columns.find((column) => column.name === name);
  if (found === undefined) throw new Error(name);
  return found;
};

/** A change of rows within row rules, and what a caller sees, on every store. */
export const describeRules = (name: string, open: (rows: typeof stockRows) => Promise<Store>): void => {
  describeReferences(name, open);
  describe(`row rules: ${name}`, () => {
    let store: Store;
    beforeEach(async () => {
      store = await open(stockRows);
    });

    const as = (who: 'agent' | 'office' | null, operatorId: number | null = null): Store =>
      storeFor(store, office, who === null ? null : { audience: who, operatorId });
    const seen = async (body: ShapeOf<unknown>, by: Store): Promise<Record<string, unknown>[]> =>
      writer(list(body) as never).object((await by.list(loadPlan(body))) as never) as never;
    const refusal = async (work: Promise<unknown>): Promise<unknown> =>
      work.then(
        (done) => ({ done }),
        (error: { code?: string; reason?: string; about?: string; message: string }) =>
          error.code === undefined ? error.message : (error.reason ?? error.about ?? error.code),
      );

    it('hold for lists, single rows, totals, and what is asked of them', async () => {
      expect((await seen(Vessel, as('office'))).map(({ id }) => id)).to.deep.equal([1, 2, 3, 4, 5]);
      expect((await seen(Vessel, as('agent', 2))).map(({ id }) => id)).to.deep.equal([1, 5]);
      expect(await seen(Vessel, as('agent', null))).to.deep.equal([]);
      expect(await as('agent', 2).count('vessel')).to.equal(2);
      expect(await as('agent', 2).read(loadPlan(Vessel), [2])).to.equal(null);
      expect(await as('agent', 2).read(loadPlan(Vessel), [1])).to.not.equal(null);
      expect(await as(null).count('vessel')).to.equal(0);
      // Orders and conditions over links do not look at what is hidden.
      const byName: StoreCondition = {
        ...comparison(columnOf('operator', 'name'), 'equals', 'Lantern Bay'),
        left: {
          kind: 'column',
          path: [stock.vessel.links.get('operator') as never],
          column: columnOf('operator', 'name'),
        },
      };
      expect(await as('office').count('vessel', [byName])).to.equal(1);
      expect(await as('agent', 1).count('vessel', [byName])).to.equal(0);
      const sorted = await as('office').list(loadPlan(Vessel), {
        sort: [ordering(columnOf('vessel', 'id'), true)],
      });
      expect(sorted).to.have.length(5);
    });

    it('hold for nested rows, counts, first ones, and rows behind to-one links', async () => {
      const [one] = await seen(Vessel, as('agent', 2));
      expect(one).to.deep.include({ id: 1, operator: 'Lantern Bay Lines', group: null, busy: 3, beside: 2 });

      const [other] = await seen(Vessel, as('office'));
      expect(other).to.deep.include({ id: 1, operator: 'Lantern Bay Lines', group: 'Lantern Bay', busy: 3 });
      const lines = await seen(Operator, as('agent', 1));
      expect(lines.map(({ name, fleet }) => [name, (fleet as object[]).length])).to.deep.equal([
        ['Lantern Bay Lines', 0],
      ]);
    });

    it('hold for the rows in the middle of a many-to-many link', async () => {
      const crews = async (by: Store): Promise<unknown> =>
        (await seen(CallLine, by)).map(({ pilots, crew }) => [(pilots as object[]).length, crew]);
      const everybody = await crews(as('office'));
      const mine = await crews(as('agent', 2));
      expect(mine).to.not.deep.equal(everybody);
      // What a caller does not see is in no figure either.
      const numbers = async (by: Store): Promise<number> =>
        (await seen(CallLine, by)).reduce((all, { numbers: some }) => all + Number(some), 0);
      expect(await numbers(as('agent', 2))).to.be.lessThan(await numbers(as('office')));
      for (const [nested, counted] of mine as [number, number][]) expect(nested).to.equal(counted);
    });

    it('refuse changes of rows that may not be changed, before and after', async () => {
      const agent = as('agent', 2);
      expect(await agent.amend('vessel', [2], { name: 'Mine' })).to.equal(false);
      expect(await agent.remove('vessel', [3])).to.equal(false);
      expect(await agent.amend('vessel', [1], { name: 'Renamed' })).to.equal(true);
      const words = 'You may change the vessels of your own operator.';
      expect(await refusal(agent.amend('vessel', [1], { operatorId: null }))).to.equal(words);
      const made = { ...stockRows['vessel']?.[0], id: undefined, name: 'New' };
      // What the caller does not see is not there to be named: that is decided before, and told whatever else is refused.
      expect(await refusal(agent.create('vessel', { ...made, operatorId: 1 }))).to.equal('reference');
      expect(await refusal(as('agent', 1).create('vessel', { ...made, operatorId: 1 }))).to.equal(
        'reference',
      );
      expect(await refusal(as('agent', 99).create('vessel', { ...made, operatorId: 99 }))).to.equal(
        'reference',
      );
      expect(await refusal(agent.create('vessel', { ...made, operatorId: null }))).to.equal(words);
      expect(await agent.create('vessel', { ...made, operatorId: 2 })).to.have.length(1);
      // Seen, and not to be changed: that is told apart from what is not there.
      const berthed = await as('office').list(loadPlan(CallLine));
      const sailed = berthed.find((row) => (row as { status: string }).status === 'sailed') as { id: string };
      expect(await refusal(as('office', 2).amend('portCall', [sailed.id], { remarks: 'x' }))).to.equal(
        'RULE',
      );
      expect(await store.count('vessel')).to.equal(6);
    });

    it('refuse them in rows that are nested, and leave what is hidden as it is', async () => {
      const call = (n: number, status: string): object => ({
        id: callId(700 + n),
        eta: new Date('2026-07-01T06:00:00Z'),
        status,
      });
      const agent = as('agent', 2);
      const before = await store.count('portCall');
      expect(await refusal(agent.amend('vessel', [1], { portCalls: [call(1, 'sailed')] }))).to.equal('RULE');
      expect(await store.count('portCall')).to.equal(before);
      const made = { ...stockRows['vessel']?.[0], id: undefined, name: 'New', operatorId: 2 };
      expect(await refusal(agent.create('vessel', { ...made, portCalls: [call(2, 'sailed')] }))).to.equal(
        'RULE',
      );
      await agent.create('vessel', { ...made, portCalls: [call(3, 'announced')] });
      expect(await store.count('portCall')).to.equal(before + 1);
      // The pilots that are hidden stay with the call.
      const id = callId(2);
      const crew = async (by: Store): Promise<number> =>
        (await seen(CallLine, by)).find((line) => line['id'] === id)?.['crew'] as number;
      const hidden = (await crew(as('office'))) - (await crew(agent));
      await agent.amend('portCall', [id], { pilots: [{ id: 2 }] });
      expect(await crew(agent)).to.equal(1);
      expect(await crew(as('office'))).to.equal(1 + hidden);
      expect(await refusal(as('agent', 1).amend('portCall', [callId(4)], { pilots: [{ id: 1 }] }))).to.equal(
        'RULE',
      );
    });

    it('hold for a fact that no column can have: nothing is of it', async () => {
      const nobody = as('agent', 3_000_000_000);
      expect(await nobody.count('vessel')).to.equal(0);
      expect(await seen(Vessel, nobody)).to.deep.equal([]);
      expect((await seen(Operator, nobody)).map(({ fleet }) => fleet)).to.deep.equal([[]]);
      expect(await seen(CallLine, nobody)).to.deep.equal([]);
      expect(await nobody.amend('vessel', [1], { portCalls: [] })).to.equal(false);
      // The operator is seen, its vessels are not: they stay.
      expect(await nobody.amend('operator', [2], { vessels: [] })).to.equal(true);
      expect(await store.count('vessel')).to.equal(5);
    });

    it('refuse many rows that come at once, all of them', async () => {
      const row = (operatorId: number, n: number): object => ({
        ...stockRows['vessel']?.[0],
        id: undefined,
        name: `N${n}`,
        operatorId,
      });
      const batches = async function* (rows: readonly object[]) {
        yield rows;
      };
      const agent = as('agent', 2);
      expect(await agent.createAll('vessel', batches([row(2, 1), row(2, 2)]))).to.equal(2);
      expect(await refusal(agent.createAll('vessel', batches([row(2, 3), row(1, 4)])))).to.equal('reference');
      const nobodys = { ...row(2, 5), operatorId: null };
      expect(await refusal(agent.createAll('vessel', batches([row(2, 3), nobodys])))).to.match(
        /own operator/,
      );
      expect(await store.count('vessel')).to.equal(7);
    });
  });
};
