import { serve } from '@gribo/http';
import { expect } from 'chai';
import {
  api,
  bool,
  bytes,
  collection,
  contains,
  date,
  decimal,
  derive,
  entity,
  type GriboError,
  integer,
  json,
  list,
  loadPlan,
  model,
  oneOf,
  oneOfThese,
  real,
  shape,
  text,
  timestamp,
  toOne,
  writer,
} from 'gribo';
import { comparison, type StoreCondition } from 'gribo/kit';
import { type Kysely, sql } from 'kysely';
import type pg from 'pg';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { copyPool, databases } from '../testing/databases.js';
import type { Statement } from './options.js';
import { sqlStore } from './sql-store.js';

const db = model(
  {
    crate: entity('crate', {
      id: integer().key(),
      label: text(),
      // A name that looks like the mark of a parameter, and like the end of one.
      odd: text().stored(`"$1'`),
      weight: decimal(10, 2),
      volume: real().nullable(),
      sealed: bool(),
      kind: oneOf('dry', 'cold'),
      packed: date().nullable(),
      landedAt: timestamp(),
      notes: json<unknown>().nullable(),
      stamp: bytes(),
      yardId: integer().nullable(),
    }),
    yard: entity('yard', { id: integer().key(), name: text() }),
  },
  { crate: { yard: toOne('yard', 'yardId') } },
  { columnNames: 'same' },
);

const YardLine = shape(db.yard, ({ id, name }) => ({ id, name }));
/** All that a line of the database says by itself. */
const Crate = shape(db.crate, (c) => ({
  ...{ id: c.id, label: c.label, odd: c.odd, weight: c.weight, volume: c.volume, sealed: c.sealed },
  ...{ kind: c.kind, packed: c.packed, landedAt: c.landedAt, notes: c.notes, yard: YardLine(c.yard) },
}));
/** What takes values. */
const Tagged = shape(db.crate, (c) => ({
  id: c.id,
  stamp: c.stamp,
  tag: derive([c.label, c.yard.name], text(), (label, yard) => `${label}@${yard}`),
}));

const Yard = 3_000;

const office = api({
  title: 'Crates',
  version: '1',
  endpoints: {
    crates: collection('/crates', db.crate, {
      list: list(Crate),
      filters: (c) => ({ label: contains(c.label), id: oneOfThese(c.id) }),
    }),
    tagged: collection('/tagged', db.crate, { list: list(Tagged) }),
  },
});

const server = databases.find(({ variable }) => variable === 'GRIBO_POSTGRES');
const pool = copyPool(server?.name ?? '');

const textOf = async (body: unknown, rows: unknown): Promise<string> =>
  new Response(writer(body as typeof crates).stream(rows as never)).text();

const crates = list(Crate);

describe('long lists by COPY (GRIBO_POSTGRES)', () => {
  let kysely: AnyKysely;
  const statements: Statement[] = [];

  before(async function () {
    const opened = await server?.open();
    if (opened === null || opened === undefined || pool === null) return this.skip();
    kysely = opened;
    await sql`drop table if exists crate, yard`.execute(kysely);
    await sql`create table yard (id integer primary key, name text not null)`.execute(kysely);
    await sql`insert into yard select n, E'Yard\t' || n from generate_series(1, 7) n`.execute(kysely);
    await sql`create table crate (id integer primary key, label text not null, "\"\"$1'" text not null, weight numeric(10, 2) not null,
      volume float8, sealed boolean not null, kind text not null check (kind in ('dry', 'cold')), packed date,
      "landedAt" timestamptz not null, notes jsonb, stamp bytea not null, "yardId" integer references yard (id))`.execute(
      kysely,
    );
    await sql`insert into crate select n, case n % 4 when 0 then 'Crate ' || n when 1 then E'a\\b\n"' || n when 2 then 'ü' || n else '' end,
      '$1', n / 100.0, case when n % 5 = 0 then null else n / 7.0 end, n % 2 = 0, case when n % 3 = 0 then 'cold' else 'dry' end,
      case when n % 6 = 0 then null else date '2026-01-01' + n end, timestamptz '2026-01-01 00:00:00.123456Z' + n * interval '1 hour',
      case n % 3 when 0 then null when 1 then 'null'::jsonb else '{"b": [1, "ü"], "a": 1.50}' end, '\\x00ff'::bytea,
      nullif(n % 8, 0) from generate_series(1, ${sql.lit(Yard)}) n`.execute(kysely);
  });
  after(async () => {
    if (kysely === undefined) return;
    await sql`drop table if exists crate, yard`.execute(kysely);
    await kysely.destroy();
  });
  beforeEach(() => {
    statements.length = 0;
  });

  const options = { closes: false, log: (statement: Statement) => void statements.push(statement) };
  const copying = () => sqlStore(db, kysely, { ...options, copy: pool as pg.Pool });
  const batching = () => sqlStore(db, kysely, { ...options, batch: 400 });

  it('give the bytes that batches give, whether members are columns or take values', async () => {
    for (const body of [crates, list(Tagged)]) {
      const plan = loadPlan(body as typeof crates);
      expect(await textOf(body, copying().stream(plan))).to.equal(
        await textOf(body, batching().stream(plan)),
      );
    }
    expect(statements.filter(({ sql: text }) => text.startsWith('copy ('))).to.have.length(2);
  });

  it('are answered over HTTP in every format as batches are, and short ones as a whole', async () => {
    const answers = async (store: ReturnType<typeof copying>, path: string, accept: string) => {
      const response = await serve(office, { store })(
        new Request(`http://c.test${path}`, { headers: { accept } }),
      );
      return [response.status, response.headers.get('etag'), await response.text()];
    };
    const formats = [
      'application/json',
      'text/csv',
      'application/x-ndjson',
      'application/xml',
      'application/cbor',
    ];
    for (const accept of formats) {
      for (const path of ['/crates', '/crates?label=Crate', '/crates?label=ü&id=2&id=6', '/tagged']) {
        const wanted = await answers(batching(), path, accept);
        expect(await answers(copying(), path, accept), `${path} as ${accept}`).to.deep.equal(wanted);
        if (path.endsWith('6')) expect(wanted[1]).to.be.a('string');
      }
    }
  });

  it('take their values as settings: none is in the statement, and none is read as a part of it', async () => {
    const plan = loadPlan(crates);
    const column = (name: string) => {
      const found = Crate.plan.entity.columns.find((one) => one.name === name);
      if (found === undefined) throw new Error(`there is no ${name}`);
      return found;
    };
    const conditions: readonly (readonly StoreCondition[])[] = [
      [comparison(column('odd'), 'equals', '$1'), comparison(column('id'), 'atLeast', 2)],
      [comparison(column('label'), 'oneOfThese', ['', "'; drop table crate; --", 'a\\b\n"1', '$2', '{"x"}'])],
      [
        comparison(column('landedAt'), 'atLeast', new Date('2026-03-01T00:00:00Z')),
        comparison(column('label'), 'contains', '\\'),
      ],
      [comparison(column('label'), 'equals', "$1' || current_user || '")],
    ];
    for (const where of conditions) {
      const store = sqlStore(db, kysely, { ...options, batch: 1, copy: pool as pg.Pool });
      statements.length = 0;
      expect(await textOf(crates, store.stream(plan, { where }))).to.equal(
        await textOf(crates, batching().stream(plan, { where })),
      );
      const copied = statements.find(({ sql: text }) => text.startsWith('copy ('));
      expect(copied?.sql ?? '').to.not.match(/drop table|current_user|2026-03/);
    }
  });

  it('show one state of the data, whatever changes meanwhile', async () => {
    const reader = writer(crates)
      .stream(copying().stream(loadPlan(crates)) as never)
      .getReader();
    let text = Buffer.from((await reader.read()).value ?? []).toString();
    await sql`update crate set label = 'changed'`.execute(kysely);
    for (let step = await reader.read(); !step.done; step = await reader.read())
      text += Buffer.from(step.value).toString();
    expect(JSON.parse(text)).to.have.length(Yard);
    expect(text).to.not.contain('changed');
  });

  it('show what a transaction has changed to a store within it, which copies nothing', async () => {
    const changed = new Error('undone');
    const within = async (transaction: AnyKysely): Promise<never> => {
      await sql`update crate set label = 'within'`.execute(transaction);
      const store = sqlStore(db, transaction, { ...options, copy: pool as pg.Pool });
      expect(await textOf(crates, store.stream(loadPlan(crates)))).to.contain('within');
      throw changed;
    };
    const run = kysely.transaction().execute(within);
    expect(await run.catch((error: unknown) => error)).to.equal(changed);
    expect(statements.map(({ sql: text }) => text).join()).to.not.contain('copy (');
  });

  it('let go of their connection where the reader leaves, and where they are read to the end', async () => {
    const connections = pool as pg.Pool;
    const reader = writer(crates)
      .stream(copying().stream(loadPlan(crates)) as never)
      .getReader();
    await reader.read();
    expect(connections.totalCount - connections.idleCount).to.equal(1);
    await reader.cancel();
    expect(connections.totalCount - connections.idleCount).to.equal(0);
    const idle = connections.idleCount;
    for await (const _row of copying().stream(loadPlan(crates)));
    expect(connections.totalCount)
      .to.be.within(idle, idle + 1)
      .and.to.equal(connections.idleCount);
    const { rows } = await sql<{ many: number }>`select count(*)::int as many from pg_stat_activity
      where datname = current_database() and state <> 'idle' and query like 'copy (%crate%'`.execute(kysely);
    expect(rows[0]?.many).to.equal(0);
  });

  it('say what failed where the connection is lost midway, to the log, and break the response', async () => {
    const told: { readonly err: Error }[] = [];
    const log = { error: (about: object) => void told.push(about as { err: Error }) };
    await sql`insert into crate select n, repeat('x', 9000), '$1', 1, 1, true, 'dry', null, now(), null, '', null
      from generate_series(10001, 14000) n`.execute(kysely);
    const response = await serve(office, { store: copying(), log })(new Request('http://c.test/crates'));
    const reader = response.body?.getReader();
    await reader?.read();
    await sql`select pg_terminate_backend(pid) from pg_stat_activity where query like 'copy (%crate%'`.execute(
      kysely,
    );
    const rest = async (): Promise<void> => {
      while ((await reader?.read())?.done === false);
    };
    const error = await rest().catch((thrown: unknown) => thrown);
    expect(error).to.have.property('code', 'ENDED');
    expect(told.map(({ err }) => (err as GriboError).code)).to.deep.equal(['UNAVAILABLE']);
    await sql`delete from crate where id > 10000`.execute(kysely);
  });

  it('are a problem where the first rows do not come in time, or cannot come', async () => {
    const log = { error: () => undefined };
    const store = copying();
    const hurried = serve(office, { store, log, limits: { answering: 300 } });
    const patient = serve(office, { store, log });
    const asked = async (handle: typeof patient): Promise<number> => {
      const response = await handle(new Request('http://c.test/crates'));
      // Its connection is held until all of it is read.
      await response.arrayBuffer();
      return response.status;
    };
    await (kysely as Kysely<never>).transaction().execute(async (within) => {
      await sql`lock table crate in access exclusive mode`.execute(within);
      expect(await asked(hurried)).to.equal(503);
    });
    expect(await asked(patient)).to.equal(200);
    await sql`alter table crate rename column label to renamed`.execute(kysely);
    expect(await asked(patient)).to.equal(500);
    await sql`alter table crate rename column renamed to label`.execute(kysely);
  });

  it('take PostgreSQL', async () => {
    const embedded = await databases[0]?.open();
    expect(() => sqlStore(db, embedded as AnyKysely, { copy: pool as pg.Pool })).to.not.throw();
    await embedded?.destroy();
    const other = databases.find(({ name }) => name === 'MariaDB server');
    const mariadb = (await other?.open()) ?? null;
    if (mariadb === null) return;
    expect(() => sqlStore(db, mariadb, { copy: pool as pg.Pool })).to.throw(
      /copy takes PostgreSQL, and this is/,
    );
    await mariadb.destroy();
  });
});
