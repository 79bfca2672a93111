import { openDatabase } from '@gribo/sql';
import { expect } from 'chai';
import { stock, stockRows } from '../../packages/gribo/src/testing/stock.js';
import { fillTables, makeTables } from '../../packages/sql/src/testing/databases.js';
import { working } from './testing/clients.js';
import { Ledger } from './testing/ledger.js';
import { hasPostgres, Postgres } from './testing/postgres.js';
import { pause } from './testing/processes.js';
import { ServedProcess } from './testing/served.js';

/** Minutes that it takes: half an hour by hand, GRIBO_MINUTES=30. */
const MINUTES = Number(process.env['GRIBO_MINUTES'] ?? 0.2);

const megabytes = (bytes: number): string => `${(bytes / 1_048_576).toFixed(1)} MB`;

describe('a service at work for long', function () {
  this.timeout(MINUTES * 60_000 + 120_000);
  let server: Postgres;
  let service: ServedProcess;

  before(async function () {
    if (!hasPostgres()) return this.skip();
    server = await Postgres.start({ settings: { fsync: 'off' } });
    const kysely = await openDatabase(server.url);
    await makeTables(kysely);
    await fillTables(kysely, stock, stockRows);
    await kysely.destroy();
    service = await ServedProcess.start({ DATABASE: server.url });
  });
  after(async () => {
    await service?.end();
    await server?.stop();
  });

  it('stores what it says, loses nothing, and grows no more than it has to', async () => {
    const ledger = new Ledger();
    const work = { many: 6, counters: [1, 2, 4, 5] };
    // What is made once is made by then.
    await working(service.ask, ledger, { ...work, milliseconds: Math.min(20_000, MINUTES * 12_000) });
    await pause(500);
    const first = await service.measured();
    const requests = await working(service.ask, ledger, { ...work, milliseconds: MINUTES * 60_000 });
    await pause(6000);
    const last = await service.measured();
    const kysely = await openDatabase(server.url);
    const wrong = await ledger.wrong(kysely);
    await kysely.destroy();
    console.log(
      `      ${requests} requests, ${JSON.stringify(ledger.tally)}, statuses ${JSON.stringify([...ledger.statuses])}`,
    );
    console.log(
      `      heap ${megabytes(first.heap)} → ${megabytes(last.heap)}, resident ${megabytes(first.rss)} → ${megabytes(last.rss)}, handles ${first.handles} → ${last.handles}, event loop p99 ${last.p99.toFixed(1)} ms`,
    );
    expect(wrong).to.deep.equal([]);
    expect(ledger.failures).to.deep.equal([]);
    expect(last.heap).to.be.below(first.heap * 1.3 + 5_000_000);
    expect(last.handles).to.be.at.most(first.handles + 2);
  });
});
