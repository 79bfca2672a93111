import { serve } from '@gribo/http';
import { type AnyKysely, openDatabase, sqlStore } from '@gribo/sql';
import { expect } from 'chai';
import { stock, stockRows } from '../../packages/gribo/src/testing/stock.js';
import { fillTables, makeTables } from '../../packages/sql/src/testing/databases.js';
import { working } from './testing/clients.js';
import { type GaleraNode, hasGalera, startCluster } from './testing/galera.js';
import { type Ask, asking, harbourOffice, Ledger } from './testing/ledger.js';
import { pause, until } from './testing/processes.js';

const SECONDS = Number(process.env['GRIBO_SECONDS'] ?? 1);

describe('three MariaDB nodes with Galera', function () {
  this.timeout(SECONDS * 10_000 + 300_000);
  let nodes: readonly GaleraNode[] = [];
  let opened: readonly AnyKysely[] = [];
  let asks: readonly Ask[] = [];

  before(async function () {
    if (!hasGalera()) return this.skip();
    nodes = await startCluster(3);
    opened = await Promise.all(nodes.map(({ url }) => openDatabase(url)));
    const [first] = opened;
    if (first === undefined) throw new Error('there is no node');
    await makeTables(first);
    await fillTables(first, stock, stockRows);
    asks = opened.map((kysely) => {
      const log = { error: () => undefined };
      const limits = { answering: 8000 };
      return asking(serve(harbourOffice, { store: sqlStore(stock, kysely, { closes: false }), log, limits }));
    });
  });
  after(async () => {
    await Promise.all(opened.map((kysely) => kysely.destroy().catch(() => undefined)));
    await Promise.all(nodes.map((node) => node.stop()));
  });

  /** What clients were told is so on each node that is there. */
  const checked = async (ledger: Ledger, those: readonly number[]): Promise<void> => {
    for (const i of those) {
      const kysely = opened[i];
      if (kysely === undefined) throw new Error('there is no such node');
      // What others have stored is there when the node has taken it over.
      await until('the nodes agree', async () => (await ledger.wrong(kysely)).length === 0, 10_000).catch(
        async () => expect(await ledger.wrong(kysely), `node ${i + 1}`).to.deep.equal([]),
      );
    }
    expect(ledger.failures, 'told as our mistakes').to.deep.equal([]);
    console.log(`      ${JSON.stringify(ledger.tally)}, statuses ${JSON.stringify([...ledger.statuses])}`);
  };

  it('take changes of the same rows, each of them: what does not fit is done again, and nothing is lost', async () => {
    const ledger = new Ledger();
    const requests = await working(asks, ledger, {
      many: 9,
      milliseconds: SECONDS * 1000,
      counters: [1, 2],
    });
    await checked(ledger, [0, 1, 2]);
    // Each of them at the same moment, whatever the others know.
    const told: number[] = [];
    for (let round = 0; round < 60; round++) {
      const sent = asks.map((ask, i) => ask('PATCH', '/vessels/5', { name: `Round ${round}.${i}` }));
      told.push(...(await Promise.all(sent)).map(({ status }) => status));
    }
    expect(new Set(told)).to.deep.equal(new Set([200]));
    const names = "'wsrep_local_cert_failures', 'wsrep_local_bf_aborts'";
    const counts = await Promise.all(
      nodes.map((node) => node.ask(`show status where variable_name in (${names})`)),
    );
    const conflicts = counts.flat().reduce((sum, row) => sum + Number(row['Value']), 0);
    console.log(`      ${requests} requests, ${conflicts} changes that did not fit those of another node`);
    expect(conflicts).to.be.above(0);
    expect(ledger.tally.done).to.be.above(requests / 3);
  });

  it('lose one of them, and nothing that was acknowledged', async () => {
    const ledger = new Ledger();
    const work = working(asks, ledger, { many: 9, milliseconds: SECONDS * 1500, counters: [3, 4] });
    await pause(SECONDS * 500);
    await nodes[2]?.kill();
    await work;
    await checked(ledger, [0, 1]);
    expect(ledger.tally.done).to.be.above(0);
  });

  it('take it back, with all that it has missed', async () => {
    await nodes[2]?.start(false);
    const ledger = new Ledger();
    await working(asks, ledger, { many: 9, milliseconds: SECONDS * 500, counters: [5] });
    await checked(ledger, [0, 1, 2]);
  });
});
