import { GriboError, type LoadPlan } from 'gribo';
import {
  type AnyRows,
  addOrder,
  type EntityPlan,
  type OpenRows,
  packedRows,
  type RowQuery,
  wholeOrder,
} from 'gribo/kit';
import type { CompiledQuery } from 'kysely';
import type { Database } from '../dialects/database.js';
import type { PackedForm, SqlDialect } from '../dialects/dialect.js';
import { copyOut } from '../dialects/postgres/copy-out.js';
import type { PgPool } from '../dialects/postgres/pg-pool.js';
import { StatementError } from '../errors/statement-error.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { type AskedQuery, type Loading, PLACE, rowsStatement } from '../load/load-rows.js';
import { isFlat } from '../load/packed-layout.js';
import { LINE } from '../load/prepare.js';
import type { FlatRow } from '../load/selecting.js';
import type { Asking } from './asking.js';
import { inBatches } from './in-batches.js';
import { openRows } from './open-rows.js';

type Row = Readonly<Record<PropertyKey, unknown>>;

/** What streams need of their store. */
export interface StreamSource {
  readonly kysely: AnyKysely;
  readonly dialect: SqlDialect;
  readonly asking: Asking;
  /** Rows of a batch. */
  readonly batch: number;
  /** Where connections come from that copy; null: rows are read in batches. */
  readonly pool: PgPool | null;
  entityOf(name: string): EntityPlan;
  list(plan: LoadPlan, query: AskedQuery): Promise<readonly object[]>;
  /** How rows are loaded that are made into one line each; null: they are copied. */
  loading(database: Database, packs: PackedForm | null): Loading;
  /** Is told a statement that was run. */
  tell(text: string, parameters: readonly unknown[], start: number): void;
}

/** What a long list is read of, in columns whose text is known. */
interface Packed {
  readonly plan: LoadPlan;
  readonly packs: PackedForm;
  readonly database: Database;
}

/** The rows of lists that need not fit into memory. */
export class Streams {
  readonly #source: StreamSource;

  constructor(source: StreamSource) {
    this.#source = source;
  }

  /** Rows one after the other; packed, where each is in one line of its database. */
  rows(plan: LoadPlan, query: RowQuery): AsyncIterable<object> {
    const { packs } = this.#source.dialect;
    if (packs === null || !isFlat(plan)) return this.#made(plan, query);
    return packedRows(() => this.#open(plan, query, packs));
  }

  /** Batch by batch, made into rows. */
  async *#made(plan: LoadPlan, query: RowQuery): AsyncGenerator<object> {
    const { batch, list, entityOf } = this.#source;
    const entity = entityOf(plan.entity);
    const order = wholeOrder(entity, query.sort ?? []);
    // The next batch starts behind the last row's place in the order: its own columns, or what was put in order.
    const isPlain = order.every(({ path, shown }) => path.length === 0 && shown === null);
    const whole = isPlain ? addOrder(plan, entity, order) : plan;
    const placeOf = (last: object): readonly unknown[] =>
      isPlain
        ? order.map(({ column }) => (last as Row)[column.name])
        : ((last as Row)[PLACE] as readonly unknown[]);
    const load = (asked: RowQuery) => list(whole, { ...asked, withPlaces: !isPlain });
    for await (const rows of inBatches(query, batch, placeOf, load)) yield* rows;
  }

  /** The rows of a short list, and those of a long one as lines. */
  async #open(plan: LoadPlan, query: RowQuery, packs: PackedForm): Promise<OpenRows | AnyRows> {
    const { batch, list, asking, pool } = this.#source;
    const limit = Math.min(batch, query.limit ?? Number.POSITIVE_INFINITY);
    const first = await list(plan, { ...query, limit });
    if (first.length < limit || limit === query.limit) return first;
    const asked = await asking.askable(plan.entity, query);
    const { packed: database, isSure } = await asking.known();
    if (asked === null) return [];
    if (database === null || (pool === null && !isSure)) return this.#made(plan, query);
    const packed = { plan: await asking.load(plan), packs, database };
    const found = rowsStatement(this.#source.loading(database, null), packed.plan, asked.query);
    const chunks =
      pool === null
        ? this.#lines(packed, query)
        : this.#copied(pool, found.statement.compile(this.#source.kysely));
    return openRows(found, packs, chunks);
  }

  async *#copied(pool: PgPool, { sql, parameters }: CompiledQuery): AsyncGenerator<Uint8Array> {
    const start = performance.now();
    try {
      yield* copyOut(pool, { sql, parameters });
    } catch (error) {
      if (error instanceof GriboError) throw error;
      throw new StatementError(this.#source.dialect.failure(error), sql);
    } finally {
      this.#source.tell(`copy (${sql}) to stdout`, parameters, start);
    }
  }

  /** The lines of batches. */
  async *#lines({ plan, packs, database }: Packed, query: RowQuery): AsyncGenerator<string> {
    const { asking, batch } = this.#source;
    const loading = this.#source.loading(database, packs);
    let places: readonly ((flat: FlatRow) => unknown)[] = [];
    const load = async (wanted: RowQuery): Promise<readonly FlatRow[]> => {
      const asked = await asking.askable(plan.entity, wanted);
      if (asked === null) return [];
      const found = rowsStatement(loading, plan, { ...asked.query, withPlaces: true });
      ({ places } = found);
      return asking.found(asked, () => loading.run(found.statement), []);
    };
    const placeOf = (last: FlatRow): readonly unknown[] => places.map((read) => read(last));
    for await (const rows of inBatches(query, batch, placeOf, load))
      if (rows.length > 0) yield `${rows.map((row) => row[LINE]).join('\n')}\n`;
  }
}
