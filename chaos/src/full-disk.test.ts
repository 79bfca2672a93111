import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { working } from './testing/clients.js';
import { Ledger } from './testing/ledger.js';
import { agreed, filled, opened } from './testing/opened.js';
import { hasPostgres, Postgres } from './testing/postgres.js';
import { folderFor, ran, until, userNamed } from './testing/processes.js';

describe('PostgreSQL on a disk that is full', () => {
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
    await filled(server.url);
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
    for (let i = 0; i < 400 && (ledger.statuses.get(503) ?? 0) < 5; i++) {
      await server
        .ask(`insert into pilot (name) select repeat('x', 40) from generate_series(1, 20000)`)
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
