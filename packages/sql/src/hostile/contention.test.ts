import { answerColumns, type Handler, serve } from '@gribo/http';
import { expect } from 'chai';
import {
  amending,
  api,
  assigned,
  bool,
  collection,
  endpoint,
  entity,
  input,
  integer,
  list,
  model,
  optional,
  shape,
  text,
  values,
} from 'gribo';
import { CompiledQuery, Kysely, sql } from 'kysely';
import pg from 'pg';
import { callId, stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { type AnswerDatabase, answerTable } from '../answers/answer-table.js';
import { dialectOf } from '../dialects/dialects.js';
import { postgresDialect } from '../dialects/postgres/postgres-dialect.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { sqlStore } from '../store/sql-store.js';
import { databases, fillTables, makeTables, PLACE } from '../testing/databases.js';

/** How many rounds there are of each: more of them by hand, GRIBO_ROUNDS=60. */
const ROUNDS = Number(process.env['GRIBO_ROUNDS'] ?? 6);

const Pilot = shape(stock.pilot, ({ id, name }) => ({ id, name }));
const Call = shape(stock.portCall, (c) => ({ id: c.id, remarks: c.remarks, pilots: Pilot(c.pilots) }));
const NewCall = input(stock.portCall, (c) => ({
  eta: c.eta,
  status: c.status,
  vesselId: c.vesselId,
  remarks: optional(c.remarks),
  pilots: optional(input(stock.pilot, ({ name }) => ({ name }))(c.pilots)),
}));
const Operator = shape(stock.operator, ({ id, name }) => ({ id, name }));
const NewOperators = input(stock.operator, ({ name }) => ({ name }));
const Renamed = amending(
  input(stock.vessel, ({ id, name }) => ({ id: assigned(id), name })),
  ({ id, name }) => ({ id, name }),
);

const desk = api({
  title: 'Desk',
  version: '1',
  endpoints: {
    calls: collection('/calls', stock.portCall, {
      read: Call,
      replace: { takes: NewCall, returns: Call },
      amend: { takes: amending(NewCall, (members) => members), returns: Call },
    }),
    operators: collection('/operators', stock.operator, {
      create: { takes: list(NewOperators) },
      read: Operator,
    }),
    swap: endpoint('POST /swap', {
      from: stock.vessel,
      takes: values({ first: integer(), second: integer(), mark: text(), swallows: bool() }),
    }),
    'vessels.rename': endpoint('PATCH /vessels', { from: stock.vessel, takes: list(Renamed) }),
  },
});

/** Changes two rows, in the order that it is told, and may take no notice of what fails. */
const swap: Handler<typeof desk, 'swap'> = ({ input: { first, second, mark, swallows }, transaction }) =>
  transaction(async (within) => {
    for (const id of [first, second]) {
      const done = within.amend('vessel', [id], { name: mark });
      await (swallows ? done.catch(() => undefined) : done);
      await new Promise((resolve) => setTimeout(resolve, 5));
    }
  });

/** The same rows, and answers that are kept. */
const kept = model({ keptAnswer: entity('keptAnswer', answerColumns(), { stored: 'kept_answer' }) }, {});
for (const { name, variable, open } of databases) {
  describe(`changes that are in each other’s way on ${name}${variable === null ? '' : ` (${variable})`}`, () => {
    let kysely: AnyKysely | null = null;
    let handle: ReturnType<typeof serve>;

    before(async function () {
      kysely = await open();
      if (kysely === null) return this.skip();
      await makeTables(kysely);
      await fillTables(kysely, stock, stockRows);
      await sql`drop table if exists kept_answer`.execute(kysely);
      for (const statement of answerTable(dialectOf(kysely).name as AnswerDatabase))
        await kysely.executeQuery(CompiledQuery.raw(statement));
      const store = sqlStore({ ...stock, ...kept }, kysely, { closes: false });
      handle = serve(desk, { store, handlers: { swap }, repeats: kept.keptAnswer });
    });
    after(() => kysely?.destroy());

    const send = async (method: string, path: string, body: unknown, headers = {}) => {
      const asked = new Request(`http://d.test${path}`, {
        method,
        headers: { 'content-type': 'application/json', ...headers },
        body: JSON.stringify(body),
      });
      const { status, headers: told } = await handle(asked);
      return { status, tag: told.get('etag') };
    };

    /** Answers by how often they were given. */
    const tally = (all: readonly { readonly status: number }[]): Readonly<Record<number, number>> => {
      const counts: Record<number, number> = {};
      for (const { status } of all) counts[status] = (counts[status] ?? 0) + 1;
      return counts;
    };

    const call = (pilots: readonly string[]) => ({
      eta: '2026-03-01T06:00:00Z',
      status: 'announced',
      vesselId: 1,
      pilots: pilots.map((pilot) => ({ name: pilot })),
    });

    /** Calls that nobody has nested anything in. */
    const freshCalls = async (many: number, from: number): Promise<readonly string[]> => {
      const store = sqlStore(stock, kysely as AnyKysely, { closes: false });
      const ids = Array.from({ length: many }, (_, i) => callId(from + i));
      for (const id of ids)
        await store.create('portCall', { id, vesselId: 1, eta: new Date(0), status: 'announced' });
      return ids;
    };

    it('get through: different new rows that are replaced with what is nested in them, by two', async () => {
      const all: { status: number }[] = [];
      for (let round = 0; round < ROUNDS; round++) {
        const ids = await freshCalls(2, 10_000 + round * 2);
        all.push(...(await Promise.all(ids.map((id) => send('PUT', `/calls/${id}`, call(['A', 'B']))))));
      }
      expect(tally(all)).to.deep.equal({ 200: ROUNDS * 2 });
    });

    it('get through: different rows whose lists are replaced, by eight', async () => {
      const all: { status: number }[] = [];
      const ids = await freshCalls(8, 20_000);
      for (let round = 0; round < ROUNDS; round++) {
        const pilots = [`P${round}`, `Q${round}`].map((pilot) => ({ name: pilot }));
        const sent = ids.map((id) => send('PATCH', `/calls/${id}`, { pilots }));
        all.push(...(await Promise.all(sent)));
      }
      expect(tally(all)).to.deep.equal({ 200: ROUNDS * 8 });
      const read = await handle(new Request(`http://d.test/calls/${ids[3]}`));
      expect(((await read.json()) as { pilots: object[] }).pilots).to.have.length(2);
    });

    it('get through: lists of unique values, by two in opposite orders', async () => {
      const all: { status: number }[] = [];
      for (let round = 0; round < ROUNDS; round++) {
        const names = Array.from({ length: 40 }, (_, i) => ({ name: `${round} ${i}` }));
        const both = [names, [...names].reverse()].map((some) => send('POST', '/operators', some));
        all.push(...(await Promise.all(both)));
      }
      expect(tally(all)).to.deep.equal({ 201: ROUNDS, 409: ROUNDS });
    });

    it('get through: lists that amend the same rows, by two in opposite orders', async () => {
      const all: { status: number }[] = [];
      for (let round = 0; round < ROUNDS; round++) {
        const rows = [1, 2, 3, 4, 5].map((id) => ({ id, name: `Round ${round}` }));
        const both = [rows, [...rows].reverse()].map((some) => send('PATCH', '/vessels', some));
        all.push(...(await Promise.all(both)));
      }
      expect(tally(all)).to.deep.equal({ 204: ROUNDS * 2 });
    });

    for (const swallows of [false, true])
      it(`get through: transactions of handlers that take rows crosswise${swallows ? ', and no notice of what fails' : ''}`, async () => {
        const all: { status: number }[] = [];
        const names: (readonly string[])[] = [];
        for (let round = 0; round < ROUNDS; round++) {
          const both = [
            { first: 1, second: 2, mark: `one ${round}`, swallows },
            { first: 2, second: 1, mark: `two ${round}`, swallows },
          ].map((body) => send('POST', '/swap', body));
          all.push(...(await Promise.all(both)));
          const { rows } = await sql<{ name: string }>`select name from vessel where id in (1, 2)`.execute(
            kysely as AnyKysely,
          );
          names.push(rows.map((row) => row.name));
        }
        expect(tally(all)).to.deep.equal({ 204: ROUNDS * 2 });
        // Whichever was last, it has changed both.
        expect(names.filter(([one, other]) => one !== other)).to.deep.equal([]);
      });

    it('are done once under one key, however many come at the same time', async () => {
      for (let round = 0; round < ROUNDS; round++) {
        const headers = { 'idempotency-key': crypto.randomUUID() };
        const [id = ''] = await freshCalls(1, 40_000 + round);
        const sent = Array.from({ length: 6 }, () =>
          send('PATCH', `/calls/${id}`, { pilots: [{ name: `K${round}` }] }, headers),
        );
        expect(tally(await Promise.all(sent))).to.deep.equal({ 200: 6 });
        const { rows } = await sql`select 1 from pilot where name = ${`K${round}`}`.execute(
          kysely as AnyKysely,
        );
        expect(rows).to.have.length(1);
      }
    });

    it('are told in another format under one key, and are not kept longer than their time', async () => {
      let now = new Date('2031-03-01T06:00:00Z');
      const store = sqlStore({ ...stock, ...kept }, kysely as AnyKysely, { closes: false });
      const timed = serve(desk, {
        store,
        handlers: { swap },
        repeats: kept.keptAnswer,
        now: () => now,
        anonymousRepeats: 200,
      });
      const [id = ''] = await freshCalls(1, 50_000);
      const asking = async (key: string, accept: string) => {
        const headers = { 'content-type': 'application/json', 'idempotency-key': key, accept };
        const body = JSON.stringify({ remarks: 'Fender', pilots: [{ name: key }] });
        const answer = await timed(
          new Request(`http://d.test/calls/${id}`, { method: 'PATCH', headers, body }),
        );
        return { status: answer.status, text: await answer.text() };
      };
      const first = await asking('first', 'application/json');
      const { id: _id, ...told } = JSON.parse(first.text);
      expect(told).to.deep.include({ remarks: 'Fender' });
      const asXml = await asking('first', 'application/xml');
      expect([asXml.status, /<name>first<\/name>/.test(asXml.text)]).to.deep.equal([200, true]);
      expect((await asking('first', 'application/json')).text).to.equal(first.text);
      for (let each = 0; each < 30; each++) await asking(`k${each}`, 'application/json');
      const before = await store.count('keptAnswer');
      now = new Date('2031-03-05T06:00:00Z');
      await asking('later', 'application/json');
      expect(before - (await store.count('keptAnswer'))).to.equal(19);
    });

    it('have one winner, and the others are told so, where all know the same state', async () => {
      const all: { status: number }[] = [];
      const [id = ''] = await freshCalls(1, 30_000);
      for (let round = 0; round < ROUNDS; round++) {
        const read = await handle(new Request(`http://d.test/calls/${id}`));
        const match = { 'if-match': read.headers.get('etag') ?? '' };
        const race = [1, 2, 3, 4].map((n) =>
          send('PATCH', `/calls/${id}`, { remarks: `${round}.${n}` }, match),
        );
        all.push(...(await Promise.all(race)));
      }
      expect(tally(all)).to.deep.equal({ 200: ROUNDS, 412: ROUNDS * 3 });
    });
  });
}

const url = process.env['GRIBO_POSTGRES'];

describe('changes that are in each other’s way in serializable transactions (GRIBO_POSTGRES)', () => {
  let kysely: AnyKysely | null = null;

  before(async function () {
    if (url === undefined) return this.skip();
    const options = `-c search_path=${PLACE} -c default_transaction_isolation=serializable`;
    const pool = new pg.Pool({ connectionString: url, max: 4, options });
    await pool.query(`create schema if not exists ${PLACE}`);
    kysely = new Kysely({ dialect: postgresDialect(pool) });
    await makeTables(kysely);
    await fillTables(kysely, stock, stockRows);
  });
  after(() => kysely?.destroy());

  it('have one winner, and the others are told so: none of them is a failure', async () => {
    const handle = serve(desk, {
      store: sqlStore(stock, kysely as AnyKysely, { closes: false }),
      handlers: { swap },
    });
    const counts = new Map<number, number>();
    for (let round = 0; round < ROUNDS; round++) {
      const read = await handle(new Request(`http://d.test/calls/${callId(1)}`));
      const headers = {
        'content-type': 'application/json',
        'if-match': read.headers.get('etag') ?? '',
      };
      const race = [1, 2, 3, 4].map((n) =>
        handle(
          new Request(`http://d.test/calls/${callId(1)}`, {
            method: 'PATCH',
            headers,
            body: JSON.stringify({ remarks: `${round}.${n}` }),
          }),
        ),
      );
      for (const { status } of await Promise.all(race)) counts.set(status, (counts.get(status) ?? 0) + 1);
    }
    expect(Object.fromEntries(counts)).to.deep.equal({ 200: ROUNDS, 412: ROUNDS * 3 });
  });
});
