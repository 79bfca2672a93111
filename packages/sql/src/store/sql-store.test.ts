import { expect } from 'chai';
import { loadPlan, shape, some } from 'gribo';
import { ordering, type RowQuery } from 'gribo/kit';
import { sql } from 'kysely';
import { describeRules } from '../../../gribo/src/testing/rules-suite.js';
import { callId, stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { describeStore } from '../../../gribo/src/testing/store-suite.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { copyPool, databases, fillTables, makeTables } from '../testing/databases.js';
import { sqlStore } from './sql-store.js';

for (const { name, variable, open } of databases) {
  describe(`sqlStore on ${name}${variable === null ? '' : ` (${variable})`}`, () => {
    let kysely: AnyKysely | null = null;
    const copy = copyPool(name);

    before(async function () {
      kysely = await open();
      if (kysely === null) return this.skip();
      await makeTables(kysely);
    });
    after(async () => {
      await kysely?.destroy();
      await copy?.end();
    });

    describeStore(name, async (rows) => {
      if (kysely === null) throw new Error('the database was not opened');
      await fillTables(kysely, stock, rows);
      return sqlStore(stock, kysely, { batch: 2 });
    });

    describeRules(name, async (rows) => {
      if (kysely === null) throw new Error('the database was not opened');
      await fillTables(kysely, stock, rows);
      return sqlStore(stock, kysely);
    });

    if (copy !== null) {
      describeStore(`${name}, by COPY`, async (rows) => {
        if (kysely === null) throw new Error('the database was not opened');
        await fillTables(kysely, stock, rows);
        return sqlStore(stock, kysely, { batch: 1, copy });
      });

      describeRules(`${name}, by COPY`, async (rows) => {
        if (kysely === null) throw new Error('the database was not opened');
        await fillTables(kysely, stock, rows);
        return sqlStore(stock, kysely, { batch: 1, copy });
      });
    }

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

    it('looks at nothing of a row that it changes but its key and what links start from', async () => {
      if (kysely === null) throw new Error('the database was not opened');
      await fillTables(kysely, stock, stockRows);
      const statements: string[] = [];
      const store = sqlStore(stock, kysely, { log: ({ sql: text }) => statements.push(text) });
      await store.amend('vessel', [1], { name: 'Renamed' });
      const looking = statements.find((text) => text.startsWith('select')) ?? '';
      expect(looking)
        .to.match(/\bid\b/)
        .and.not.match(/details|photo|call_sign|operator_id/);
      await store.amend('vessel', [1], { operator: { name: 'Renamed' } });
      expect(statements.filter((text) => text.startsWith('select')).at(1)).to.contain('operator_id');
    });

    it('takes one statement for each entity and level, however many rows are nested', async () => {
      if (kysely === null) throw new Error('the database was not opened');
      await fillTables(kysely, stock, stockRows);
      const statements: string[] = [];
      const store = sqlStore(stock, kysely, { log: ({ sql: text }) => statements.push(text) });
      const portCalls = (i: number): object[] =>
        [0, 1, 2].map((n) => ({
          id: callId(500 + i * 3 + n),
          eta: new Date(),
          status: 'announced',
          pilots: [{ id: 1 }, { name: `P${i}/${n}` }],
        }));
      const vessels = Array.from({ length: 40 }, (_, i) => ({
        ...stockRows['vessel']?.[0],
        id: undefined,
        operatorId: undefined,
        portCalls: portCalls(i),
      }));
      await store.create('operator', { name: 'Many', vessels });
      const inserts = statements.filter((text) => text.startsWith('insert'));
      expect(inserts.map((text) => /insert into .(\w+)/.exec(text)?.[1])).to.deep.equal([
        'operator',
        'vessel',
        'port_call',
        'pilot',
        'pilotage',
      ]);
      expect(await store.count('pilotage')).to.equal(3 + 240);
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
      const query: RowQuery = { sort: [ordering(column)], limit: 1 };
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
