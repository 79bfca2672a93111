import { expect } from 'chai';
import { Kysely } from 'kysely';
import { describeRules } from '../../../gribo/src/testing/rules-suite.js';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { describeStore } from '../../../gribo/src/testing/store-suite.js';
import { fillTables, makeTables } from '../../../sql/src/testing/databases.js';
import { drizzles, type Opened } from '../testing/drizzles.js';
import { drizzleDialect } from './drizzle-dialect.js';
import { drizzleStore } from './drizzle-store.js';
import { sessionOf } from './session.js';

for (const { name, variable, speaks, open } of drizzles) {
  describe(`drizzleStore on ${name}${variable === null ? '' : ` (${variable})`}`, () => {
    let opened: Opened | null = null;
    const there = (): Opened => {
      if (opened === null) throw new Error('the database was not opened');
      return opened;
    };
    const kysely = (): Kysely<unknown> => {
      const known = sessionOf(there().database);
      if (known === null) throw new Error('no database of Drizzle');
      return new Kysely({ dialect: drizzleDialect(known.session, known.speaks) });
    };

    before(async function () {
      opened = await open();
      if (opened === null) return this.skip();
      await makeTables(kysely());
    });
    after(() => opened?.close());

    describeStore(name, async (rows) => {
      await fillTables(kysely(), stock, rows);
      return drizzleStore(stock, there().database, { batch: 2 });
    });
    describeRules(name, async (rows) => {
      await fillTables(kysely(), stock, rows);
      return drizzleStore(stock, there().database);
    });

    it('is what the driver said that is told of a statement that fails, without a value', async () => {
      await fillTables(kysely(), stock, stockRows);
      const store = drizzleStore(stock, there().database);
      const refused = await store.create('operator', { name: 'Ostwick' }).then(
        () => null,
        (error: unknown) => error as Error & { code: string; path: string },
      );
      expect([refused?.code, refused?.path]).to.deep.equal(['CONFLICT', 'operator.name']);
      for (let error: unknown = refused; error instanceof Error; error = error.cause)
        expect(error.message).to.not.contain('Ostwick');
    });

    it(`speaks as ${speaks} does`, () => {
      expect(sessionOf(there().database)?.speaks).to.equal(speaks);
    });
  });
}
