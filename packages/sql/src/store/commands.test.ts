import { type Handler, serve } from '@gribo/http';
import { expect } from 'chai';
import { api, endpoint, integer, type Store, shape, text, values } from 'gribo';
import { callId, stock, stockRows } from '../../../gribo/src/testing/stock.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { databases, fillTables, makeTables } from '../testing/databases.js';
import { sqlStore } from './sql-store.js';

/** How many commands are sent to each database: more of them by hand, GRIBO_ROUNDS=500. */
const ROUNDS = Number(process.env['GRIBO_ROUNDS'] ?? 24);

/** How many are at work at once. */
const AT_ONCE = 8;

/** Where a command breaks: after each of these; the last one, where nothing does. */
const STEPS = ['begun', 'read', 'operator', 'call', 'part', 'pilot', 'loaded', 'nothing'] as const;

const Vessel = shape(stock.vessel, (v) => ({ id: v.id, name: v.name, operator: v.operator.name }));
const office = api({
  title: 'Office',
  version: '1',
  endpoints: {
    enter: endpoint('POST /vessels/{id}/enter', {
      from: stock.vessel,
      takes: values({ mark: text(), step: text(), call: integer() }),
      returns: Vessel,
    }),
  },
});

const enter: Handler<typeof office, 'enter'> = ({ input, key, load, store, transaction }) => {
  const after = (step: (typeof STEPS)[number]): void => {
    if (input.step === step) throw new Error(`broken after ${step}`);
  };
  return transaction(async (within) => {
    after('begun');
    const vessel = await load.from(stock.vessel).row(...(key ?? []));
    after('read');
    const [operatorId] = await store.create('operator', { name: input.mark });
    after('operator');
    await within.create('portCall', {
      id: callId(input.call),
      vesselId: vessel?.id,
      eta: new Date(0),
      status: 'announced',
      pilots: [{ name: input.mark }],
    });
    after('call');
    // What is tried and does not fit is taken back alone.
    await store.create('operator', { name: input.mark, parentId: operatorId }).catch(() => undefined);
    after('part');
    await store.create('pilot', { name: input.mark });
    after('pilot');
    const row = await load.row(...(key ?? []));
    after('loaded');
    return row;
  });
};

for (const { name, variable, open } of databases) {
  describe(`commands on ${name}${variable === null ? '' : ` (${variable})`}`, () => {
    let kysely: AnyKysely | null = null;

    const opened = async (): Promise<{ readonly store: Store; readonly at: AnyKysely }> => {
      if (kysely === null) throw new Error('the database was not opened');
      await fillTables(kysely, stock, stockRows);
      return { store: sqlStore(stock, kysely, { closes: false }), at: kysely };
    };

    before(async function () {
      kysely = await open();
      if (kysely === null) return this.skip();
      await makeTables(kysely);
    });
    after(() => kysely?.destroy());

    it('store all of what they do or nothing, many at once, wherever they break', async () => {
      const { store, at } = await opened();
      const handle = serve(office, { store, handlers: { enter }, log: { error: () => undefined } });
      const send = async (round: number): Promise<readonly [string, number]> => {
        const step = STEPS[round % STEPS.length] ?? 'nothing';
        const body = JSON.stringify({ mark: `Mark ${round}`, step, call: 1000 + round });
        const headers = { 'content-type': 'application/json' };
        const asked = new Request(`http://o.test/vessels/${(round % 5) + 1}/enter`, {
          method: 'POST',
          headers,
          body,
        });
        return [step, (await handle(asked)).status];
      };
      const told: (readonly [string, number])[] = [];
      for (let round = 0; round < ROUNDS; round += AT_ONCE) {
        const many = Array.from({ length: Math.min(AT_ONCE, ROUNDS - round) }, (_, i) => send(round + i));
        told.push(...(await Promise.all(many)));
      }
      const marked = async (table: string): Promise<ReadonlyMap<string, number>> => {
        const rows = await at.selectFrom(table).select('name').where('name', 'like', 'Mark %').execute();
        const counts = new Map<string, number>();
        for (const row of rows as { name: string }[]) counts.set(row.name, (counts.get(row.name) ?? 0) + 1);
        return counts;
      };
      const [operators, pilots] = [await marked('operator'), await marked('pilot')];
      for (const [round, [step, status]] of told.entries()) {
        const isWhole = step === 'nothing';
        expect(status, `${round}, broken after ${step}`).to.equal(isWhole ? 200 : 500);
        const stored = [operators.get(`Mark ${round}`) ?? 0, pilots.get(`Mark ${round}`) ?? 0];
        expect(stored, `${round}, broken after ${step}`).to.deep.equal(isWhole ? [1, 2] : [0, 0]);
      }
      expect(told.filter(([, status]) => status === 200)).to.have.length.above(0);
    });

    it('join a transaction that is there already', async () => {
      const { store, at } = await opened();
      const known = sqlStore(stock, at, { closes: false });
      const counts = async (of: Store) => [await of.count('operator'), await of.count('pilot')];
      const before = await counts(store);
      const more = before.map((n) => n + 1);
      const inside = async (make: (transaction: AnyKysely) => Store, isKept: boolean): Promise<void> => {
        const work = at.transaction().execute(async (transaction: AnyKysely) => {
          const own = make(transaction);
          await transaction.insertInto('pilot').values({ name: 'By hand' }).execute();
          await own.create('operator', { name: 'Joined' });
          expect(await counts(own)).to.deep.equal(more);
          const told = await own
            .create('operator', { name: 'Joined' })
            .catch((error: { code: string }) => error.code);
          expect(told).to.equal('CONFLICT');
          expect(await own.amend('vessel', [1], { name: 'Joined' })).to.equal(true);
          if (!isKept) throw new Error('not kept');
        });
        expect(await work.catch((error: Error) => error.message)).to.equal(isKept ? undefined : 'not kept');
        expect(await counts(store)).to.deep.equal(isKept ? more : before);
      };
      await inside((transaction) => sqlStore(stock, transaction), false);
      await inside((transaction) => known.within(transaction), false);
      await inside((transaction) => known.within(transaction), true);
    });
  });
}
