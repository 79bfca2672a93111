import { DrizzleError, DrizzleQueryError } from 'drizzle-orm';
import type { CompiledQuery, DatabaseConnection, QueryResult } from 'kysely';
import type { Session, Settings } from './session.js';
import { givesRows, statementOf } from './statement.js';

/** Ends a transaction of Drizzle's, which is undone where its work throws. */
class Undone extends Error {}

/** What the driver said: Drizzle's own errors repeat the statement, with its values. */
const causeOf = (error: unknown): unknown => {
  const isDrizzles = error instanceof DrizzleQueryError || error instanceof DrizzleError;
  return isDrizzles && error.cause !== undefined ? causeOf(error.cause) : error;
};

/** A transaction that is open: what its work goes through, and how it ends. */
interface Open {
  readonly session: Session;
  commit(): void;
  undo(): void;
  /** Settles when the transaction has ended. */
  readonly ended: Promise<void>;
}

/** Begins a transaction of Drizzle's, which stays open until it is told to end. */
const begin = (transaction: NonNullable<Session['transaction']>, settings: Settings): Promise<Open> =>
  new Promise((begun, failed) => {
    const ended = transaction(
      (session) =>
        new Promise<void>((commit, undo) => {
          // What is awaited has a name only when this has returned.
          queueMicrotask(() => begun({ session, commit, undo: () => undo(new Undone()), ended }));
        }),
      settings,
    );
    ended.catch(failed);
  });

/** A connection of Kysely's that runs its statements through Drizzle. */
export class DrizzleConnection implements DatabaseConnection {
  readonly #session: Session;
  readonly #isPostgres: boolean;
  #open: Open | null = null;

  constructor(session: Session, isPostgres: boolean) {
    this.#session = session;
    this.#isPostgres = isPostgres;
  }

  async executeQuery<R>({ sql, parameters }: CompiledQuery): Promise<QueryResult<R>> {
    const { rows, insertId } = await this.#execute(sql, parameters);
    // Whoever asks for rows knows what is in them.
    return { rows: rows as R[], ...(insertId === undefined ? {} : { insertId }) };
  }

  async *streamQuery<R>(query: CompiledQuery): AsyncIterableIterator<QueryResult<R>> {
    yield await this.executeQuery<R>(query);
  }

  async begin(settings: Settings): Promise<void> {
    const { transaction } = this.#session;
    // Within a transaction that is there, this begins a part of it.
    if (transaction === null) await this.#execute('savepoint gribo', []);
    else
      this.#open = await begin(transaction, settings).catch((error: unknown) =>
        Promise.reject(causeOf(error)),
      );
  }

  async commit(): Promise<void> {
    if (this.#open === null) {
      await this.#execute('release gribo', []);
      return;
    }
    const { commit, ended } = this.#open;
    this.#open = null;
    commit();
    await ended.catch((error: unknown) => Promise.reject(causeOf(error)));
  }

  async rollback(): Promise<void> {
    if (this.#open === null) {
      await this.#execute('rollback to gribo', []);
      await this.#execute('release gribo', []);
      return;
    }
    const { undo, ended } = this.#open;
    this.#open = null;
    undo();
    await ended.catch((error: unknown) => (error instanceof Undone ? null : Promise.reject(causeOf(error))));
  }

  async #execute(text: string, parameters: readonly unknown[]): ReturnType<Session['execute']> {
    const statement = statementOf(text, parameters, this.#isPostgres);
    try {
      return await (this.#open?.session ?? this.#session).execute(statement, givesRows(text));
    } catch (error) {
      throw causeOf(error);
    }
  }
}
