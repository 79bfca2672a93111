import { expect } from 'chai';
import { working } from './testing/clients.js';
import { Ledger } from './testing/ledger.js';
import { agreed, filled } from './testing/opened.js';
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
    await filled(server.url);
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
    await agreed(ledger, server.url);
    console.log(`      ${requests} requests`);
    console.log(
      `      heap ${megabytes(first.heap)} → ${megabytes(last.heap)}, resident ${megabytes(first.rss)} → ${megabytes(last.rss)}, handles ${first.handles} → ${last.handles}, event loop p99 ${last.p99.toFixed(1)} ms`,
    );
    expect(last.heap).to.be.below(first.heap * 1.3 + 5_000_000);
    expect(last.handles).to.be.at.most(first.handles + 2);
  });
});
