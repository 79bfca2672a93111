import { Kysely } from 'kysely';
import type { AnyKysely } from '../../kysely/any-kysely.js';
import { driver, PATIENCE } from '../driver.js';
import { mysqlDialect } from './mysql-dialect.js';

export const openMysql = async (url: string): Promise<AnyKysely> => {
  const { createPool } = await driver<typeof import('mysql2')>('mysql2');
  const config = { uri: url.replace(/^mariadb:/, 'mysql:'), connectTimeout: PATIENCE };
  // Opened where a statement is to be ended, and let go soon.
  const ending = createPool({ ...config, connectionLimit: 1, maxIdle: 0, idleTimeout: 1000 });
  return new Kysely({ dialect: mysqlDialect(createPool(config), { ending }) });
};
