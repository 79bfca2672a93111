import { GriboError } from 'gribo';
import {
  CompiledQuery,
  type DatabaseConnection,
  type Dialect,
  type Driver,
  PostgresAdapter,
  PostgresIntrospector,
  PostgresQueryCompiler,
  type QueryResult,
} from 'kysely';

/** An embedded PostgreSQL: what is used of `@electric-sql/pglite`. */
export interface EmbeddedPostgres {
  readonly waitReady: Promise<void>;
  query<R>(
    sql: string,
    parameters: unknown[],
  ): Promise<{ readonly rows: R[]; readonly affectedRows?: number }>;
  close(): Promise<void>;
}

/** Runs Kysely's statements on an embedded PostgreSQL, which has one connection. */
class PgliteConnection implements DatabaseConnection {
  readonly #database: EmbeddedPostgres;

  constructor(database: EmbeddedPostgres) {
    this.#database = database;
  }

  async executeQuery<R>({ sql, parameters }: CompiledQuery): Promise<QueryResult<R>> {
    const { rows, affectedRows } = await this.#database.query<R>(sql, [...parameters]);
    return { rows, numAffectedRows: BigInt(affectedRows ?? 0) };
  }

  // biome-ignore lint/correctness/useYield: a stream that says at once that there is none
  async *streamQuery<R>(): AsyncIterableIterator<QueryResult<R>> {
    throw new GriboError(
      'DATABASE',
      'stream',
      'the embedded database reads whole results; ask for fewer rows at a time',
    );
  }
}

/** Lends the one connection out, to one user after the other. */
class PgliteDriver implements Driver {
  readonly #database: EmbeddedPostgres;
  #last: Promise<void> = Promise.resolve();
  readonly #release = new WeakMap<DatabaseConnection, () => void>();

  constructor(database: EmbeddedPostgres) {
    this.#database = database;
  }

  async init(): Promise<void> {
    await this.#database.waitReady;
  }

  async acquireConnection(): Promise<DatabaseConnection> {
    const before = this.#last;
    const connection = new PgliteConnection(this.#database);
    this.#last = new Promise((resolve) => this.#release.set(connection, resolve));
    await before;
    return connection;
  }

  async releaseConnection(connection: DatabaseConnection): Promise<void> {
    this.#release.get(connection)?.();
  }

  async beginTransaction(connection: DatabaseConnection): Promise<void> {
    await connection.executeQuery(CompiledQuery.raw('begin'));
  }

  async commitTransaction(connection: DatabaseConnection): Promise<void> {
    await connection.executeQuery(CompiledQuery.raw('commit'));
  }

  async rollbackTransaction(connection: DatabaseConnection): Promise<void> {
    await connection.executeQuery(CompiledQuery.raw('rollback'));
  }

  async destroy(): Promise<void> {
    await this.#database.close();
  }
}

/**
 * Kysely's dialect for an embedded PostgreSQL, which has one connection: it is lent out to one user
 * after the other.
 *
 * @param database `new PGlite()`
 * @example
 * const kysely = new Kysely({ dialect: pgliteDialect(new PGlite()) });
 */
export const pgliteDialect = (database: EmbeddedPostgres): Dialect => ({
  createDriver: () => new PgliteDriver(database),
  createAdapter: () => new PostgresAdapter(),
  createQueryCompiler: () => new PostgresQueryCompiler(),
  createIntrospector: (kysely) => new PostgresIntrospector(kysely),
});
