import { type IsolationLevel, sql } from 'kysely';
import { type CatalogRow, rowsOf } from '../../catalogue/catalogue-rows.js';
import type { AnyKysely } from '../../kysely/any-kysely.js';

const SETTINGS = sql<CatalogRow>`show variables where variable_name in ('transaction_isolation', 'tx_isolation', 'binlog_format', 'log_bin')`;

/**
 * As it comes, the database locks what is not there: the gaps between rows, where two changes of different rows then wait for each
 * other. It does not on the level that PostgreSQL has as it comes, which is taken unless somebody has chosen another one, or its log
 * of statements needs those locks.
 */
export const mysqlIsolation = async (kysely: AnyKysely): Promise<IsolationLevel | null> => {
  const rows = await rowsOf(kysely, SETTINGS);
  const settings = new Map(rows.map((row) => [String(row['Variable_name']), String(row['Value'])]));
  const level = settings.get('transaction_isolation') ?? settings.get('tx_isolation');
  const needsGaps = settings.get('log_bin') === 'ON' && settings.get('binlog_format') === 'STATEMENT';
  return level === 'REPEATABLE-READ' && !needsGaps ? 'read committed' : null;
};
