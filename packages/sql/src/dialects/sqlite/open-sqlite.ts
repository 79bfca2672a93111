import { existsSync } from 'node:fs';
import { GriboError } from 'gribo';
import { Kysely, SqliteDialect } from 'kysely';
import type { AnyKysely } from '../../kysely/any-kysely.js';
import { driver } from '../driver.js';

/**
 * Milliseconds that it waits for another process that writes. Everybody in this one waits with it, so it is not long: the store
 * tries again.
 */
const BUSY = 50;

export const openSqlite = async (path: string): Promise<AnyKysely> => {
  // A mistyped path would make an empty database, and nobody would be told.
  if (path !== ':memory:' && !existsSync(path))
    throw new GriboError(
      'DATABASE',
      path,
      'There is no such file: look at the path, or make the database first',
    );
  const { default: Driver } = await driver<{
    default: new (path: string, options: { timeout: number }) => never;
  }>('better-sqlite3');
  return new Kysely({ dialect: new SqliteDialect({ database: new Driver(path, { timeout: BUSY }) }) });
};
