import { type SqlStore, type SqlStoreOptions, sqlStore } from '@gribo/sql';
import type { MySqlDatabase } from 'drizzle-orm/mysql-core';
import type { PgDatabase } from 'drizzle-orm/pg-core';
import type { BaseSQLiteDatabase } from 'drizzle-orm/sqlite-core';
import { GriboError } from 'gribo';
import type { LinkedEntities } from 'gribo/kit';
import { Kysely } from 'kysely';
import { drizzleDialect } from './drizzle-dialect.js';
import { sessionOf } from './session.js';

// Whatever its schema is, and whatever its driver gives; Drizzle's own types say so in no other way.
// biome-ignore-start lint/suspicious/noExplicitAny: a database of any schema and driver will do
/** What `drizzle()` gives, or a transaction of it, on PostgreSQL, MySQL or SQLite. */
export type AnyDrizzle =
  | PgDatabase<any, any, any>
  | MySqlDatabase<any, any, any, any>
  | BaseSQLiteDatabase<any, any, any, any>;
// biome-ignore-end lint/suspicious/noExplicitAny: a database of any schema and driver will do

/**
 * A store on a database that Drizzle has opened: what a shape needs is loaded, and what an input changes is stored, through
 * the same connections, so that Drizzle's logger sees it. Within `db.transaction`, given the transaction, it is part of that;
 * a change that is refused is undone alone.
 *
 * @param model the model, as `modelFrom` makes it, or declared by hand over the same tables
 * @param database what `drizzle()` gave, or a transaction of it
 * @param options `strategy`, `batch`, `texts`, `log`: those of `sqlStore`
 * @returns a store; its `close` leaves the connection open, which is Drizzle's
 * @throws {GriboError} `MISUSE` where the database is none of Drizzle's for PostgreSQL, MySQL or SQLite
 * @throws {DeclarationError} `DECLARATION` where a column is read by `.via()`
 * @example
 * const store = drizzleStore(fleet, drizzle(pool, { schema }));
 */
export const drizzleStore = (
  model: LinkedEntities,
  database: AnyDrizzle,
  options: Omit<SqlStoreOptions, 'closes'> = {},
): SqlStore => {
  const known = sessionOf(database);
  if (known === null) {
    throw new GriboError(
      'MISUSE',
      'drizzleStore',
      'drizzleStore: expected what drizzle() gives for PostgreSQL, MySQL or SQLite, or a transaction of it',
    );
  }
  return sqlStore(model, new Kysely({ dialect: drizzleDialect(known.session, known.speaks) }), options);
};
