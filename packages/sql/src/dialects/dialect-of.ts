import { GriboError } from 'gribo';
import { MysqlAdapter, PostgresAdapter, SqliteAdapter } from 'kysely';
import type { AnyKysely } from '../any-kysely.js';
import type { SqlDialect } from './dialect.js';
import { mysql } from './mysql.js';
import { postgres } from './postgres.js';
import { sqlite } from './sqlite.js';

/** The dialect that a Kysely instance speaks. */
export const dialectOf = (kysely: AnyKysely): SqlDialect => {
  const { adapter } = kysely.getExecutor();
  if (adapter instanceof PostgresAdapter) return postgres;
  if (adapter instanceof MysqlAdapter) return mysql;
  if (adapter instanceof SqliteAdapter) return sqlite;
  throw new GriboError(
    'DATABASE',
    'kysely',
    'sqlStore takes a Kysely of PostgreSQL, MySQL, MariaDB or SQLite',
  );
};
