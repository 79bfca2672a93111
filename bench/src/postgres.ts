import { PGlite } from '@electric-sql/pglite';
import { pgliteDialect, postgresDialect } from '@gribo/sql';
import { Kysely, PostgresDialect } from 'kysely';
import pg from 'pg';

/** The server to measure on, if one is named. */
export const serverUrl: string | undefined = process.env['GRIBO_POSTGRES'];

/** A pool of one connection to the server, in a schema of its own. */
export const openPool = (connectionString: string): pg.Pool =>
  new pg.Pool({ connectionString, max: 1, options: '-c search_path=gribo_bench' });

/** The server, where one is named; else the embedded database. */
export const openPostgres = <T>(): Kysely<T> =>
  new Kysely({
    dialect:
      serverUrl === undefined
        ? pgliteDialect(new PGlite())
        : new PostgresDialect({ pool: openPool(serverUrl) }),
  });

/** The same database with statements that are planned once, where it is a server; else the one that is open. */
export const prepared = <T>(open: Kysely<T>): Kysely<T> =>
  serverUrl === undefined ? open : new Kysely({ dialect: postgresDialect(openPool(serverUrl)) });
