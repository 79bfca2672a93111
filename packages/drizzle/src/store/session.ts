import { is, type SQL } from 'drizzle-orm';
import { MySqlDatabase, MySqlTransaction } from 'drizzle-orm/mysql-core';
import { PgDatabase, PgTransaction } from 'drizzle-orm/pg-core';
import { BaseSQLiteDatabase, SQLiteTransaction } from 'drizzle-orm/sqlite-core';

/** What a statement gave. */
export interface Given {
  readonly rows: readonly unknown[];
  /** The number that was made for the first row, where the driver tells it. */
  readonly insertId?: bigint;
}

/** How a transaction is begun: at which level; null: at that of the database. */
export type Settings = { readonly isolationLevel: 'read committed' | 'serializable' } | null;

/** A connection of Drizzle's, whatever its database: a database, or a transaction of one. */
export interface Session {
  /** @param isRead whether the statement gives rows */
  execute(statement: SQL, isRead: boolean): Promise<Given>;
  /** Does work in a transaction; within one, in a part of it that can be undone alone. Null: the driver cannot wait within one. */
  readonly transaction:
    | ((work: (within: Session) => Promise<void>, settings: Settings) => Promise<void>)
    | null;
  /**
   * Whether several may use it at once. A transaction, and a driver that does not wait, are one connection: parts of it that
   * began at once would end each other.
   */
  readonly isShared: boolean;
}

/** Drivers for PostgreSQL give rows, or a result that has them. */
const rowsIn = (result: unknown): readonly unknown[] => {
  if (Array.isArray(result)) return result;
  const { rows } = result as { rows?: readonly unknown[] };
  return rows ?? [];
};

type AnyPostgres = PgDatabase<never, never, never>;

const postgresSession = (database: AnyPostgres): Session => ({
  execute: async (statement) => ({ rows: rowsIn(await database.execute(statement)) }),
  transaction: (work, settings) =>
    database.transaction(
      (within) => work(postgresSession(within as AnyPostgres)),
      // A part of one that is there is at the level of that.
      is(database, PgTransaction) ? undefined : (settings ?? undefined),
    ),
  isShared: !is(database, PgTransaction),
});

type AnyMysql = MySqlDatabase<never, never, never, never>;

/** What mysql2 tells of a statement that gives no rows. */
interface Header {
  readonly insertId?: number | string | bigint;
}

const mysqlSession = (database: AnyMysql): Session => ({
  execute: async (statement) => {
    const [result] = (await database.execute(statement)) as unknown as [readonly unknown[] | Header];
    if (Array.isArray(result)) return { rows: result };
    const { insertId } = result as Header;
    return { rows: [], ...(insertId === undefined ? {} : { insertId: BigInt(insertId) }) };
  },
  transaction: (work, settings) =>
    database.transaction(
      (within) => work(mysqlSession(within as unknown as AnyMysql)),
      is(database, MySqlTransaction) ? undefined : (settings ?? undefined),
    ),
  isShared: !is(database, MySqlTransaction),
});

type AnySqlite = BaseSQLiteDatabase<'sync' | 'async', unknown>;

/** Whether Drizzle's driver for it answers at once: its transactions then cannot wait for anything. */
const answersAtOnce = (database: AnySqlite): boolean =>
  (database as unknown as { resultKind?: unknown }).resultKind === 'sync';

const sqliteSession = (database: AnySqlite): Session => ({
  execute: async (statement, isRead) => {
    if (isRead) return { rows: await database.all(statement) };
    await database.run(statement);
    return { rows: [] };
  },
  transaction: answersAtOnce(database)
    ? null
    : async (work) => {
        const { transaction } = database as unknown as AsyncTransactions;
        await transaction.call(database, (within) => work(sqliteSession(within)));
      },
  isShared: !answersAtOnce(database) && !is(database, SQLiteTransaction),
});

/** Transactions of a driver that waits. */
interface AsyncTransactions {
  transaction(work: (within: AnySqlite) => Promise<void>): Promise<void>;
}

/** The kinds of databases that Drizzle has, by what Kysely calls them. */
export type Speaks = 'postgres' | 'mysql' | 'sqlite';

/** What is known of a database of Drizzle's; null where it is none of the three. */
export const sessionOf = (
  database: unknown,
): { readonly speaks: Speaks; readonly session: Session } | null => {
  if (is(database, PgDatabase))
    return { speaks: 'postgres', session: postgresSession(database as unknown as AnyPostgres) };
  if (is(database, MySqlDatabase))
    return { speaks: 'mysql', session: mysqlSession(database as unknown as AnyMysql) };
  if (is(database, BaseSQLiteDatabase))
    return { speaks: 'sqlite', session: sqliteSession(database as unknown as AnySqlite) };
  return null;
};
