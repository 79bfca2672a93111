import { Kysely, MysqlDialect } from 'kysely';
import type { AnyKysely } from '../../kysely/any-kysely.js';
import { driver, PATIENCE } from '../driver.js';

export const openMysql = async (url: string): Promise<AnyKysely> => {
  const { createPool } = await driver<typeof import('mysql2')>('mysql2');
  const pool = createPool({ uri: url.replace(/^mariadb:/, 'mysql:'), connectTimeout: PATIENCE });
  return new Kysely({ dialect: new MysqlDialect({ pool }) });
};
