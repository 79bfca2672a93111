import {
  type Dialect,
  PostgresAdapter,
  type PostgresCursorConstructor,
  PostgresIntrospector,
  PostgresQueryCompiler,
  type TransactionSettings,
} from 'kysely';
import { Lending, LOCK_TIMEOUT } from '../lending.js';
import { PgConnection } from './pg-connection.js';
import type { PgClient, PgPool } from './pg-pool.js';
import { StatementNames } from './statement-names.js';

export interface PostgresDialectOptions {
  /**
   * So many statements are planned once by each connection, at most; others are planned each time. 0 behind a pooler that lends a
   * connection for one transaction. Default: 200.
   */
  readonly statements?: number;
  /** Milliseconds that a statement of a transaction waits for others' locks; null: as the database says. Default: 5,000. */
  readonly lockTimeout?: number | null;
  /** The class of `pg-cursor`, for those who stream statements of their own by Kysely. */
  readonly cursor?: PostgresCursorConstructor;
}

const beginning = ({ isolationLevel, accessMode }: TransactionSettings): string => {
  const level = isolationLevel === undefined ? '' : ` isolation level ${isolationLevel}`;
  const mode = accessMode === undefined ? '' : ` ${accessMode}`;
  return level + mode === '' ? 'begin' : `start transaction${level}${mode}`;
};

/**
 * A connection that is lost is told to whoever has a statement on it, and is no loss to anybody else. As an event that nobody hears, it
 * would end the process.
 */
const hearLosses = (pool: PgPool): void => {
  const heard = (): void => undefined;
  pool.on?.('error', heard);
  pool.on?.('connect', (client) => void client.on('error', heard));
};

class PostgresConnections extends Lending<PgConnection> {
  readonly #pool: PgPool;
  readonly #lockTimeout: number | null;
  readonly #connections = new WeakMap<PgClient, PgConnection>();
  readonly #made: (client: PgClient) => PgConnection;

  constructor(pool: PgPool, { statements = 200, lockTimeout, cursor }: PostgresDialectOptions) {
    super();
    const names = new StatementNames(statements);
    this.#pool = pool;
    hearLosses(pool);
    this.#lockTimeout = lockTimeout === undefined ? LOCK_TIMEOUT : lockTimeout;
    this.#made = (client) => new PgConnection(client, names, cursor ?? null);
  }

  async acquireConnection(): Promise<PgConnection> {
    const client = await this.#pool.connect();
    let connection = this.#connections.get(client);
    if (connection === undefined) {
      connection = this.#made(client);
      this.#connections.set(client, connection);
    }
    return connection;
  }

  async beginTransaction(connection: PgConnection, settings: TransactionSettings): Promise<void> {
    const begin = beginning(settings);
    // In one message, it takes no time of its own.
    const text =
      this.#lockTimeout === null
        ? begin
        : `${begin}; set local lock_timeout = ${Math.ceil(this.#lockTimeout)}`;
    await this.turn(connection, text);
  }

  async destroy(): Promise<void> {
    await this.#pool.end();
  }
}

/**
 * Kysely's dialect for PostgreSQL by `pg`. Statements that come again are planned once by each connection, one that takes too
 * long can be ended, a lock is not waited for without end, and a connection whose transaction could not be ended is not used again.
 *
 * @param pool a pool of `pg`; `destroy` ends it
 * @param options `statements`, `lockTimeout`, `cursor`
 * @example
 * const kysely = new Kysely({ dialect: postgresDialect(new pg.Pool()) });
 */
export const postgresDialect = (pool: PgPool, options: PostgresDialectOptions = {}): Dialect => ({
  createDriver: () => new PostgresConnections(pool, options),
  createAdapter: () => new PostgresAdapter(),
  createQueryCompiler: () => new PostgresQueryCompiler(),
  createIntrospector: (kysely) => new PostgresIntrospector(kysely),
});
