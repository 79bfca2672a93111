import { serve } from '@gribo/http';
import { expect } from 'chai';
import { api, endpoint, type GriboError, memoryStore } from 'gribo';
import { CompiledQuery } from 'kysely';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { sqlStore } from '../store/sql-store.js';
import { databases } from '../testing/databases.js';
import { RUSH_DROPS, RUSH_TABLES, Rushing, rush } from '../testing/rush.js';

/** How many rounds there are: 200 by hand, GRIBO_ROUNDS=200. */
const ROUNDS = Number(process.env['GRIBO_ROUNDS'] ?? 3);

const peeking = api({ title: 'Peeking', version: '1', endpoints: { peek: endpoint('POST /peek', {}) } });

const holds = async (rushing: Rushing): Promise<void> => {
  for (let round = 0; round < ROUNDS; round++)
    expect(await rushing.round(), `round ${round}`).to.deep.equal([]);
  if (ROUNDS > 3) console.log(`      ${ROUNDS} rounds: ${JSON.stringify(rushing.statuses)}`);
};

describe('commands that load, look and change, asked by eight at once', function () {
  this.timeout(3_600_000);

  it('store what their answers say: in memory', () => holds(new Rushing(memoryStore(rush, {}))));

  for (const { name, variable, open } of databases) {
    describe(`on ${name}${variable === null ? '' : ` (${variable})`}`, () => {
      let kysely: AnyKysely | null = null;
      before(async function () {
        kysely = await open();
        if (kysely === null) return this.skip();
        for (const statement of [...RUSH_DROPS, ...RUSH_TABLES])
          await kysely.executeQuery(CompiledQuery.raw(statement));
      });
      after(async () => {
        for (const statement of RUSH_DROPS) await kysely?.executeQuery(CompiledQuery.raw(statement));
        await kysely?.destroy();
      });

      it('store what their answers say', () =>
        holds(new Rushing(sqlStore(rush, kysely as AnyKysely, { closes: false }))));

      it('are told where they ask the store outside of their transaction, and keep nobody waiting', async () => {
        const outer = sqlStore(rush, kysely as AnyKysely, { closes: false });
        const work = () =>
          outer.transaction?.(async (within) => {
            await within.count('item');
            await outer.count('item');
          });
        const all = await Promise.allSettled(Array.from({ length: 20 }, work));
        const told = all.map((one) => (one.status === 'rejected' ? (one.reason as GriboError).code : 'done'));
        expect(new Set(told)).to.deep.equal(new Set(['MISUSE']));
        // What a transaction leaves running is no part of it.
        let later: Promise<number> | null = null;
        await outer.transaction?.(async (within) => {
          later = new Promise((resolve) => setTimeout(resolve, 50)).then(() => outer.count('item'));
          await within.count('item');
        });
        expect(await later).to.be.a('number');
      });

      it('are cut off where they hang: what they have done is taken back, and nobody waits for them', async () => {
        const store = sqlStore(rush, kysely as AnyKysely, { closes: false });
        const late: unknown[] = [];
        const untold: string[] = [];
        let go: () => void = () => undefined;
        const hangs = new Promise<void>((resolve) => {
          go = resolve;
        });
        await store.create('item', { id: 88_000, stock: 1 });
        const handle = serve(peeking, {
          store,
          limits: { answering: 300, ending: 200 },
          log: { error: (_about, message) => void untold.push(message) },
          handlers: {
            peek: ({ store: own, transaction }) =>
              transaction(async () => {
                await own.amend('item', [88_000], { stock: 7 });
                await hangs;
                await own
                  .amend('item', [88_000], { stock: 8 })
                  .catch((error: unknown) => void late.push(error));
              }),
          },
        });
        const ask = () => handle(new Request('http://r.test/peek', { method: 'POST' }));
        const all = await Promise.all(Array.from({ length: 6 }, ask));
        expect(all.map(({ status }) => status)).to.deep.equal([503, 503, 503, 503, 503, 503]);
        // The row is free again, and as it was.
        expect(await store.amend('item', [88_000], { stock: 2 })).to.equal(true);
        go();
        await new Promise((resolve) => setTimeout(resolve, 100));
        expect(late.length).to.be.greaterThan(0);
        for (const error of late)
          expect((error as GriboError).message).to.match(/took too long|time|over|ended/);
        expect(await store.amend('item', [88_000], { stock: 2 })).to.equal(true);
      });

      it('change nothing where they have said that they only read', async () => {
        const store = sqlStore(rush, kysely as AnyKysely, { closes: false });
        const told: string[] = [];
        const handle = serve(peeking, {
          store,
          log: { error: (about) => void told.push(String((about as { err?: Error }).err)) },
          handlers: {
            peek: ({ store: own, transaction }) =>
              transaction(
                async () => {
                  await own.count('item');
                  await own.create('item', { id: 99_999, stock: 1 });
                },
                { onlyReads: true },
              ),
          },
        });
        const answer = await handle(new Request('http://r.test/peek', { method: 'POST' }));
        expect(answer.status).to.equal(500);
        expect(told.join()).to.contain('this transaction only reads: leave onlyReads out');
      });
    });
  }
});
