import { expect } from 'chai';
import {
  any,
  api,
  audience,
  callerOf,
  collection,
  equals,
  integer,
  list,
  loadPlan,
  rowRule,
  type Store,
  shape,
  some,
  storeFor,
} from '../index.js';
import { callId, stock, stockRows } from './stock.js';

const caller = callerOf({ pilotId: integer(), operatorId: integer() });

const CallId = shape(stock.portCall, ({ id }) => ({ id }));

/** Pilots see the calls that they are with; everybody sees one operator, and all vessels. */
const crew = api({
  title: 'Crew',
  version: '1',
  audiences: ['pilot', 'office'],
  caller,
  rows: [
    rowRule(stock.portCall, (c) =>
      any(audience('office'), some(c.pilots, { where: (p) => [equals(p.id, caller.pilotId)] })),
    ),
    rowRule(stock.pilotage, (p) => any(audience('office'), equals(p.pilotId, caller.pilotId))),
    rowRule(stock.operator, (o) => any(audience('office'), equals(o.id, caller.operatorId))),
  ],
  endpoints: { calls: collection('/calls', stock.portCall, { list: list(CallId) }) },
});

/** What a change is answered with, and how many statements it took. */
interface Told {
  readonly answer: unknown;
  readonly statements: number;
}

/** Rows that a change names, on every store: one that the caller does not see is as one that is not there. */
export const describeReferences = (name: string, open: (rows: typeof stockRows) => Promise<Store>): void => {
  describe(`references: ${name}`, () => {
    let store: Store;
    beforeEach(async () => {
      store = await open(stockRows);
    });

    const as = (over: Store, who: 'pilot' | 'office'): Store =>
      storeFor(over, crew, { audience: who, pilotId: 3, operatorId: 2 });
    const told = async (work: (store: Store) => Promise<unknown>): Promise<Told> => {
      let statements = 0;
      const { signal } = new AbortController();
      const counted = store.scoped?.({ signal, ran: () => void statements++ }) ?? store;
      const answer = await work(as(counted, 'pilot')).then(
        () => 'done',
        ({ code, reason, entity, columns, message }) => ({ code, reason, entity, columns, message }),
      );
      return { answer, statements };
    };
    const calls = async (who: 'pilot' | 'office'): Promise<readonly string[]> =>
      (await as(store, who).list(loadPlan(CallId))).map((row) => (row as { readonly id: string }).id);

    /** Both are refused alike, and nothing is stored. */
    const isRefused = async (work: (named: 'hidden' | 'absent') => (store: Store) => Promise<unknown>) => {
      const before = [await calls('pilot'), await store.count('pilotage'), await store.count('vessel')];
      const hidden = await told(work('hidden'));
      const absent = await told(work('absent'));
      expect(hidden.answer).to.deep.include({ code: 'CONFLICT', reason: 'reference' });
      expect(hidden).to.deep.equal(absent);
      const after = [await calls('pilot'), await store.count('pilotage'), await store.count('vessel')];
      expect(after).to.deep.equal(before);
    };

    /** A call that the pilot does not see, or none. */
    const hiddenCall = async (named: 'hidden' | 'absent'): Promise<string> => {
      if (named === 'absent') return callId(999);
      const own = await calls('pilot');
      const other = (await calls('office')).find((id) => !own.includes(id));
      expect(own).to.not.equal(undefined);
      return other ?? '';
    };
    const operator = { hidden: 1, absent: 999 };
    const vessel = { ...stockRows['vessel']?.[0], id: undefined };

    it('nobody gets to see a row by naming it', async () => {
      await isRefused(
        (named) => async (own) => own.create('pilotage', { portCallId: await hiddenCall(named), pilotId: 3 }),
      );
    });

    it('of a new row, and of one that is changed', async () => {
      await isRefused((named) => (own) => own.create('vessel', { ...vessel, operatorId: operator[named] }));
      await isRefused((named) => (own) => own.amend('vessel', [1], { operatorId: operator[named] }));
      const seen = await told((own) => own.amend('vessel', [1], { operatorId: 2 }));
      expect(seen.answer).to.equal('done');
      expect((await told((own) => own.amend('vessel', [1], { operatorId: null }))).answer).to.equal('done');
    });

    it('of rows that are nested, and behind links through a table', async () => {
      await isRefused(
        (named) => async (own) =>
          own.create('pilot', { name: 'New', calls: [{ id: await hiddenCall(named) }] }),
      );
      await isRefused(
        (named) => (own) =>
          own.amend('operator', [2], {
            vessels: [
              { ...vessel, operatorId: undefined },
              { ...vessel, portCalls: [] },
            ].map((one) => ({ ...one, operator: { name: `By ${named}`, parentId: operator[named] } })),
          }),
      );
    });

    it('of lists, wherever the row stands in it', async () => {
      const batches = async function* (rows: readonly object[]) {
        yield rows.slice(0, 2);
        yield rows.slice(2);
      };
      await isRefused(
        (named) => (own) =>
          own.createAll(
            'vessel',
            batches([2, 2, null, operator[named], 2].map((operatorId) => ({ ...vessel, operatorId }))),
          ),
      );
      const stored = await told((own) =>
        own.createAll('vessel', batches([2, 2, null, 2].map((operatorId) => ({ ...vessel, operatorId })))),
      );
      expect(stored.answer).to.equal('done');
    });
  });
};
