import { expect } from 'chai';
import type pg from 'pg';
import { working } from './testing/clients.js';
import { Ledger } from './testing/ledger.js';
import { agreed, filled, opened } from './testing/opened.js';
import { hasPostgres, Postgres } from './testing/postgres.js';
import { pause, until } from './testing/processes.js';
import { Relay } from './testing/relay.js';

/** Seconds of each kind of trouble: more of them by hand, GRIBO_SECONDS=120. */
const SECONDS = Number(process.env['GRIBO_SECONDS'] ?? 1);

describe('PostgreSQL in trouble', function () {
  this.timeout(SECONDS * 20_000 + 120_000);
  let server: Postgres;

  before(async function () {
    if (!hasPostgres()) return this.skip();
    server = await Postgres.start({ settings: { fsync: 'off' } });
    await filled(server.url);
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
      { many: 8, milliseconds: SECONDS * 1000, counters: [1, 2, 3], enough: () => killed > 10 },
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
    const start = performance.now();
    const told = await ledger.create(ask);
    const took = performance.now() - start;
    process.kill(pid, 'SIGCONT');
    // Whether it had begun is a matter of which statement met the process.
    expect([told === 'done', took < 20_000]).to.deep.equal([false, true]);
    await pause(500);
    await working(ask, ledger, { many: 4, milliseconds: 1000, counters: [] });
    await checked(ledger, pool);
    await kysely.destroy();
  });

  it('that is killed and comes again', async () => {
    const { pool, kysely, ask } = opened(server.port);
    const ledger = new Ledger();
    let crashes = 0;
    const work = {
      many: 8,
      milliseconds: SECONDS * 1000,
      counters: [1],
      enough: () => crashes > 0 && ledger.tally.done > 0,
    };
    await working(ask, ledger, work, async () => {
      await pause(1500);
      await server.kill();
      await pause(300);
      await server.start();
      crashes += 1;
    });
    await server.isReady();
    await checked(ledger, pool);
    console.log(`      ${crashes} crashes`);
    expect([crashes > 0, ledger.tally.done > 0]).to.deep.equal([true, true]);
    await kysely.destroy();
  });
});
