import { PGlite } from '@electric-sql/pglite';
import { sql } from 'drizzle-orm';
import { drizzle as onMysql } from 'drizzle-orm/mysql2';
import { drizzle as onPostgres } from 'drizzle-orm/node-postgres';
import { drizzle as onPglite } from 'drizzle-orm/pglite';
import { drizzle as onProxy } from 'drizzle-orm/sqlite-proxy';
import { createPool } from 'mysql2/promise';
import pg from 'pg';
import { PLACE } from '../../../sql/src/testing/databases.js';
import type { AnyDrizzle } from '../store/drizzle-store.js';

/** A database that Drizzle has opened, and what closes it. */
export interface Opened {
  readonly database: AnyDrizzle;
  /** Runs a statement as it is. */
  run(statement: string): Promise<void>;
  close(): Promise<void>;
}

/** A database to be tested on; `open` gives null where it is not there. */
export interface Tested {
  readonly name: string;
  /** The environment variable that names a server; null where none is needed. */
  readonly variable: string | null;
  readonly speaks: 'postgres' | 'mysql' | 'sqlite';
  open(): Promise<Opened | null>;
}

const openPostgres = async (connectionString: string): Promise<Opened> => {
  const pool = new pg.Pool({ connectionString, max: 4, options: `-c search_path=${PLACE}` });
  await pool.query(`create schema if not exists ${PLACE}`);
  const database = onPostgres(pool);
  return {
    database,
    run: async (statement) => void (await database.execute(sql.raw(statement))),
    close: () => pool.end(),
  };
};

const openMysql = async (uri: string): Promise<Opened> => {
  const first = createPool({ uri, connectionLimit: 1 });
  await first.query(`create database if not exists ${PLACE}`);
  await first.end();
  const url = new URL(uri);
  url.pathname = `/${PLACE}`;
  const pool = createPool({ uri: url.href, connectionLimit: 4 });
  const database = onMysql(pool);
  return {
    database,
    run: async (statement) => void (await database.execute(sql.raw(statement))),
    close: () => pool.end(),
  };
};

/** What is used of SQLite's driver. */
interface Sqlite {
  prepare(text: string): {
    all(...values: readonly unknown[]): unknown[];
    run(...values: readonly unknown[]): unknown;
  };
  close(): void;
}

/** SQLite's driver has to be compiled, so it is not asked for: null where it is not there. */
const sqlite = async (): Promise<Sqlite | null> => {
  try {
    const name: string = 'better-sqlite3';
    const { default: Driver } = (await import(name)) as { default: new (path: string) => Sqlite };
    return new Driver(':memory:');
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ERR_MODULE_NOT_FOUND') return null;
    throw error;
  }
};

const openSqlite = async (): Promise<Opened | null> => {
  const client = await sqlite();
  if (client === null) return null;
  const { drizzle } = await import('drizzle-orm/better-sqlite3');
  const database = drizzle(client as never);
  return {
    database,
    run: async (statement) => void database.run(sql.raw(statement)),
    close: async () => client.close(),
  };
};

/** The same behind a driver that waits, as those of SQLite over a network do. */
const openWaiting = async (): Promise<Opened | null> => {
  const client = await sqlite();
  if (client === null) return null;
  const database = onProxy(async (text, values, method) => {
    const statement = client.prepare(text);
    if (method !== 'run') return { rows: statement.all(...values) };
    statement.run(...values);
    return { rows: [] };
  });
  return {
    database,
    run: async (statement) => void (await database.run(sql.raw(statement))),
    close: async () => client.close(),
  };
};

const named =
  (variable: string, open: (url: string) => Promise<Opened>) => async (): Promise<Opened | null> => {
    const url = process.env[variable];
    return url === undefined ? null : open(url);
  };

export const drizzles: readonly Tested[] = [
  {
    name: 'embedded PostgreSQL',
    variable: null,
    speaks: 'postgres',
    open: async () => {
      const client = new PGlite();
      const database = onPglite(client);
      return {
        database,
        run: async (statement) => void (await database.execute(sql.raw(statement))),
        close: () => client.close(),
      };
    },
  },
  {
    name: 'PostgreSQL server',
    variable: 'GRIBO_POSTGRES',
    speaks: 'postgres',
    open: named('GRIBO_POSTGRES', openPostgres),
  },
  {
    name: 'MariaDB server',
    variable: 'GRIBO_MARIADB',
    speaks: 'mysql',
    open: named('GRIBO_MARIADB', openMysql),
  },
  { name: 'SQLite', variable: 'better-sqlite3 installed', speaks: 'sqlite', open: openSqlite },
  {
    name: 'SQLite, by a driver that waits',
    variable: 'better-sqlite3 installed',
    speaks: 'sqlite',
    open: openWaiting,
  },
];
