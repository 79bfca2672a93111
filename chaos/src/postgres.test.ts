import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { answerColumns, serve } from '@gribo/http';
import { openDatabase, postgresDialect, sqlStore } from '@gribo/sql';
import { expect } from 'chai';
import { entity, model } from 'gribo';
import { Kysely, sql } from 'kysely';
import pg from 'pg';
import { stock, stockRows } from '../../packages/gribo/src/testing/stock.js';
import { fillTables, makeTables } from '../../packages/sql/src/testing/databases.js';
import { working } from './testing/clients.js';
import { asking, harbourOffice, Ledger } from './testing/ledger.js';
import { hasPostgres, Postgres } from './testing/postgres.js';
import { folderFor, pause, ran, until, userNamed } from './testing/processes.js';
import { Relay } from './testing/relay.js';

/** Seconds of each kind of trouble: more of them by hand, GRIBO_SECONDS=120. */
const SECONDS = Number(process.env['GRIBO_SECONDS'] ?? 1);

/** The same rows, and answers that are kept. */
const kept = model({ keptAnswer: entity('keptAnswer', answerColumns(), { stored: 'kept_answer' }) }, {});

const opened = (port: number) => {
  const connectionString = `postgres://postgres@127.0.0.1:${port}/postgres`;
  const pool = new pg.Pool({ connectionString, max: 10, connectionTimeoutMillis: 3000 });
  const kysely = new Kysely<unknown>({ dialect: postgresDialect(pool) });
  const causes: string[] = [];
  const log = {
    error: (about: object, message: string) =>
      void causes.push((about as { err?: Error }).err?.message ?? message),
  };
  const handle = serve(harbourOffice, {
    store: sqlStore({ ...stock, ...kept }, kysely),
    repeats: kept.keptAnswer,
    log,
    limits: { answering: 4000, ending: 1000 },
  });
  return { pool, kysely, ask: asking(handle), causes };
};

const fillServer = async (url: string): Promise<void> => {
  const kysely = await openDatabase(url);
  await makeTables(kysely);
  await fillTables(kysely, stock, stockRows);
  await sql`create table kept_answer (key varchar(43) primary key, body varchar(43) not null, status integer not null, headers text not null, content bytea, at timestamptz not null)`.execute(
    kysely,
  );
  await kysely.destroy();
};

/** What is stored is what was told. */
const agreed = async (ledger: Ledger, url: string): Promise<void> => {
  console.log(`      ${JSON.stringify(ledger.tally)}, statuses ${JSON.stringify([...ledger.statuses])}`);
  const own = await openDatabase(url);
  expect(await ledger.wrong(own)).to.deep.equal([]);
  await own.destroy();
  expect(ledger.failures, 'told as our mistakes').to.deep.equal([]);
};

describe('PostgreSQL in trouble', function () {
  this.timeout(SECONDS * 20_000 + 120_000);
  let server: Postgres;

  before(async function () {
    if (!hasPostgres()) return this.skip();
    server = await Postgres.start({ settings: { fsync: 'off' } });
    await fillServer(server.url);
  });
  after(() => server?.stop());

  /** Nothing is stored otherwise than it was told, no transaction is open, no connection is lost. */
  const checked = async (ledger: Ledger, pool: pg.Pool): Promise<void> => {
    await agreed(ledger, server.url);
    await until('no open transaction', async () => {
      const rows = await server.ask(
        "select count(*)::int as many from pg_stat_activity where state like 'idle in transaction%'",
      );
      return rows[0]?.['many'] === 0;
    });
    expect(pool.idleCount, 'idle connections').to.equal(pool.totalCount);
  };

  it('whose connections are killed at any moment', async () => {
    const { pool, kysely, ask, causes } = opened(server.port);
    const ledger = new Ledger();
    let killed = 0;
    const requests = await working(
      ask,
      ledger,
      { many: 8, milliseconds: SECONDS * 1000, counters: [1, 2, 3] },
      async () => {
        const rows = await server.ask(
          "select pg_terminate_backend(pid) from pg_stat_activity where pid <> pg_backend_pid() and application_name = '' and backend_type = 'client backend' and random() < 0.4",
        );
        killed += rows.length;
      },
    );
    await checked(ledger, pool);
    console.log(`      ${requests} requests, ${killed} connections killed`);
    expect(killed).to.be.above(10);
    // The cause is told, and not what came of it when the transaction was to be ended.
    expect(causes.filter((cause) => cause.includes('not queryable'))).to.have.length.below(
      causes.length / 10 + 1,
    );
    await kysely.destroy();
  });

  it('whose sockets are cut', async () => {
    const relay = await Relay.start(server.port);
    const { pool, kysely, ask } = opened(relay.port);
    const ledger = new Ledger();
    await working(ask, ledger, { many: 8, milliseconds: SECONDS * 1000, counters: [4, 5] }, () =>
      relay.cut(0.3),
    );
    await checked(ledger, pool);
    await kysely.destroy();
    await relay.stop();
  });

  it('whose sockets are cut, and clients that ask again under one key: all is done, and nothing twice', async () => {
    const relay = await Relay.start(server.port);
    const { pool, kysely, ask } = opened(relay.port);
    const ledger = new Ledger();
    const work = { many: 8, milliseconds: SECONDS * 1000, counters: [], insists: true };
    await working(ask, ledger, work, () => relay.cut(0.3));
    relay.block(false);
    await checked(ledger, pool);
    expect(ledger.tally).to.include({ undone: 0, unknown: 0 });
    await kysely.destroy();
    await relay.stop();
  });

  it('whose processes stand still: callers are told in time, and nothing waits for them', async () => {
    const { pool, kysely, ask } = opened(server.port);
    const ledger = new Ledger();
    expect((await ask('GET', '/vessels/1')).status).to.equal(200);
    const [row] = await server.ask(
      "select pid from pg_stat_activity where backend_type = 'client backend' and pid <> pg_backend_pid() limit 1",
    );
    const pid = Number(row?.['pid']);
    process.kill(pid, 'SIGSTOP');
    const start = Date.now();
    const told = await ledger.create(ask);
    const took = Date.now() - start;
    process.kill(pid, 'SIGCONT');
    // Whether it had begun is a matter of which statement met the process.
    expect([told === 'done', took < 6000]).to.deep.equal([false, true]);
    await pause(500);
    await working(ask, ledger, { many: 4, milliseconds: 1000, counters: [] });
    await checked(ledger, pool);
    await kysely.destroy();
  });

  it('that is killed and comes again', async () => {
    const { pool, kysely, ask } = opened(server.port);
    const ledger = new Ledger();
    let crashes = 0;
    await working(ask, ledger, { many: 8, milliseconds: SECONDS * 1000, counters: [1] }, async () => {
      await pause(1500);
      await server.kill();
      await pause(300);
      await server.start();
      crashes += 1;
    });
    await server.isReady();
    await checked(ledger, pool);
    console.log(`      ${crashes} crashes`);
    expect(ledger.tally.done).to.be.above(0);
    await kysely.destroy();
  });
});

describe('PostgreSQL on a disk that is full', function () {
  this.timeout(240_000);
  let folder: string | null = null;
  let server: Postgres;

  before(async function () {
    if (!hasPostgres()) return this.skip();
    const user = await userNamed('postgres');
    const made = await folderFor(user);
    const options = `size=160m,uid=${user.uid},gid=${user.gid},mode=700`;
    // Only the superuser may make a disk of his own.
    const isThere = await ran('mount', ['-t', 'tmpfs', '-o', options, 'none', made]).then(
      () => true,
      () => false,
    );
    if (!isThere) return this.skip();
    folder = made;
    server = await Postgres.start({ within: made, settings: { fsync: 'off', max_wal_size: '48MB' } });
    await fillServer(server.url);
  });
  after(async () => {
    if (folder === null) return;
    await server?.stop().catch(() => undefined);
    await ran('umount', ['-l', folder]);
  });

  it('tells callers that it passes, stores nothing by halves, and goes on when there is room', async () => {
    const { kysely, ask } = opened(server.port);
    const ledger = new Ledger();
    await working(ask, ledger, { many: 4, milliseconds: 1500, counters: [1] });
    const filler = join(folder ?? '', 'filler');
    writeFileSync(filler, '');
    // What is left of the disk, but for a little.
    const left = Number((await ran('df', ['--output=avail', '-k', folder ?? ''])).split('\n')[1]) - 2048;
    await ran('fallocate', ['-l', `${left}K`, filler]);
    const before = ledger.tally.done;
    const blob = 'x'.repeat(70);
    for (let i = 0; i < 400 && (ledger.statuses.get(503) ?? 0) < 5; i++) {
      await server
        .ask(`insert into pilot (name) select left('${blob}', 40) from generate_series(1, 20000)`)
        .catch(() => undefined);
      await working(ask, ledger, { many: 4, milliseconds: 200, counters: [1] });
    }
    expect(ledger.statuses.get(503) ?? 0, 'refused for want of room').to.be.above(0);
    rmSync(filler);
    await server.start().catch(() => undefined);
    await server.isReady();
    await until('it stores again', async () => (await ledger.create(ask)) === 'done', 60_000);
    await working(ask, ledger, { many: 4, milliseconds: 1000, counters: [1] });
    expect(ledger.tally.done).to.be.above(before);
    await agreed(ledger, server.url);
    await kysely.destroy();
  });
});
