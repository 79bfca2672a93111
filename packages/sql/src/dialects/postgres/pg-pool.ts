import type { PostgresCursor, PostgresQueryResult } from 'kysely';

/** A statement as `pg` takes it: under a name, it is parsed and planned once for a connection. */
export interface NamedStatement {
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
  readonly on?: {
    (event: 'error', heard: (error: Error) => void): unknown;
    (event: 'connect', heard: (client: Pick<PgClient, 'on'>) => void): unknown;
  };
}
