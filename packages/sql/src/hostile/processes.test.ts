import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { expect } from 'chai';
import { stock } from '../../../gribo/src/testing/stock.js';
import { openDatabase } from '../open-database.js';
import { sqlStore } from '../store/sql-store.js';
import { databases, makeTables } from '../testing/databases.js';

const WRITER = fileURLToPath(new URL('../testing/sqlite-writer.ts', import.meta.url));
const run = promisify(execFile);

/** Rows that each process makes. */
const MANY = Number(process.env['GRIBO_ROUNDS'] ?? 40);

describe('several processes on one file (better-sqlite3 installed)', () => {
  const folder = mkdtempSync(join(tmpdir(), 'gribo-sqlite-'));
  const path = join(folder, 'shared.db');

  before(async function () {
    const there = await databases.find(({ name }) => name === 'SQLite')?.open();
    if (there === null || there === undefined) return this.skip();
    await there.destroy();
    writeFileSync(path, '');
    const kysely = await openDatabase(`sqlite:${path}`);
    await makeTables(kysely);
    await kysely.destroy();
  });
  after(() => rmSync(folder, { recursive: true, force: true }));

  it('get through with all they write, one after the other', async () => {
    const writing = ['A', 'B', 'C'].map(async (name) => {
      const { stdout } = await run(process.execPath, [...process.execArgv, WRITER, path, name, String(MANY)]);
      return JSON.parse(stdout) as string[];
    });
    expect((await Promise.all(writing)).flat()).to.deep.equal([]);
    const store = sqlStore(stock, await openDatabase(`sqlite:${path}`));
    expect([await store.count('operator'), await store.count('vessel')]).to.deep.equal([3 * MANY, 6 * MANY]);
    await store.close?.();
  });
});
