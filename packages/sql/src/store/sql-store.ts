import { GriboError, type Key, type LoadPlan, type Store } from 'gribo';
import {
  type ChangeOptions,
  type ChangePlan,
  checkStorable,
  comparison,
  type Guard,
  type KeyValue,
  type LinkedEntities,
  type LinkedEntity,
  planChange,
  type RowQuery,
  runChange,
  type StoreCondition,
  unknownEntity,
  type Values,
  type WantedChange,
} from 'gribo/kit';
import { CompiledQuery, type RawBuilder, sql } from 'kysely';
import type { Changing, Done } from '../change/changing.js';
import { ManyRows } from '../change/many-rows.js';
import { conflictOf, RowWork } from '../change/row-work.js';
import type { Database, TextOrder } from '../dialects/database.js';
import type { SqlDialect } from '../dialects/dialect.js';
import { dialectOf } from '../dialects/dialects.js';
import type { PgPool } from '../dialects/postgres/prepared-pool.js';
import { StatementError } from '../errors/statement-error.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { conditionPiece } from '../load/conditions.js';
import { type AskedQuery, type Loading, loadRows } from '../load/load-rows.js';
import { allOf } from '../load/pieces.js';
import type { PreparedCache } from '../load/prepare.js';
import type { FlatRow, Strategy } from '../load/selecting.js';
import { type Drift, drift } from '../scan/drift.js';
import { Asking, type Known } from './asking.js';
import { Parts } from './parts.js';
import { Streams } from './streams.js';

/** A statement that was run. */
export interface Statement {
  readonly sql: string;
  readonly parameters: readonly unknown[];
  readonly milliseconds: number;
}

export interface SqlStoreOptions {
  /** Rows that a stream reads at a time. Default: 1,000. */
  readonly batch?: number;
  /**
   * How rows behind to-many links are loaded: `batched`, one statement for each link; `single`, all in one statement as
   * JSON, which takes PostgreSQL; or `auto`, one row in one statement where that can be, and lists in batches, which
   * was measured to be faster: docs/sql.md says how much. Default: `auto`.
   */
  readonly strategy?: 'auto' | Strategy;
  /**
   * What texts are put in order by, and compared by more or less: `collation`, as their columns say, in the order that
   * people of a country expect and an index has; or `codePoints`, in which every database and the store in memory
   * agree. Default: `collation`.
   */
  readonly texts?: TextOrder;
  /**
   * A pool of `pg` for lists that are long and not paged: more than a batch of them is sent by one `COPY`, which holds a
   * connection until the last row is sent, shows one state of the data, and takes a fraction of the time. It takes a
   * PostgreSQL server and the package `pg-copy-streams`. Lists with rows of to-many links go in batches all the same.
   */
  readonly copy?: PgPool;
  /** Is told each statement that was run. */
  readonly log?: (statement: Statement) => void;
  /** Whether `close` ends the Kysely instance too. Default: true. */
  readonly closes?: boolean;
}

/** A change that was turned away by what its guard found: the transaction is undone, and nothing was wrong. */
class NoSuchRow extends Error {}

/** How one row is loaded, and how many are. */
interface Strategies {
  readonly one: Strategy;
  readonly many: Strategy;
}

const strategiesFor = (dialect: SqlDialect, wanted: SqlStoreOptions['strategy'] = 'auto'): Strategies => {
  if (wanted === 'auto') return { one: dialect.nests ? 'single' : 'batched', many: 'batched' };
  if (dialect.nests || wanted === 'batched') return { one: wanted, many: wanted };
  throw new GriboError(
    'DATABASE',
    'strategy',
    `the strategy "single" takes PostgreSQL, and this is ${dialect.title}: use "batched"`,
  );
};

const copyPool = (dialect: SqlDialect, pool: PgPool | undefined): PgPool | null => {
  if (pool === undefined || dialect.packs !== null) return pool ?? null;
  throw new GriboError(
    'DATABASE',
    'copy',
    `copy takes PostgreSQL, and this is ${dialect.title}: leave it out`,
  );
};

/** A store on an SQL database. */
export interface SqlStore extends Store {
  /** Tells each statement that is run from now on. @returns what ends that */
  listen(listener: (statement: Statement) => void): () => void;
  /** Where the model and the database do not agree. */
  drift(): Promise<readonly Drift[]>;
  /**
   * The same store on a transaction of Kysely's that is there already: what it changes is stored with it, or not at all. What is known
   * of the database is asked once for both.
   */
  within(transaction: AnyKysely): SqlStore;
}

/** What a store shares with those of its transactions. */
interface Shared {
  readonly model: LinkedEntities;
  readonly entities: ReadonlyMap<string, LinkedEntity>;
  readonly dialect: SqlDialect;
  readonly strategies: Strategies;
  readonly asking: Asking;
  readonly listeners: Set<(statement: Statement) => void>;
  readonly caches: Readonly<Record<Strategy | 'copied' | 'lines', PreparedCache>>;
  readonly batch: number;
  readonly pool: PgPool | null;
  readonly closes: boolean;
}

const sharedOf = (model: LinkedEntities, kysely: AnyKysely, options: SqlStoreOptions): Shared => {
  const entities = new Map(Object.values(model).map((linked) => [linked.entity.name, linked]));
  const dialect = dialectOf(kysely);
  return {
    model,
    entities,
    dialect,
    strategies: strategiesFor(dialect, options.strategy),
    asking: new Asking({ entities, dialect, texts: options.texts ?? 'collation' }, kysely),
    listeners: new Set(options.log === undefined ? [] : [options.log]),
    caches: {
      single: new WeakMap(),
      batched: new WeakMap(),
      copied: new WeakMap(),
      lines: new WeakMap(),
    },
    batch: options.batch ?? 1000,
    pool: copyPool(dialect, options.copy),
    closes: options.closes ?? true,
  };
};

class KyselyStore implements SqlStore {
  readonly #shared: Shared;
  readonly #asking: Asking;
  readonly #kysely: AnyKysely;
  readonly #streams: Streams;
  readonly #parts: Parts | null;
  readonly #depth: number;

  /** @param depth how many transactions it is inside of */
  constructor(shared: Shared, kysely: AnyKysely, depth: number) {
    const { dialect, batch, caches } = shared;
    const asking = shared.asking.on(kysely);
    this.#asking = asking;
    this.#shared = shared;
    this.#kysely = kysely;
    this.#depth = depth;
    this.#parts = kysely.isTransaction
      ? new Parts(depth, (text) => this.#executeQuery(kysely, CompiledQuery.raw(text)))
      : null;
    this.#streams = new Streams({
      kysely,
      dialect,
      asking,
      batch,
      // What a transaction has changed is seen on its own connection only.
      pool: kysely.isTransaction ? null : shared.pool,
      entityOf: (name) => this.#linked(name).entity,
      list: (plan, query) => this.#list(plan, query),
      loading: (database, packs) => ({
        ...this.#loading(kysely, database),
        packs,
        byPlace: true,
        cache: packs === null ? caches.copied : caches.lines,
      }),
      tell: (text, parameters, start) => this.#tell(text, parameters, start),
    });
  }

  within(transaction: AnyKysely): SqlStore {
    return new KyselyStore(this.#shared, transaction, this.#depth + 1);
  }

  async transaction<T>(work: (store: Store) => Promise<T>): Promise<T> {
    // Asked before the transaction takes its connection: there may be no other.
    await this.#asking.known();
    return this.#inTransaction(null, (transaction) => work(this.within(transaction)));
  }

  async list(plan: LoadPlan, query: RowQuery = {}): Promise<readonly object[]> {
    return this.#list(plan, query);
  }

  async #list(plan: LoadPlan, query: AskedQuery): Promise<readonly object[]> {
    const asked = await this.#asking.askable(plan.entity, query);
    if (asked === null) return [];
    const load = await this.#asking.load(plan);
    const { database } = await this.#asking.known();
    const strategy = query.limit === 1 ? this.#shared.strategies.one : this.#shared.strategies.many;
    return this.#asking.found(
      asked,
      () => loadRows(this.#loading(this.#kysely, database, strategy), load, asked.query),
      [],
    );
  }

  stream(plan: LoadPlan, query: RowQuery = {}): AsyncIterable<object> {
    return this.#streams.rows(plan, query);
  }

  async count(entity: string, where: readonly StoreCondition[] = []): Promise<number> {
    const plan = this.#linked(entity).entity;
    const asked = await this.#asking.askable(entity, { where });
    if (asked === null) return 0;
    const { database } = await this.#asking.known();
    const conditions = allOf(
      (asked.query.where ?? []).map((part) => conditionPiece(database, plan, 't0', part)),
    );
    const filtered = conditions === undefined ? sql`` : sql` where ${conditions}`;
    const counted = sql<FlatRow>`select count(*) as many from ${sql.table(plan.table)} as t0${filtered}`;
    const run = async (): Promise<number> =>
      Number((await this.#execute(this.#kysely, counted)).rows[0]?.['many']);
    return this.#asking.found(asked, run, 0);
  }

  async read(plan: LoadPlan, key: Key, where: readonly StoreCondition[] = []): Promise<object | null> {
    const [row] = await this.list(plan, { where: [...this.#keyed(plan, key), ...where], limit: 1 });
    return row ?? null;
  }

  async create(entity: string, change: object, options: ChangeOptions = {}): Promise<Key> {
    const { key } = this.#linked(entity).entity;
    const row = await this.#run({ operation: 'create', entity, change }, options);
    return key.map((name) => row?.[name] as KeyValue);
  }

  async createAll(
    entity: string,
    batches: AsyncIterable<readonly object[]>,
    options: ChangeOptions = {},
  ): Promise<number> {
    this.#linked(entity);
    const known = await this.#asking.known();
    return this.#inTransaction(entity, async (transaction) => {
      const changing = this.#changing(transaction, known);
      const rows = new ManyRows({
        insert: async (changes) => {
          await this.#runIn(
            changing,
            planChange(this.#shared.model, { operation: 'create', entity, changes }, options),
            options,
            [],
          );
        },
        execute: (statement) => changing.executeText(statement, []),
      });
      for await (const batch of batches) await rows.add(batch);
      options.signal?.throwIfAborted();
      return rows.count;
    });
  }

  async amend(entity: string, key: Key, change: object, guard: Guard = {}): Promise<boolean> {
    return (await this.#run({ operation: 'amend', entity, key, change }, guard)) !== null;
  }

  async remove(entity: string, key: Key, guard: Guard = {}): Promise<boolean> {
    return (await this.#run({ operation: 'remove', entity, key }, guard)) !== null;
  }

  async close(): Promise<void> {
    if (this.#shared.closes) await this.#kysely.destroy();
  }

  listen(listener: (statement: Statement) => void): () => void {
    this.#shared.listeners.add(listener);
    return () => this.#shared.listeners.delete(listener);
  }

  drift(): Promise<readonly Drift[]> {
    return drift(this.#shared.model, this.#kysely);
  }

  #linked(entity: string): LinkedEntity {
    const linked = this.#shared.entities.get(entity);
    if (linked === undefined) throw unknownEntity(entity, this.#shared.entities.keys());
    return linked;
  }

  #loading(
    kysely: AnyKysely,
    database: Database,
    strategy: Strategy = this.#shared.strategies.many,
  ): Loading {
    return {
      database,
      strategy,
      run: async (statement) => (await this.#execute(kysely, statement)).rows,
      entityOf: (name) => this.#linked(name).entity,
      cache: this.#shared.caches[strategy],
      packs: null,
      byPlace: false,
      atOnce: !kysely.isTransaction,
      asText: (piece) => {
        const { sql: text, parameters } = piece.compile(kysely);
        return parameters.length === 0 ? sql.raw(text) : piece;
      },
    };
  }

  #execute(kysely: AnyKysely, statement: RawBuilder<unknown>): Promise<Done> {
    return this.#executeQuery(kysely, statement.compile(kysely));
  }

  async #executeQuery(kysely: AnyKysely, query: CompiledQuery<unknown>): Promise<Done> {
    const start = performance.now();
    // Whoever asks for rows knows what is in them.
    const running = kysely.executeQuery<FlatRow>(query as CompiledQuery<FlatRow>);
    const { rows, insertId } = await running.catch((error: unknown) => {
      throw new StatementError(this.#shared.dialect.failure(error), query.sql);
    });
    this.#tell(query.sql, query.parameters, start);
    return { rows, insertId };
  }

  #tell(text: string, parameters: readonly unknown[], start: number): void {
    if (this.#shared.listeners.size === 0) return;
    const statement = { sql: text, parameters, milliseconds: performance.now() - start };
    for (const listener of this.#shared.listeners) listener(statement);
  }

  #keyed(plan: LoadPlan, key: Key): readonly StoreCondition[] {
    const { entity } = this.#linked(plan.entity);
    return entity.columns
      .filter((column) => column.key)
      .map((column, i) => comparison(column, 'equals', key[i]));
  }

  /** Runs the plan of a change in one transaction. @returns the row it is about; null where there is none */
  async #run(wanted: WantedChange, guard: Guard = {}): Promise<Values | null> {
    const plan = planChange(this.#shared.model, wanted, guard);
    const key = wanted.operation === 'create' ? [] : (wanted.key as Key);
    // Asked before the transaction takes its connection: there may be no other.
    const known = await this.#asking.known();
    const askable = known.capacities.askable(wanted.entity, guard.where ?? []);
    if (askable === null) return null;
    const check = guard.check && { ...guard.check, plan: await this.#asking.load(guard.check.plan) };
    const held: Guard = { ...guard, where: askable.where, ...(check === undefined ? {} : { check }) };
    try {
      return await this.#inTransaction(wanted.entity, async (transaction) => {
        const row = await this.#runIn(this.#changing(transaction, known), plan, held, key);
        // Nothing is changed where there is no such row: what was locked for it is let go.
        if (row === null) throw new NoSuchRow();
        guard.signal?.throwIfAborted();
        return row;
      });
    } catch (error) {
      if (error instanceof NoSuchRow) return null;
      throw error;
    }
  }

  /**
   * Does work in a transaction, or as a part of the one that is there; what goes wrong where that begins or ends is told in our
   * words.
   *
   * @param entity the one that it is about; null: whatever the work is about
   */
  async #inTransaction<T>(entity: string | null, work: (transaction: AnyKysely) => Promise<T>): Promise<T> {
    const kysely = this.#kysely;
    if (this.#parts !== null) return this.#parts.run(() => work(kysely));
    let thrown: unknown = null;
    try {
      return await kysely.transaction().execute(async (transaction) => {
        try {
          return await work(transaction);
        } catch (error) {
          thrown = error;
          throw error;
        }
      });
    } catch (error) {
      throw error === thrown ? error : this.#committing(entity, error);
    }
  }

  /** What was thrown where a transaction begins or ends: what is checked last may be found wrong only then. */
  #committing(name: string | null, error: unknown): GriboError {
    const failed = new StatementError(this.#shared.dialect.failure(error), null);
    const { violation } = failed;
    return violation === null || name === null
      ? failed
      : conflictOf(this.#linked(name).entity, violation, failed);
  }

  async #runIn(
    changing: Changing,
    plan: ChangePlan,
    { where = [], check, signal }: Guard,
    key: Key,
  ): Promise<Values | null> {
    const { entity } = this.#linked(plan.entity);
    const conditions = where.map((part) => conditionPiece(changing.database, entity, 't0', part));
    const work = new RowWork(changing, conditions, async () => {
      if (check === undefined) return;
      const query = { where: this.#keyed(check.plan, key), limit: 1 };
      const [loaded] = await loadRows(changing.loading, check.plan, query);
      if (loaded !== undefined) check.row(loaded);
    });
    const run = runChange(plan);
    let next = run.next();
    while (next.done !== true) {
      signal?.throwIfAborted();
      next = run.next(await work.do(next.value));
    }
    return next.value;
  }

  #changing(transaction: AnyKysely, { capacities, database }: Known): Changing {
    return {
      capacities,
      database,
      loading: this.#loading(transaction, database),
      entities: this.#shared.entities,
      execute: (statement) => this.#execute(transaction, statement),
      executeText: (text, parameters) =>
        this.#executeQuery(transaction, CompiledQuery.raw(text, [...parameters])),
      textOf: (piece) => piece.compile(transaction).sql,
    };
  }
}

/**
 * A store on an SQL database: PostgreSQL (a server, or embedded), MySQL, MariaDB or SQLite. What it
 * selects follows from the load plan: these columns and no others, to-one links joined, one statement
 * for each to-many link of a list, however many rows there are. Changes are transactions.
 *
 * @param model the model
 * @param kysely a Kysely instance with the database's driver
 * @param options `strategy`, `batch`, `texts`, `copy`, `log`, `closes`
 * @throws {DeclarationError} `DECLARATION` where a column is read by `.via()`
 * @example
 * const store = sqlStore(db, new Kysely({ dialect: pgliteDialect(database) }));
 */
export const sqlStore = (
  model: LinkedEntities,
  kysely: AnyKysely,
  options: SqlStoreOptions = {},
): SqlStore => {
  checkStorable('sqlStore', model);
  return new KyselyStore(sharedOf(model, kysely, options), kysely, 0);
};
