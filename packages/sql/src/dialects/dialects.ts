import { GriboError } from 'gribo';
import type { AnyKysely } from '../kysely/any-kysely.js';
import type { SqlDialect } from './dialect.js';
import { mysql } from './mysql/mysql.js';
import { postgres } from './postgres/postgres.js';
import { sqlite } from './sqlite/sqlite.js';

/** The table of dialects: a row for each folder. */
export const DIALECTS: readonly SqlDialect[] = Object.freeze([postgres, mysql, sqlite]);

/** The dialect that a Kysely instance speaks. @throws {GriboError} `DATABASE` where it is none of them */
export const dialectOf = (kysely: AnyKysely): SqlDialect => {
  const { adapter } = kysely.getExecutor();
  const found = DIALECTS.find(({ speaks }) => speaks(adapter));
  if (found !== undefined) return found;
  const known = DIALECTS.map(({ title }) => title).join(', ');
  throw new GriboError('DATABASE', 'kysely', `sqlStore takes a Kysely of one of these: ${known}`);
};
