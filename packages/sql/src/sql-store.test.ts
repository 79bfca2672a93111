import { expect } from 'chai';
import { loadPlan, type RowQuery, shape, some } from 'gribo';
import { sql } from 'kysely';
import { stock, stockRows } from '../../gribo/src/testing/stock.js';
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

    it('loads no more rows behind a link than its selection takes', async () => {
      if (kysely === null) throw new Error('the database was not opened');
      await fillTables(kysely, stock, stockRows);
      const CallLine = shape(stock.portCall, ({ id }) => ({ id }));
      const Last = shape(stock.vessel, (v) => ({
        calls: CallLine(some(v.portCalls, { sort: ['eta desc'], limit: 2 })),
      }));
      const rows = (await sqlStore(stock, kysely).list(loadPlan(Last))) as { portCalls: object[] }[];
      expect(rows.map(({ portCalls }) => portCalls.length)).to.deep.equal([2, 1, 0, 0, 0]);
    });

    it('looks at nothing of a row that it changes but its key and where its links start', async () => {
      if (kysely === null) throw new Error('the database was not opened');
      await fillTables(kysely, stock, stockRows);
      const statements: string[] = [];
      const store = sqlStore(stock, kysely, { log: ({ sql: text }) => statements.push(text) });
      await store.amend('vessel', [1], { name: 'Renamed' });
      const looking = statements.find((text) => text.startsWith('select')) ?? '';
      expect(looking)
        .to.contain('operator_id')
        .and.not.match(/details|photo|call_sign/);
    });

    it('pages by moments that are stored more exactly than they are known', async () => {
      if (kysely === null) throw new Error('the database was not opened');
      await fillTables(kysely, stock, stockRows);
      if (!name.includes('SQLite')) {
        for (const [id, micro] of [
          [1, 900],
          [2, 100],
          [3, 500],
          [4, 300],
        ]) {
          const moment = `2026-01-01 00:00:00.123${micro}`;
          await sql`update vessel set surveyed_at = ${moment} where id = ${id}`.execute(kysely);
        }
      }
      const store = sqlStore(stock, kysely);
      const Seen = shape(stock.vessel, ({ id, surveyedAt }) => ({ id, surveyedAt }));
      const column = stock.vessel.entity.columns.find((candidate) => candidate.name === 'surveyedAt');
      if (column === undefined) throw new Error('there is no such column');
      const query: RowQuery = { sort: [{ column, descending: false }], limit: 1 };
      const seen: number[] = [];
      let after: readonly unknown[] | undefined;
      for (let i = 0; i < 9; i++) {
        const [row] = (await store.list(
          loadPlan(Seen),
          after === undefined ? query : { ...query, after },
        )) as {
          id: number;
          surveyedAt: Date | null;
        }[];
        if (row === undefined) break;
        seen.push(row.id);
        after = [row.surveyedAt, row.id];
      }
      expect(seen).to.deep.equal(name.includes('SQLite') ? [3, 1, 2, 4, 5] : [1, 2, 3, 4, 5]);
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
