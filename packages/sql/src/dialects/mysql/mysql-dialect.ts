import {
  CompiledQuery,
  type Dialect,
  MysqlAdapter,
  MysqlIntrospector,
  MysqlQueryCompiler,
  type TransactionSettings,
} from 'kysely';
import { Lending, LOCK_TIMEOUT } from '../lending.js';
import { type Kill, type MysqlClient, MysqlConnection, type MysqlPool } from './mysql-connection.js';

export interface MysqlDialectOptions {
  /**
   * Milliseconds that a statement waits for others' locks, in whole seconds; null: as the database says. Default: 5,000.
   */
  readonly lockTimeout?: number | null;
  /**
   * Another pool to the same database, of one connection, by which statements of the first are ended: it has one to give where all of the
   * first wait. Default: the first.
   */
  readonly ending?: MysqlPool;
}

const taken = (pool: MysqlPool): Promise<MysqlClient> =>
  new Promise((resolve, reject) => {
    pool.getConnection((error, client) =>
      error === null || error === undefined ? resolve(client) : reject(error),
    );
  });

const ended = (pool: MysqlPool): Promise<void> =>
  new Promise((resolve, reject) => {
    pool.end((error) => (error === null || error === undefined ? resolve() : reject(error)));
  });

class MysqlConnections extends Lending<MysqlConnection> {
  readonly #pool: MysqlPool;
  readonly #ending: MysqlPool | null;
  readonly #lockTimeout: number | null;
  readonly #connections = new WeakMap<MysqlClient, MysqlConnection>();

  constructor(pool: MysqlPool, { ending, lockTimeout }: MysqlDialectOptions) {
    super();
    this.#pool = pool;
    this.#ending = ending ?? null;
    this.#lockTimeout = lockTimeout === undefined ? LOCK_TIMEOUT : lockTimeout;
  }

  async acquireConnection(): Promise<MysqlConnection> {
    const client = await taken(this.#pool);
    const known = this.#connections.get(client);
    if (known !== undefined) return known;
    const connection = new MysqlConnection(client, this.#kill);
    await this.#settle(connection);
    this.#connections.set(client, connection);
    return connection;
  }

  /** What holds for all of a new connection. */
  async #settle(connection: MysqlConnection): Promise<void> {
    if (this.#lockTimeout === null) return;
    const seconds = Math.max(1, Math.ceil(this.#lockTimeout / 1000));
    const text = `set session innodb_lock_wait_timeout = ${seconds}`;
    try {
      await connection.executeQuery(CompiledQuery.raw(text));
    } catch (error) {
      connection.release(true);
      throw error;
    }
  }

  readonly #kill: Kill = async (threadId, isWanted) => {
    const client = await taken(this.#ending ?? this.#pool);
    const connection = new MysqlConnection(client, this.#kill);
    try {
      if (isWanted()) await connection.executeQuery(CompiledQuery.raw(`kill query ${threadId}`));
    } finally {
      connection.release(false);
    }
  };

  async beginTransaction(
    connection: MysqlConnection,
    { isolationLevel, accessMode }: TransactionSettings,
  ): Promise<void> {
    const level = isolationLevel === undefined ? [] : [`isolation level ${isolationLevel}`];
    const parts = accessMode === undefined ? level : [...level, accessMode];
    if (parts.length > 0)
      await connection.executeQuery(CompiledQuery.raw(`set transaction ${parts.join(', ')}`));
    await this.turn(connection, 'begin');
  }

  async destroy(): Promise<void> {
    await ended(this.#pool);
    if (this.#ending !== null) await ended(this.#ending);
  }
}

/**
 * Kysely's dialect for MySQL and MariaDB by `mysql2`. A statement that takes too long can be ended, a lock is not waited for without
 * end, and a connection whose transaction could not be ended is not used again.
 *
 * @param pool a pool of `mysql2`; `destroy` ends it
 * @param options `lockTimeout`, `ending`
 * @example
 * const kysely = new Kysely({ dialect: mysqlDialect(createPool({ uri })) });
 */
export const mysqlDialect = (pool: MysqlPool, options: MysqlDialectOptions = {}): Dialect => ({
  createDriver: () => new MysqlConnections(pool, options),
  createAdapter: () => new MysqlAdapter(),
  createQueryCompiler: () => new MysqlQueryCompiler(),
  createIntrospector: (kysely) => new MysqlIntrospector(kysely),
});
