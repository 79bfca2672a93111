import { stock } from '../../gribo/src/testing/stock.js';
import { describeStore } from '../../gribo/src/testing/store-suite.js';
import type { AnyKysely } from './any-kysely.js';
import { sqlStore } from './sql-store.js';
import { databases, fillTables, makeTables } from './testing/databases.js';

for (const { name, variable, open } of databases) {
  describe(`sqlStore on ${name}${variable === null ? '' : ` (${variable})`}`, function () {
    this.timeout(60_000);
    let kysely: AnyKysely | null = null;

    before(async function () {
      kysely = await open();
      if (kysely === null) return this.skip();
      await makeTables(kysely);
    });
    after(() => kysely?.destroy());

    describeStore(name, async (rows) => {
      if (kysely === null) throw new Error('the database was not opened');
      await fillTables(kysely, stock, rows);
      return sqlStore(stock, kysely, { batch: 2 });
    });

    if (name.includes('PostgreSQL')) {
      describeStore(`${name}, in single statements`, async (rows) => {
        if (kysely === null) throw new Error('the database was not opened');
        await fillTables(kysely, stock, rows);
        return sqlStore(stock, kysely, { strategy: 'single' });
      });
    }
  });
}
