import { expect } from 'chai';
import { PgDialect } from 'drizzle-orm/pg-core';
import { SQLiteSyncDialect } from 'drizzle-orm/sqlite-core';
import { givesRows, statementOf } from './statement.js';

const onPostgres = new PgDialect();
const onSqlite = new SQLiteSyncDialect();

describe('a statement of Drizzle', () => {
  it('has each parameter in its place, and none that is quoted', () => {
    const text = `select "a$1", '$2 it''s', $2 from "b""$1" where c = $1`;
    expect(onPostgres.sqlToQuery(statementOf(text, ['x', 'y'], true))).to.deep.include({
      sql: `select "a$1", '$2 it''s', $1 from "b""$1" where c = $2`,
      params: ['y', 'x'],
    });
    const other = 'select `a?`, "b?", \'c?\', ? from d where e = ?';
    expect(onSqlite.sqlToQuery(statementOf(other, [1, null], false))).to.deep.include({
      sql: other,
      params: [1, null],
    });
  });

  it('gives rows where it reads or returns, whatever its columns are called', () => {
    for (const text of [
      'select 1',
      ' with a as (select 1) select * from a',
      'insert into a (b) values (1) returning c',
    ])
      expect(givesRows(text), text).to.equal(true);
    for (const text of [
      'insert into "a" ("returning") values (?)',
      "update a set b = 'returning'",
      'delete from `returning`',
      'savepoint gribo',
    ])
      expect(givesRows(text), text).to.equal(false);
  });
});
