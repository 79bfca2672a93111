import { Agent } from 'node:http';
import { serve } from '@gribo/http';
import { type AnyKysely, type PostgresDialectOptions, postgresDialect, sqlStore } from '@gribo/sql';
import { expect } from 'chai';
import { Kysely } from 'kysely';
import pg from 'pg';
import { stock } from '../../packages/gribo/src/testing/stock.js';
import { hasNginx } from '../../packages/http/src/testing/nginx.js';
import { freePort } from '../../packages/http/src/testing/ports.js';
import { startBalancer } from './testing/balancer.js';
import { working } from './testing/clients.js';
import { type Ask, asking, harbourOffice, Ledger } from './testing/ledger.js';
import { agreed, filled, openPool } from './testing/opened.js';
import { hasPooler, Pooler } from './testing/pooler.js';
import { hasPostgres, Postgres } from './testing/postgres.js';
import { pause, until } from './testing/processes.js';
import { Relay } from './testing/relay.js';
import { askingPort, ServedProcess } from './testing/served.js';

const SECONDS = Number(process.env['GRIBO_SECONDS'] ?? 1);

const open = (port: number, options: PostgresDialectOptions = {}): AnyKysely =>
  new Kysely<unknown>({ dialect: postgresDialect(openPool(port), options) });

const quiet = { error: () => undefined };

describe('PostgreSQL and a server that follows it', function () {
  this.timeout(SECONDS * 10_000 + 240_000);
  let first: Postgres;
  let second: Postgres;

  before(async function () {
    if (!hasPostgres()) return this.skip();
    const settings = { fsync: 'off', wal_level: 'replica', max_wal_senders: '5', hot_standby: 'on' };
    first = await Postgres.start({ settings });
    second = await Postgres.start({ follows: first, settings: { fsync: 'off' } });
    await filled(first.url);
    await first.ask("alter system set synchronous_standby_names = '*'");
    await first.ask('select pg_reload_conf()');
  });
  after(async () => {
    await first?.stop();
    await second?.stop();
  });

  it('are read by turns; what changes goes to the first, and its caller sees it at once', async () => {
    const [kysely, replica] = [open(first.port), open(second.port)];
    const [store, reads] = [sqlStore(stock, kysely), sqlStore(stock, replica)];
    let asked = 0;
    reads.listen(() => {
      asked += 1;
    });
    const ask = asking(serve(harbourOffice, { store, reads, log: quiet }));
    const named = async (name: string) => {
      await ask('PATCH', '/operators/1', { name });
      return JSON.parse((await ask('GET', '/operators/1')).text) as { name: string };
    };
    // Nobody is told apart here: whoever reads within some seconds of a change reads from the first.
    for (let i = 0; i < 20; i++) expect((await named(`Name ${i}`)).name).to.equal(`Name ${i}`);
    expect(asked).to.equal(0);
    const others = asking(serve(harbourOffice, { store, reads, readsOwn: 0, log: quiet }));
    await until('the second has it', async () =>
      (await others('GET', '/operators/1')).text.includes('Name 19'),
    );
    expect(asked).to.be.above(0);
    await Promise.all([kysely.destroy(), replica.destroy()]);
  });

  it('refuses changes where it only follows: 503, and nothing is changed', async () => {
    const kysely = open(second.port);
    const ask = asking(serve(harbourOffice, { store: sqlStore(stock, kysely), log: quiet }));
    const ledger = new Ledger();
    expect(await ledger.create(ask)).to.equal('undone');
    expect([...ledger.statuses]).to.deep.equal([[503, 1]]);
    await kysely.destroy();
  });

  it('takes the place of the first when that fails: what was acknowledged is there', async () => {
    const relay = await Relay.start(first.port);
    const kysely = open(relay.port);
    const ask = asking(
      serve(harbourOffice, { store: sqlStore(stock, kysely), log: quiet, limits: { answering: 5000 } }),
    );
    const ledger = new Ledger();
    const work = working(ask, ledger, { many: 6, milliseconds: SECONDS * 1000 + 4000, counters: [1, 2] });
    await pause(SECONDS * 500);
    relay.block(true);
    await first.kill();
    await second.ask("alter system set synchronous_standby_names = ''");
    await second.promote();
    await until(
      'it is promoted',
      async () => (await second.ask('select pg_is_in_recovery() as is'))[0]?.['is'] === false,
    );
    relay.leadTo(second.port);
    relay.block(false);
    await work;
    await agreed(ledger, second.url);
    expect(ledger.tally.done).to.be.above(0);
    expect((await ask('GET', '/operators/1')).status).to.equal(200);
    await kysely.destroy();
    await relay.stop();
  });
});

describe('a pooler that lends connections for one transaction', function () {
  this.timeout(SECONDS * 10_000 + 120_000);
  let server: Postgres;
  let pooler: Pooler;

  before(async function () {
    if (!hasPostgres() || !hasPooler()) return this.skip();
    server = await Postgres.start({ settings: { fsync: 'off' } });
    await filled(server.url);
    pooler = await Pooler.start(server.port, 3);
  });
  after(async () => {
    await pooler?.stop();
    await server?.stop();
  });

  it('serves many connections by few, with statements that are planned each time', async () => {
    const kyselys = [1, 2].map(() => open(pooler.port, { statements: 0 }));
    const asks = kyselys.map((kysely) =>
      asking(serve(harbourOffice, { store: sqlStore(stock, kysely), log: quiet })),
    );
    const ledger = new Ledger();
    await working(asks, ledger, { many: 12, milliseconds: SECONDS * 1000, counters: [1, 2, 4] });
    await agreed(ledger, server.url);
    expect([...ledger.statuses.keys()].sort()).to.deep.equal([200, 201, 412]);
    await Promise.all(kyselys.map((kysely) => kysely.destroy()));
  });

  it('passes on what is given up: a lock is not waited for any longer', async () => {
    const kysely = open(pooler.port, { statements: 0, lockTimeout: 20_000 });
    const ask = asking(
      serve(harbourOffice, { store: sqlStore(stock, kysely), log: quiet, limits: { answering: 400 } }),
    );
    expect((await ask('GET', '/operators/1')).status).to.equal(200);
    const holding = new pg.Client({ connectionString: server.url });
    await holding.connect();
    await holding.query('begin');
    await holding.query('select * from operator where id = 1 for update');
    const { status, text } = await ask('PATCH', '/operators/1', { name: 'Late' });
    expect([status, text.includes('nothing was changed')]).to.deep.equal([503, true]);
    await until(
      'nobody waits',
      async () => {
        const rows = await server.ask(
          "select count(*)::int as many from pg_stat_activity where wait_event_type = 'Lock'",
        );
        return rows[0]?.['many'] === 0;
      },
      3000,
    );
    await holding.end();
    await kysely.destroy();
  });
});

describe('several processes on one port', function () {
  this.timeout(SECONDS * 10_000 + 120_000);
  let server: Postgres;

  before(async function () {
    if (!hasPostgres()) return this.skip();
    server = await Postgres.start({ settings: { fsync: 'off' } });
    await filled(server.url);
  });
  after(() => server?.stop());

  const lost: string[] = [];
  const careful =
    (ask: Ask): Ask =>
    async (...given) => {
      try {
        return await ask(...given);
      } catch (error) {
        lost.push(String(error));
        throw error;
      }
    };

  it('are renewed one after the other while they work, and no request is lost', async () => {
    const service = await ServedProcess.start({ DATABASE: server.url, WORKERS: '2' });
    const ledger = new Ledger();
    const work = working(careful(service.ask), ledger, {
      many: 8,
      milliseconds: SECONDS * 1000 + 8000,
      counters: [1, 2, 4],
    });
    await pause(SECONDS * 300);
    await service.renewed();
    await work;
    await agreed(ledger, server.url);
    expect(lost, 'requests without an answer').to.deep.equal([]);
    expect(ledger.tally).to.include({ undone: 0, unknown: 0 });
    expect(await service.end()).to.equal(0);
  });

  it('answer what they were asked when they are told to end', async () => {
    const service = await ServedProcess.start({ DATABASE: server.url });
    await service.ask('GET', '/health');
    const sent = Array.from({ length: 60 }, (_, i) =>
      service.ask('GET', i % 2 === 0 ? '/operators' : '/vessels/1'),
    );
    const creating = Array.from({ length: 20 }, (_, i) =>
      service.ask('POST', '/operators', { name: `Last ${i}` }),
    );
    await Promise.race(sent);
    const ended = service.end();
    const answers = await Promise.all([...sent, ...creating]);
    expect(new Set(answers.map(({ status }) => status))).to.deep.equal(new Set([200, 201]));
    expect(await ended).to.equal(0);
  });

  it('are renewed behind a balancer, one after the other, and no request is lost', async function () {
    if (!hasNginx()) return this.skip();
    const ports = [await freePort(), await freePort()];
    const begin = (port: number) => ServedProcess.start({ DATABASE: server.url, PORT: String(port) });
    const services = await Promise.all(ports.map(begin));
    const balancer = await startBalancer(ports);
    const agent = new Agent({ keepAlive: true, maxSockets: 16 });
    const ledger = new Ledger();
    const own: string[] = [];
    const asked = askingPort(balancer.port, agent);
    const ask: Ask = (...given) =>
      asked(...given).catch((error: unknown) => {
        own.push(String(error));
        throw error;
      });
    const work = working(ask, ledger, {
      many: 8,
      milliseconds: SECONDS * 1000 + 12_000,
      counters: [1, 2, 4],
    });
    for (const [i, port] of ports.entries()) {
      await pause(1000);
      expect(await services[i]?.end()).to.equal(0);
      services[i] = await begin(port);
    }
    await work;
    await agreed(ledger, server.url);
    expect(own, 'requests without an answer').to.deep.equal([]);
    expect([...ledger.statuses.keys()].sort()).to.deep.equal([200, 201, 412]);
    agent.destroy();
    await balancer.close();
    await Promise.all(services.map((service) => service.end()));
  });
});
