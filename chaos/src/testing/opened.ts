import { answerColumns, serve } from '@gribo/http';
import { type AnyKysely, answerTable, openDatabase, postgresDialect, sqlStore } from '@gribo/sql';
import { expect } from 'chai';
import { entity, model } from 'gribo';
import { CompiledQuery, Kysely } from 'kysely';
import pg from 'pg';
import { stock, stockRows } from '../../../packages/gribo/src/testing/stock.js';
import { fillTables, makeTables } from '../../../packages/sql/src/testing/databases.js';
import { type Ask, asking, harbourOffice, type Ledger } from './ledger.js';

/** The same rows, and answers that are kept. */
const kept = model({ keptAnswer: entity('keptAnswer', answerColumns(), { stored: 'kept_answer' }) }, {});

/** A service on a server that is in trouble: how it is asked, its connections, and the causes that its log is told. */
export interface Opened {
  readonly pool: pg.Pool;
  readonly kysely: AnyKysely;
  readonly ask: Ask;
  readonly causes: readonly string[];
}

/** Connections to a server of PostgreSQL, or to what is in front of it. */
export const openPool = (port: number): pg.Pool => {
  const connectionString = `postgres://postgres@127.0.0.1:${port}/postgres`;
  return new pg.Pool({ connectionString, max: 10, connectionTimeoutMillis: 3000 });
};

export const opened = (port: number): Opened => {
  const pool = openPool(port);
  const kysely = new Kysely<unknown>({ dialect: postgresDialect(pool) });
  const causes: string[] = [];
  const log = {
    error: (about: object, message: string) =>
      void causes.push((about as { err?: Error }).err?.message ?? message),
  };
  const handle = serve(harbourOffice, {
    store: sqlStore({ ...stock, ...kept }, kysely),
    repeats: kept.keptAnswer,
    log,
    limits: { answering: 4000, ending: 1000 },
  });
  return { pool, kysely, ask: asking(handle), causes };
};

/** Makes the tables of the ledger on a server. */
export const filled = async (url: string): Promise<void> => {
  const kysely = await openDatabase(url);
  await makeTables(kysely);
  await fillTables(kysely, stock, stockRows);
  for (const statement of answerTable('postgres')) await kysely.executeQuery(CompiledQuery.raw(statement));
  await kysely.destroy();
};

/** What is stored is what was told, and nothing was told as a mistake of ours. */
export const agreed = async (ledger: Ledger, url: string): Promise<void> => {
  console.log(`      ${JSON.stringify(ledger.tally)}, statuses ${JSON.stringify([...ledger.statuses])}`);
  const own = await openDatabase(url);
  expect(await ledger.wrong(own)).to.deep.equal([]);
  await own.destroy();
  expect(ledger.failures, 'told as our mistakes').to.deep.equal([]);
};
