import type { CompiledQuery, QueryResult } from 'kysely';
import type { Endable } from '../endable.js';
import type { Lent } from '../lending.js';

/** What `mysql2` tells of a statement that gives no rows. */
interface Header {
  readonly insertId?: number | string;
  readonly affectedRows?: number;
  readonly changedRows?: number;
}

type Told = (error: unknown, result: unknown) => void;

/** A connection of `mysql2`. */
export interface MysqlClient {
  /** By what the server knows it. */
  readonly threadId: number;
  query(
    sql: string,
    parameters: unknown[],
  ): { stream(options: { objectMode: true }): AsyncIterable<unknown> };
  query(sql: string, parameters: unknown[], told: Told): unknown;
  release(): void;
  destroy(): void;
}

/** What is used of a pool of `mysql2`. */
export interface MysqlPool {
  getConnection(told: (error: unknown, client: MysqlClient) => void): void;
  end(told: (error: unknown) => void): void;
}

const countOf = (value: number | undefined): bigint | undefined =>
  value === undefined ? undefined : BigInt(value);

const resultOf = <R>(result: unknown): QueryResult<R> => {
  // Whoever asks for rows knows what is in them.
  if (Array.isArray(result)) return { rows: result as R[] };
  const { insertId, affectedRows, changedRows } = (result ?? {}) as Header;
  const [changes, changed] = [countOf(affectedRows), countOf(changedRows)];
  const isMade = insertId !== undefined && insertId !== null && String(insertId) !== '0';
  return {
    rows: [],
    ...(isMade ? { insertId: BigInt(insertId) } : {}),
    ...(changes === undefined ? {} : { numAffectedRows: changes }),
    ...(changed === undefined ? {} : { numChangedRows: changed }),
  };
};

/** Ends what a connection runs, if that is still wanted when there is another one to do it by. */
export type Kill = (threadId: number, isWanted: () => boolean) => Promise<void>;

/** A connection of `mysql2` to Kysely, whose statement can be ended by another one. */
export class MysqlConnection implements Endable, Lent {
  readonly #client: MysqlClient;
  readonly #kill: Kill;

  constructor(client: MysqlClient, kill: Kill) {
    this.#client = client;
    this.#kill = kill;
  }

  release(isBroken: boolean): void {
    if (isBroken) this.#client.destroy();
    else this.#client.release();
  }

  async executeQuery<R>({ sql, parameters }: CompiledQuery): Promise<QueryResult<R>> {
    return resultOf(await this.#query(sql, parameters));
  }

  async *streamQuery<R>({ sql, parameters }: CompiledQuery): AsyncIterableIterator<QueryResult<R>> {
    for await (const row of this.#client.query(sql, [...parameters]).stream({ objectMode: true }))
      yield { rows: [row as R] };
  }

  endStatement(isWanted: () => boolean): Promise<void> {
    return this.#kill(this.#client.threadId, isWanted);
  }

  async settle(): Promise<void> {
    await this.#query('do 0', []).catch(() => undefined);
  }

  #query(text: string, parameters: readonly unknown[]): Promise<unknown> {
    return new Promise((resolve, reject) => {
      this.#client.query(text, [...parameters], (error: unknown, result: unknown) =>
        error === null || error === undefined ? resolve(result) : reject(error),
      );
    });
  }
}
