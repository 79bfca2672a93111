import {
  type DatabaseConnection,
  type Dialect,
  type Driver,
  MysqlAdapter,
  MysqlIntrospector,
  MysqlQueryCompiler,
  PostgresAdapter,
  PostgresIntrospector,
  PostgresQueryCompiler,
  SqliteAdapter,
  SqliteIntrospector,
  SqliteQueryCompiler,
  type TransactionSettings,
} from 'kysely';
import { DrizzleConnection } from './connection.js';
import type { Session, Speaks } from './session.js';

/** What Kysely has for each kind of database. */
const SPEAKING: Readonly<Record<Speaks, Omit<Dialect, 'createDriver'>>> = {
  postgres: {
    createAdapter: () => new PostgresAdapter(),
    createQueryCompiler: () => new PostgresQueryCompiler(),
    createIntrospector: (kysely) => new PostgresIntrospector(kysely),
  },
  mysql: {
    createAdapter: () => new MysqlAdapter(),
    createQueryCompiler: () => new MysqlQueryCompiler(),
    createIntrospector: (kysely) => new MysqlIntrospector(kysely),
  },
  sqlite: {
    createAdapter: () => new SqliteAdapter(),
    createQueryCompiler: () => new SqliteQueryCompiler(),
    createIntrospector: (kysely) => new SqliteIntrospector(kysely),
  },
};

/** Lends a session out: to everybody at once, or, where it is one connection, to one after the other. */
class DrizzleDriver implements Driver {
  readonly #session: Session;
  readonly #isPostgres: boolean;
  #last: Promise<void> = Promise.resolve();
  readonly #release = new WeakMap<DatabaseConnection, () => void>();

  constructor(session: Session, speaks: Speaks) {
    this.#session = session;
    this.#isPostgres = speaks === 'postgres';
  }

  async init(): Promise<void> {}

  async acquireConnection(): Promise<DrizzleConnection> {
    const connection = new DrizzleConnection(this.#session, this.#isPostgres);
    if (this.#session.isShared) return connection;
    const before = this.#last;
    this.#last = new Promise((resolve) => this.#release.set(connection, resolve));
    await before;
    return connection;
  }

  async releaseConnection(connection: DrizzleConnection): Promise<void> {
    this.#release.get(connection)?.();
  }

  beginTransaction(connection: DrizzleConnection, { isolationLevel }: TransactionSettings): Promise<void> {
    const isKnown = isolationLevel === 'read committed' || isolationLevel === 'serializable';
    return connection.begin(isKnown ? { isolationLevel } : null);
  }

  commitTransaction(connection: DrizzleConnection): Promise<void> {
    return connection.commit();
  }

  rollbackTransaction(connection: DrizzleConnection): Promise<void> {
    return connection.rollback();
  }

  /** The connection is Drizzle's, and whoever opened it closes it. */
  async destroy(): Promise<void> {}
}

/** Kysely's dialect for a session of Drizzle's. */
export const drizzleDialect = (session: Session, speaks: Speaks): Dialect => ({
  ...SPEAKING[speaks],
  createDriver: () => new DrizzleDriver(session, speaks),
});
