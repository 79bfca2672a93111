import { GriboError } from 'gribo';
import type { TextOrder } from '../dialects/database.js';
import type { SqlDialect } from '../dialects/dialect.js';
import type { PgPool } from '../dialects/postgres/pg-pool.js';
import type { Strategy } from '../load/selecting.js';

/** A statement that was run. */
export interface Statement {
  readonly sql: string;
  readonly parameters: readonly unknown[];
  readonly milliseconds: number;
}

export interface SqlStoreOptions {
  /** Rows that a stream reads at a time. Default: 1,000. */
  readonly batch?: number;
  /**
   * How rows behind to-many links are loaded: `batched`, one statement for each link; `single`, all in one statement as
   * JSON, which takes PostgreSQL; or `auto`, one row in one statement where that can be, and lists in batches, which
   * was measured to be faster: docs/sql.md says how much. Default: `auto`.
   */
  readonly strategy?: 'auto' | Strategy;
  /**
   * What texts are put in order by, and compared by more or less: `collation`, as their columns say, in the order that
   * people of a country expect and an index has; or `codePoints`, in which every database and the store in memory
   * agree. Default: `collation`.
   */
  readonly texts?: TextOrder;
  /**
   * A pool of `pg` for lists that are long and not paged: more than a batch of them is sent by one `COPY`, which holds a
   * connection until the last row is sent, shows one state of the data, and takes a fraction of the time. It takes a
   * PostgreSQL server and the package `pg-copy-streams`. Lists with rows of to-many links go in batches all the same.
   */
  readonly copy?: PgPool;
  /** Is told each statement that was run. */
  readonly log?: (statement: Statement) => void;
  /** Whether `close` ends the Kysely instance too. Default: true. */
  readonly closes?: boolean;
}

/** How one row is loaded, and how many are. */
export interface Strategies {
  readonly one: Strategy;
  readonly many: Strategy;
}

export const strategiesFor = (
  dialect: SqlDialect,
  wanted: SqlStoreOptions['strategy'] = 'auto',
): Strategies => {
  if (wanted === 'auto') return { one: dialect.nests ? 'single' : 'batched', many: 'batched' };
  if (dialect.nests || wanted === 'batched') return { one: wanted, many: wanted };
  throw new GriboError(
    'DATABASE',
    'strategy',
    `the strategy "single" takes PostgreSQL, and this is ${dialect.title}: use "batched"`,
  );
};

export const copyPool = (dialect: SqlDialect, pool: PgPool | undefined): PgPool | null => {
  if (pool === undefined || dialect.packs !== null) return pool ?? null;
  throw new GriboError(
    'DATABASE',
    'copy',
    `copy takes PostgreSQL, and this is ${dialect.title}: leave it out`,
  );
};
