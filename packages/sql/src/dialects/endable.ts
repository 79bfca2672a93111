import type { CompiledQuery, DatabaseConnection, QueryResult } from 'kysely';

/** A connection whose statement can be ended from outside while it runs. */
export interface Endable extends DatabaseConnection {
  /** Asks the database to end it; it may be over already. Settles when the database has been told. */
  endStatement(): Promise<void>;
  /** Runs something that does nothing: what came too late for the statement before meets this, and not the next one. */
  settle(): Promise<void>;
}

const isEndable = (connection: DatabaseConnection): connection is Endable => 'endStatement' in connection;

/**
 * Runs a statement, and ends it where a signal aborts: the connection is not let go before that is over.
 *
 * @throws the signal's reason where it is aborted
 */
export const runUntil = async <R>(
  connection: DatabaseConnection,
  query: CompiledQuery<R>,
  signal: AbortSignal | null,
): Promise<QueryResult<R>> => {
  if (signal === null) return connection.executeQuery(query);
  signal.throwIfAborted();
  if (!isEndable(connection)) return connection.executeQuery(query);
  let ending: Promise<void> | null = null;
  const end = (): void => {
    // That it could not be told changes nothing: the statement ends by itself.
    ending = connection.endStatement().catch(() => undefined);
  };
  signal.addEventListener('abort', end, { once: true });
  try {
    return await connection.executeQuery(query);
  } catch (error) {
    throw signal.aborted ? signal.reason : error;
  } finally {
    signal.removeEventListener('abort', end);
    if (ending !== null) {
      await (ending as Promise<void>);
      await connection.settle();
    }
  }
};
