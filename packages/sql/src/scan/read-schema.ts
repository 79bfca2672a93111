import type { AnyKysely } from '../any-kysely.js';
import { dialectOf } from '../dialects/dialect-of.js';
import type { DatabaseSchema } from './database-schema.js';
import { readMysql } from './read-mysql.js';
import { readPostgres } from './read-postgres.js';
import { readSqlite } from './read-sqlite.js';

/** Reads what a live database says of its tables: columns, keys, references. */
export const readSchema = (kysely: AnyKysely): Promise<DatabaseSchema> => {
  const { name } = dialectOf(kysely);
  switch (name) {
    case 'postgres':
      return readPostgres(kysely);
    case 'mysql':
      return readMysql(kysely);
    case 'sqlite':
      return readSqlite(kysely);
    default:
      return name satisfies never;
  }
};
