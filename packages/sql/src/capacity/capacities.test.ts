import { expect } from 'chai';
import {
  type AnyColumn,
  bigint,
  bytes,
  date,
  decimal,
  entity,
  integer,
  json,
  model,
  oneOf,
  real,
  text,
  time,
  timestamp,
} from 'gribo';
import { sql } from 'kysely';
import { dialectOf } from '../dialects/dialects.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { sqlStore } from '../store/sql-store.js';
import { databases } from '../testing/databases.js';

/** A column of a database, with a value that it just holds and one that is more than it holds. */
type Case = readonly [type: string, column: AnyColumn, held: unknown, tooMuch: unknown];

const long = (length: number): string => 'ü'.repeat(length);
const many = (length: number): Uint8Array => new Uint8Array(length).fill(7);

const CASES: Readonly<Record<string, readonly Case[]>> = {
  postgres: [
    ['smallint', integer(), 32_767, 32_768],
    ['integer', integer(), -2_147_483_648, -2_147_483_649],
    ['bigint', bigint(), 2n ** 63n - 1n, 2n ** 63n],
    ['numeric(5, 2)', decimal(9, 2), '999.99', '1000.00'],
    ['real', real(), 3e38, 1e39],
    ['varchar(3)', text(), long(3), long(4)],
    ['char(3)', text(), 'abc', 'abcd'],
    ['text', text(), long(5000), 'a\u0000b'],
    ['date', date(), '0001-01-01', '0000-12-31'],
    ['time(2)', time(), '23:59:59.99', '23:59:59.999'],
    ['timestamptz', timestamp(), new Date('0001-01-01T00:00:00Z'), new Date('0000-12-31T00:00:00Z')],
    ['jsonb', json<unknown>(), 'x', 'a\u0000b'],
  ],
  mysql: [
    ['tinyint', integer(), 127, 128],
    ['tinyint unsigned', integer(), 255, -1],
    ['smallint', integer(), 32_767, 32_768],
    ['mediumint', integer(), 8_388_607, 8_388_608],
    ['integer', integer(), -2_147_483_648, -2_147_483_649],
    ['bigint', bigint(), 2n ** 63n - 1n, 2n ** 63n],
    ['bigint unsigned', bigint(), 2n ** 64n - 1n, -1n],
    ['decimal(5, 2)', decimal(9, 2), '999.99', '1000.00'],
    ['float', real(), 3e38, 1e39],
    ['varchar(3) character set utf8mb4', text(), '潮😀ü', 'abcd'],
    ['varchar(3) character set utf8mb3', text(), '潮aü', '😀'],
    ['varchar(3) character set latin1', text(), 'üé€', '潮'],
    ['varchar(3) character set ascii', text(), 'abc', 'ü'],
    ['char(3)', text(), 'abc', 'abcd'],
    ['tinytext character set utf8mb4', text(), long(127), long(128)],
    ['text character set utf8mb4', text(), long(32_767), long(32_768)],
    ['binary(3)', bytes(), many(3), many(4)],
    ['varbinary(3)', bytes(), many(3), many(4)],
    ['tinyblob', bytes(), many(255), many(256)],
    ['blob', bytes(), many(65_535), many(65_536)],
    ["enum('a', 'b')", oneOf('a', 'b', 'c'), 'b', 'c'],
    ['date', date(), '0001-01-01', '0000-12-31'],
    ['time(2)', time(), '23:59:59.99', '23:59:59.999'],
    ['datetime', timestamp(), new Date('0001-01-01T00:00:00Z'), new Date('0000-12-31T00:00:00Z')],
    ['timestamp', timestamp(), new Date('2038-01-17T00:00:00Z'), new Date('2039-01-01T00:00:00Z')],
  ],
  sqlite: [
    ['integer', bigint(), 2n ** 63n - 1n, 2n ** 63n],
    ['numeric(20, 4)', decimal(20, 4), '-12345678901.2345', '-12345678901.23456'],
    ['text', decimal(20, 4), '1234567890123456.7891', null],
  ],
};

for (const { name, variable, open } of databases) {
  describe(`what columns of ${name} hold${variable === null ? '' : ` (${variable})`}`, () => {
    let kysely: AnyKysely | null = null;
    before(async function () {
      kysely = await open();
      if (kysely === null) this.skip();
    });
    after(async () => kysely?.destroy());

    it('is known: a value that is more is a conflict, and no statement is sent for it', async () => {
      if (kysely === null) return;
      for (const [type, column, held, tooMuch] of CASES[dialectOf(kysely).name] ?? []) {
        await sql`drop table if exists held`.execute(kysely);
        await sql`create table held (id integer primary key, value ${sql.raw(type)})`.execute(kysely);
        const db = model({ held: entity('held', { id: integer().key(), value: column }) }, {});
        const statements: string[] = [];
        const store = sqlStore(db, kysely, { log: ({ sql: said }) => statements.push(said), closes: false });
        expect(await store.create('held', { id: 1, value: held }), type).to.deep.equal([1]);
        if (tooMuch === null) continue;
        statements.length = 0;
        const refused = await store
          .create('held', { id: 2, value: tooMuch })
          .catch((error: unknown) => error);
        expect(refused, type).to.include({ code: 'CONFLICT', reason: 'value' });
        expect(refused, type).to.have.deep.property('columns', ['value']);
        expect(
          statements.filter((said) => said.startsWith('insert')),
          type,
        ).to.deep.equal([]);
      }
      await sql`drop table held`.execute(kysely);
    });
  });
}
