import { Kysely } from 'kysely';
import type { AnyKysely } from '../../kysely/any-kysely.js';
import { driver, PATIENCE } from '../driver.js';
import { type EmbeddedPostgres, pgliteDialect } from './pglite-dialect.js';
import { postgresDialect } from './postgres-dialect.js';

export const openPostgres = async (url: string): Promise<AnyKysely> => {
  const { default: pg } = await driver<typeof import('pg')>('pg');
  const pool = new pg.Pool({ connectionString: url, connectionTimeoutMillis: PATIENCE });
  return new Kysely({ dialect: postgresDialect(pool) });
};

export const openEmbedded = async (folder: string): Promise<AnyKysely> => {
  const { PGlite } = await driver<{ PGlite: new (folder: string) => EmbeddedPostgres }>(
    '@electric-sql/pglite',
  );
  return new Kysely({ dialect: pgliteDialect(new PGlite(folder)) });
};
