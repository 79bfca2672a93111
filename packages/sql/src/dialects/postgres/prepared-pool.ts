import type { PostgresCursor, PostgresPool, PostgresPoolClient, PostgresQueryResult } from 'kysely';
import { StatementNames } from './statement-names.js';

/** A statement as `pg` takes it: under a name, it is parsed and planned once for a connection. */
interface NamedStatement {
  readonly name: string;
  readonly text: string;
  readonly values: readonly unknown[];
}

/** A statement that is a stream of what `COPY` sends. */
export interface CopyStream extends AsyncIterable<Uint8Array> {
  submit(connection: never): void;
}

/** A connection of `pg`. */
export interface PgClient {
  query(sql: string, parameters?: readonly unknown[]): Promise<PostgresQueryResult<never>>;
  query(statement: NamedStatement): Promise<PostgresQueryResult<never>>;
  query(cursor: PostgresCursor<never>): PostgresCursor<never>;
  query(stream: CopyStream): CopyStream;
  release(isBroken?: boolean): void;
  on(event: 'error', heard: (error: Error) => void): unknown;
  removeListener(event: 'error', heard: (error: Error) => void): unknown;
}

/** What is used of a pool of `pg`. */
export interface PgPool {
  connect(): Promise<PgClient>;
  end(): Promise<void>;
}

/** Statements that make columns others than they were. A prepared statement would not always tell: it takes the types that it knew. */
const ALTERS = /^\s*(?:alter|create|drop)\b/i;
const BEGINS = /^\s*(?:begin|start\s+transaction)\b/i;
const ENDS = /^\s*(?:commit|end|abort|rollback(?!\s+to\b)(?!\s+(?:work|transaction)\s+to\b))\b/i;

/**
 * Classes of failures of a statement that may come of its being prepared: its tables were altered since, so that it gives
 * other columns or takes other parameters. Such a statement is asked again, without a name: where it fails by itself, it
 * fails again.
 */
const MAY_BE_OLD = /^(?:0A|22|26|42)/;

/** The server knows a statement not at all, or another one by its name: a pooler hands its connections around. */
const HANDED_AROUND: ReadonlySet<string> = new Set(['26000', '42P05']);

const codeOf = (error: unknown): string => String((error as { readonly code?: unknown } | null)?.code);

class PreparedClient {
  readonly #client: PgClient;
  readonly #names: StatementNames;
  #isWithin = false;

  constructor(client: PgClient, names: StatementNames) {
    this.#client = client;
    this.#names = names;
  }

  release(): void {
    this.#client.release();
  }

  query(what: string | PostgresCursor<never>, parameters: readonly unknown[] = []): unknown {
    return typeof what === 'string' ? this.#statement(what, parameters) : this.#client.query(what);
  }

  async #statement(text: string, values: readonly unknown[]): Promise<PostgresQueryResult<never>> {
    const name = this.#names.of(text);
    if (name === null) {
      const result = await this.#client.query(text, values);
      if (ALTERS.test(text)) this.#names.renew();
      this.#isWithin = (this.#isWithin || BEGINS.test(text)) && !ENDS.test(text);
      return result;
    }
    try {
      return await this.#client.query({ name, text, values });
    } catch (error) {
      const code = codeOf(error);
      if (!MAY_BE_OLD.test(code)) throw error;
      if (HANDED_AROUND.has(code)) this.#names.end();
      else this.#names.forget(text);
      // Within a transaction nothing can be run again: it has failed. The next one will not meet this.
      if (this.#isWithin) throw error;
      return await this.#client.query(text, values);
    }
  }
}

/** How statements are prepared. */
export interface PreparedPoolOptions {
  /** So many statements are kept by each connection, at most; others are planned each time. Default: 200. */
  readonly statements?: number;
}

/**
 * A pool whose connections plan a statement once, and not each time: those that come again are prepared under a name.
 * Measured, a page of 50 rows with their links takes an eighth less. Behind a pooler that lends a connection for one transaction, it
 * stops at the first statement that the server does not know: leave it out there.
 *
 * @param pool a pool of `pg`
 * @param options `statements`
 * @returns the pool for Kysely's `PostgresDialect`; to end it ends the one that was given
 * @example
 * new Kysely({ dialect: new PostgresDialect({ pool: preparedPool(new pg.Pool()) }) });
 */
export const preparedPool = (pool: PgPool, options: PreparedPoolOptions = {}): PostgresPool => {
  const names = new StatementNames(options.statements ?? 200);
  const clients = new WeakMap<PgClient, PostgresPoolClient>();
  return {
    connect: async () => {
      const client = await pool.connect();
      let prepared = clients.get(client);
      if (prepared === undefined) {
        // It answers a text with a promise and a cursor with itself, as the type says of two functions.
        prepared = new PreparedClient(client, names) as PostgresPoolClient;
        clients.set(client, prepared);
      }
      return prepared;
    },
    end: () => pool.end(),
  };
};
