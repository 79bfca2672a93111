import { GriboError } from 'gribo';
import type {
  CompiledQuery,
  PostgresCursor,
  PostgresCursorConstructor,
  PostgresQueryResult,
  QueryResult,
} from 'kysely';
import type { Endable } from '../endable.js';
import type { Lent } from '../lending.js';
import { cancelRequest } from './cancel-request.js';
import type { PgClient } from './pg-pool.js';
import type { StatementNames } from './statement-names.js';

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

/** Statements that change rows, as Kysely counts them. */
const CHANGES: ReadonlySet<string> = new Set(['INSERT', 'UPDATE', 'DELETE', 'MERGE']);

const codeOf = (error: unknown): string => String((error as { readonly code?: unknown } | null)?.code);

/** A connection of `pg` that plans what comes again once. */
export class PgConnection implements Endable, Lent {
  readonly #client: PgClient;
  readonly #names: StatementNames;
  readonly #cursor: PostgresCursorConstructor | null;
  #isWithin = false;
  /** What ended the connection while no statement was run: the next one is told no more than that it cannot be run. */
  #lost: Error | null = null;

  constructor(client: PgClient, names: StatementNames, cursor: PostgresCursorConstructor | null) {
    this.#client = client;
    this.#names = names;
    this.#cursor = cursor;
    client.on('error', (error) => {
      this.#lost ??= error;
    });
  }

  release(isBroken: boolean): void {
    this.#client.release(isBroken);
  }

  async executeQuery<R>({ sql, parameters }: CompiledQuery): Promise<QueryResult<R>> {
    const { command, rowCount, rows } = await this.#statement(sql, [...parameters]);
    const changed = CHANGES.has(command) ? { numAffectedRows: BigInt(rowCount) } : {};
    // Whoever asks for rows knows what is in them.
    return { rows: (rows ?? []) as R[], ...changed };
  }

  async *streamQuery<R>(
    { sql, parameters }: CompiledQuery,
    chunkSize: number,
  ): AsyncIterableIterator<QueryResult<R>> {
    if (this.#cursor === null)
      throw new GriboError('DATABASE', 'cursor', 'to stream, give postgresDialect the `cursor` of pg-cursor');
    const opened = new this.#cursor<R>(sql, [...parameters]);
    const cursor = this.#client.query(opened as PostgresCursor<never>) as PostgresCursor<R>;
    try {
      for (let rows = await cursor.read(chunkSize); rows.length > 0; rows = await cursor.read(chunkSize))
        yield { rows };
    } finally {
      await cursor.close();
    }
  }

  endStatement(isWanted: () => boolean): Promise<void> {
    return cancelRequest(this.#client, isWanted);
  }

  async settle(): Promise<void> {
    await this.#client.query('select 1').catch(() => undefined);
  }

  async #statement(text: string, values: readonly unknown[]): Promise<PostgresQueryResult<never>> {
    try {
      return await this.#run(text, values);
    } catch (error) {
      const isBare = codeOf(error) === 'undefined';
      throw isBare && this.#lost !== null ? this.#lost : error;
    }
  }

  async #run(text: string, values: readonly unknown[]): Promise<PostgresQueryResult<never>> {
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
