import { Kysely, SqliteDialect } from 'kysely';
import type { AnyKysely } from '../../kysely/any-kysely.js';
import { driver } from '../driver.js';

export const openSqlite = async (path: string): Promise<AnyKysely> => {
  const { default: Driver } = await driver<{ default: new (path: string) => never }>('better-sqlite3');
  return new Kysely({ dialect: new SqliteDialect({ database: new Driver(path) }) });
};
