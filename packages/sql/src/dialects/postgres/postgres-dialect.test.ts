import { expect } from 'chai';
import { CompiledQuery, Kysely } from 'kysely';
import pg from 'pg';
import { PLACE } from '../../testing/databases.js';
import { postgresDialect } from './postgres-dialect.js';
import { StatementNames } from './statement-names.js';

const url = process.env['GRIBO_POSTGRES'];

describe('the names of statements that are prepared', () => {
  it('are given to what comes again, to no more than so many, and never twice', () => {
    const names = new StatementNames(2);
    expect(
      ['select 1', 'begin', 'select 1', 'begin', 'select 1'].map((text) => names.of(text)),
    ).to.deep.equal([null, null, 'gribo_0', null, 'gribo_0']);
    expect([
      names.of('with a as (select 1) select 2'),
      names.of('with a as (select 1) select 2'),
    ]).to.deep.equal([null, 'gribo_1']);
    expect([names.of('select 2'), names.of('select 2')]).to.deep.equal([null, null]);
    names.forget('select 1');
    expect([names.of('select 1'), names.of('select 1')]).to.deep.equal([null, 'gribo_2']);
  });

  it('are given to texts that come once without end, and none of them is remembered for good', () => {
    const names = new StatementNames(10);
    for (let i = 0; i < 5000; i++) expect(names.of(`select ${i}`)).to.equal(null);
    expect(names.of('select 4999')).to.equal('gribo_0');
    expect(names.of('select 0')).to.equal(null);
  });
});

describe('a pool whose connections prepare statements (GRIBO_POSTGRES)', () => {
  let kysely: Kysely<unknown>;
  const run = async (text: string, parameters: unknown[] = [], on = kysely): Promise<readonly object[]> =>
    (await on.executeQuery(CompiledQuery.raw(text, parameters))).rows as object[];
  const prepared = async (): Promise<readonly unknown[]> =>
    (await run("select statement from pg_prepared_statements where name like 'gribo_%'", [])).map(
      (row) => (row as { statement: string }).statement,
    );

  before(async function () {
    if (url === undefined) return this.skip();
    const pool = new pg.Pool({ connectionString: url, max: 1, options: `-c search_path=${PLACE}_names` });
    await pool.query(`drop schema if exists ${PLACE}_names cascade`);
    await pool.query(`create schema ${PLACE}_names`);
    await pool.query('create table thing (id integer primary key, name text not null)');
    kysely = new Kysely({ dialect: postgresDialect(pool, { statements: 3 }) });
  });

  after(async () => {
    if (url === undefined) return;
    await run(`drop schema ${PLACE}_names cascade`);
    await kysely.destroy();
  });

  /** A statement on another connection, of which the pool knows nothing. */
  const elsewhere = async (text: string): Promise<void> => {
    const client = new pg.Client({ connectionString: url, options: `-c search_path=${PLACE}_names` });
    await client.connect();
    await client.query(text);
    await client.end();
  };

  const LOOK = 'select * from thing where id = $1';

  it('keeps what comes again, and gives what it gave before', async () => {
    for (const id of [1, 2, 3]) await run('insert into thing values ($1, $2)', [id, `name ${id}`]);
    for (const id of [1, 2, 3]) expect(await run(LOOK, [id])).to.deep.equal([{ id, name: `name ${id}` }]);
    expect(await prepared()).to.deep.equal([LOOK]);
  });

  it('goes on where a table was altered', async () => {
    await elsewhere('alter table thing add column more integer');
    expect(await run(LOOK, [1])).to.deep.equal([{ id: 1, name: 'name 1', more: null }]);
  });

  it('takes what a column can hold since it was altered', async () => {
    for (let i = 0; i < 3; i++) await run('select name from thing where id = $1', [1]);
    await elsewhere('alter table thing alter column id type bigint');
    expect(await run('select name from thing where id = $1', [2 ** 40])).to.deep.equal([]);
    await elsewhere('drop table thing');
    await elsewhere('create table thing (id text primary key, name text not null)');
    expect(await run('select name from thing where id = $1', ['x'])).to.deep.equal([]);
    await elsewhere('drop table thing');
    await elsewhere('create table thing (id integer primary key, name text not null, more integer)');
    await run("insert into thing values (1, 'name 1')");
  });

  it('compares as a column does since it was altered by the pool itself, which no failure would tell', async () => {
    await run('create table measured (value real not null)');
    const above = () => run('select 1 as one from measured where value > $1', [0.00001]);
    for (let i = 0; i < 3; i++) await above();
    await run('alter table measured alter column value type double precision');
    await run('insert into measured values (0.00001)');
    expect(await above()).to.deep.equal([]);
    await run('drop table measured');
  });

  it('fails within a transaction as that must, and not the next time', async () => {
    for (let i = 0; i < 3; i++) await run(LOOK, [1]);
    const failed = await kysely
      .transaction()
      .execute(async (within) => {
        await elsewhere('alter table thing drop column more');
        return await run(LOOK, [1], within as typeof kysely);
      })
      .then(
        () => 'read',
        ({ code }: { code: string }) => code,
      );
    expect(failed).to.equal('0A000');
    expect(await run(LOOK, [1])).to.deep.equal([{ id: 1, name: 'name 1' }]);
  });

  it('tells every other failure as it was told', async () => {
    const twice = (): Promise<unknown> => run('insert into thing values ($1, $2)', [1, 'x']);
    for (let i = 0; i < 3; i++)
      expect(
        await twice().then(
          () => 'stored',
          ({ code }: { code: string }) => code,
        ),
      ).to.equal('23505');
  });

  it('stops where the server has forgotten: its connections may be handed around', async () => {
    for (let i = 0; i < 3; i++) await run(LOOK, [1]);
    expect(await prepared()).to.not.deep.equal([]);
    await run('deallocate all');
    for (let i = 0; i < 3; i++) expect(await run(LOOK, [1])).to.have.length(1);
    expect(await prepared()).to.deep.equal([]);
  });
});
