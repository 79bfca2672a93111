import type { CompiledQuery, DatabaseConnection, QueryResult } from 'kysely';

/** A connection whose statement can be ended from outside while it runs. */
export interface Endable extends DatabaseConnection {
  /**
   * Asks the database to end it. Settles when the database has been told.
   *
   * @param isWanted asked at the last moment, when there is a way to tell it: false where the statement is over by then
   */
  endStatement(isWanted: () => boolean): Promise<void>;
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
  let isOver = false;
  let isTold = false;
  let ending: Promise<void> = Promise.resolve();
  const isWanted = (): boolean => {
    isTold = !isOver;
    return isTold;
  };
  const end = (): void => {
    // That it could not be told changes nothing: the statement ends by itself.
    ending = connection.endStatement(isWanted).catch(() => undefined);
  };
  signal.addEventListener('abort', end, { once: true });
  try {
    return await connection.executeQuery(query);
  } catch (error) {
    throw signal.aborted ? signal.reason : error;
  } finally {
    signal.removeEventListener('abort', end);
    isOver = true;
    // The way to the database may be one that this connection itself is in: only what is told already is waited for.
    if (isTold) {
      await ending;
      await connection.settle();
    }
  }
};
