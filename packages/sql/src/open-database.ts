import { GriboError } from 'gribo';
import { Kysely, MysqlDialect, PostgresDialect, SqliteDialect } from 'kysely';
import type { AnyKysely } from './any-kysely.js';
import { type EmbeddedPostgres, pgliteDialect } from './pglite-dialect.js';

/** Loads a driver: those that are not used need not be there. */
const driver = async <T>(name: string): Promise<T> => {
  try {
    // The package's own types say what it exports.
    return (await import(name)) as T;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ERR_MODULE_NOT_FOUND') throw error;
    throw new GriboError(
      'DATABASE',
      name,
      `The package ${name} is needed for this database: npm install ${name}`,
    );
  }
};

/** Milliseconds that a server may take to answer. */
const PATIENCE = 10_000;

const openPostgres = async (url: string): Promise<AnyKysely> => {
  const { default: pg } = await driver<typeof import('pg')>('pg');
  const pool = new pg.Pool({ connectionString: url, connectionTimeoutMillis: PATIENCE });
  // A lost connection is told to whoever has a statement on it. As an event that nobody hears, it would end the process.
  const heard = (): void => undefined;
  pool.on('error', heard);
  pool.on('connect', (client) => {
    client.on('error', heard);
  });
  return new Kysely({ dialect: new PostgresDialect({ pool }) });
};

const openMysql = async (url: string): Promise<AnyKysely> => {
  const { createPool } = await driver<typeof import('mysql2')>('mysql2');
  const pool = createPool({ uri: url.replace(/^mariadb:/, 'mysql:'), connectTimeout: PATIENCE });
  return new Kysely({ dialect: new MysqlDialect({ pool }) });
};

const openSqlite = async (path: string): Promise<AnyKysely> => {
  const { default: Driver } = await driver<{ default: new (path: string) => never }>('better-sqlite3');
  return new Kysely({ dialect: new SqliteDialect({ database: new Driver(path) }) });
};

const openEmbedded = async (folder: string): Promise<AnyKysely> => {
  const { PGlite } = await driver<{ PGlite: new (folder: string) => EmbeddedPostgres }>(
    '@electric-sql/pglite',
  );
  return new Kysely({ dialect: pgliteDialect(new PGlite(folder)) });
};

/**
 * Opens a database by its address. The driver's package must be installed: `pg`, `mysql2`,
 * `better-sqlite3` or `@electric-sql/pglite`.
 *
 * @param url `postgres://…`, `mysql://…`, `mariadb://…`, `sqlite:path/to/file.db`, or
 * `pglite:path/to/folder` for an embedded PostgreSQL
 * @throws {GriboError} `DATABASE` where the address is none, or the driver is not installed
 * @example
 * const kysely = await openDatabase('pglite:memory://');
 */
export const openDatabase = (url: string): Promise<AnyKysely> => {
  const [, scheme = '', rest = ''] = /^([a-z0-9]+):(.*)$/i.exec(url) ?? [];
  switch (scheme.toLowerCase()) {
    case 'postgres':
    case 'postgresql':
      return openPostgres(url);
    case 'mysql':
    case 'mariadb':
      return openMysql(url);
    case 'sqlite':
      return openSqlite(rest.replace(/^\/\/(?=\/)/, ''));
    case 'pglite':
      return openEmbedded(rest);
    default: {
      const message =
        'An address starts with postgres://, mysql://, mariadb://, sqlite: or pglite:, as in postgres://user@localhost/name';
      return Promise.reject(new GriboError('DATABASE', 'url', message));
    }
  }
};
