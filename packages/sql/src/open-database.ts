import { GriboError } from 'gribo';
import { DIALECTS } from './dialects/dialects.js';
import type { AnyKysely } from './kysely/any-kysely.js';

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
  const known = DIALECTS.flatMap(({ opens }) => Object.entries(opens));
  const [, open] = known.find(([name]) => name === scheme.toLowerCase()) ?? [];
  if (open !== undefined) return open(url, rest);
  const schemes = known.map(([name]) => `${name}:`).join(', ');
  const message = `An address starts with ${schemes}, as in postgres://user@localhost/name`;
  return Promise.reject(new GriboError('DATABASE', 'url', message));
};
