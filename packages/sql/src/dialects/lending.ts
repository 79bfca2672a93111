import { CompiledQuery, type DatabaseConnection, type Driver, type TransactionSettings } from 'kysely';

/** Milliseconds that locks of others are waited for: well below the time that an answer may take. */
export const LOCK_TIMEOUT = 5000;

/** A connection that is lent for a while. */
export interface Lent extends DatabaseConnection {
  /** @param isBroken whether nobody should have it again */
  release(isBroken: boolean): void;
}

/** Lends connections out. One whose transaction could not be begun or taken back whole is not lent again: whoever had it next might go on in it. */
export abstract class Lending<C extends Lent> implements Driver {
  readonly #broken = new WeakSet<C>();

  async init(): Promise<void> {}

  abstract acquireConnection(): Promise<C>;

  abstract beginTransaction(connection: C, settings: TransactionSettings): Promise<void>;

  async commitTransaction(connection: C): Promise<void> {
    await connection.executeQuery(CompiledQuery.raw('commit'));
  }

  async rollbackTransaction(connection: C): Promise<void> {
    await this.turn(connection, 'rollback');
  }

  async releaseConnection(connection: C): Promise<void> {
    connection.release(this.#broken.has(connection));
  }

  abstract destroy(): Promise<void>;

  /** Begins a transaction, or takes it back. */
  protected async turn(connection: C, text: string): Promise<void> {
    try {
      await connection.executeQuery(CompiledQuery.raw(text));
    } catch (error) {
      this.#broken.add(connection);
      throw error;
    }
  }
}
