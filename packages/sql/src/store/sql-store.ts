import type { GriboError, Key, LoadPlan, Store, StoreScope, TransactionTerms } from 'gribo';
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
  Repeatable,
  type RowQuery,
  runChange,
  type StoreCondition,
  stampedTerms,
  unknownEntity,
  type Values,
  type WantedChange,
} from 'gribo/kit';
import { CompiledQuery, type RawBuilder, sql } from 'kysely';
import type { Changing, Done } from '../change/changing.js';
import { ManyRows } from '../change/many-rows.js';
import { conflictOf, RowWork } from '../change/row-work.js';
import type { Database } from '../dialects/database.js';
import type { SqlDialect } from '../dialects/dialect.js';
import { dialectOf } from '../dialects/dialects.js';
import { runUntil } from '../dialects/endable.js';
import type { PgPool } from '../dialects/postgres/pg-pool.js';
import { StatementError } from '../errors/statement-error.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { conditionPiece } from '../load/conditions.js';
import { type AskedQuery, type Loading, loadRows } from '../load/load-rows.js';
import { allOf } from '../load/pieces.js';
import type { PreparedCache } from '../load/prepare.js';
import type { FlatRow, Strategy } from '../load/selecting.js';
import { type Drift, drift } from '../scan/drift.js';
import { Asking } from './asking.js';
import { OpenTransactions } from './open-transactions.js';
import { copyPool, type SqlStoreOptions, type Statement, type Strategies, strategiesFor } from './options.js';
import { OwnTransaction } from './own-transaction.js';
import { Parts } from './parts.js';
import { Streams } from './streams.js';
import { Line, triedAgain } from './tried-again.js';
import { Underway } from './underway.js';

/** A change that was turned away by what its guard found: the transaction is undone, and nothing was wrong. */
class NoSuchRow extends Error {}

/** A store on an SQL database. */
export interface SqlStore extends Store {
  /** Tells each statement that is run from now on. @returns what ends that */
  listen(listener: (statement: Statement) => void): () => void;
  /** Where the model and the database do not agree. */
  drift(): Promise<readonly Drift[]>;
  /** The same store for one piece of work: its statements are given up where the signal aborts. */
  scoped(scope: StoreScope): SqlStore;
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
  /** Where transactions stand that are run again, for what they had read was not so any more. */
  readonly line: Line;
  /** The transactions whose work is underway: it is not to wait for another connection. */
  readonly open: OpenTransactions;
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
    line: new Line(),
    open: new OpenTransactions(),
    batch: options.batch ?? 1000,
    pool: copyPool(dialect, options.copy),
    closes: options.closes ?? true,
  };
};

/** How a transaction is begun, or taken part in. */
type InTransaction = { readonly hasParts: boolean } & Pick<Required<TransactionTerms>, 'steady'>;

/** Where a store stands among others that share what it knows. */
interface Standing {
  /** How many transactions it is inside of. */
  readonly depth: number;
  /** The work that it is for; null: any. */
  readonly scope: StoreScope | null;
  /** The transaction that it is inside of. */
  readonly underway: Underway | null;
  /** Whether what fails in that is taken back alone. */
  readonly hasParts: boolean;
}

const ALWAYS = (): boolean => true;

class KyselyStore implements SqlStore {
  readonly #shared: Shared;
  readonly #asking: Asking;
  readonly #kysely: AnyKysely;
  readonly #standing: Standing;
  readonly #parts: Parts | null;
  #made: Streams | null = null;

  constructor(shared: Shared, kysely: AnyKysely, standing: Standing) {
    this.#shared = shared;
    this.#asking = shared.asking.on(kysely);
    this.#kysely = kysely;
    this.#standing = standing;
    this.#parts = standing.hasParts
      ? new Parts(standing.depth, (text) => this.#executeQuery(CompiledQuery.raw(text)))
      : null;
  }

  get #streams(): Streams {
    const { dialect, batch, caches, pool } = this.#shared;
    const kysely = this.#kysely;
    this.#made ??= new Streams({
      kysely,
      dialect,
      asking: this.#asking,
      batch,
      // What a transaction has changed is seen on its own connection only.
      pool: kysely.isTransaction ? null : pool,
      entityOf: (name) => this.#linked(name).entity,
      list: (plan, query) => this.#list(plan, query),
      loading: (database, packs) => ({
        ...this.#loading(database),
        packs,
        byPlace: true,
        cache: packs === null ? caches.copied : caches.lines,
      }),
      tell: (text, parameters, start) => this.#tell(text, parameters, start),
    });
    return this.#made;
  }

  get #signal(): AbortSignal | null {
    return this.#standing.scope?.signal ?? null;
  }

  scoped(scope: StoreScope): SqlStore {
    return new KyselyStore(this.#shared, this.#kysely, { ...this.#standing, scope });
  }

  within(transaction: AnyKysely): SqlStore {
    return this.#inside(transaction, new Underway(), true);
  }

  #inside(transaction: AnyKysely, underway: Underway | null, hasParts: boolean): KyselyStore {
    const { depth, scope } = this.#standing;
    return new KyselyStore(this.#shared, transaction, { depth: depth + 1, scope, underway, hasParts });
  }

  async transaction<T>(
    work: (store: Store) => Promise<T>,
    { again = ALWAYS, parts = true, steady = false }: TransactionTerms = {},
  ): Promise<T> {
    const held = (within: Store): Promise<T> => this.#shared.open.run(() => work(within));
    return this.#inTransaction(null, held, again, { hasParts: parts, steady });
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
      () => loadRows(this.#loading(database, strategy), load, asked.query),
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
    const run = async (): Promise<number> => Number((await this.#execute(counted)).rows[0]?.['many']);
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
    const terms = stampedTerms(options);
    const source = new Repeatable(batches);
    const store = async (within: KyselyStore): Promise<number> => {
      const changing = await within.#changing();
      const rows = new ManyRows({
        insert: async (changes) => {
          const plan = planChange(this.#shared.model, { operation: 'create', entity, changes }, terms);
          await within.#runIn(changing, plan, options, []);
        },
        execute: (statement) => changing.executeText(statement, []),
      });
      for await (const batch of source) await rows.add(batch);
      options.signal?.throwIfAborted();
      return rows.count;
    };
    try {
      return await this.#inTransaction(entity, store, () => source.isWhole);
    } finally {
      await source.end();
    }
  }

  async amend(entity: string, key: Key, change: object, guard: Guard = {}): Promise<boolean> {
    return (await this.#run({ operation: 'amend', entity, key, change }, guard)) !== null;
  }

  async remove(entity: string, key: Key, guard: Guard = {}): Promise<boolean> {
    return (await this.#run({ operation: 'remove', entity, key }, guard)) !== null;
  }

  async ping(): Promise<void> {
    await this.#execute(sql`select 1 as there`);
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

  #loading(database: Database, strategy: Strategy = this.#shared.strategies.many): Loading {
    const kysely = this.#kysely;
    return {
      database,
      strategy,
      run: async (statement) => (await this.#execute(statement)).rows,
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

  #execute(statement: RawBuilder<unknown>): Promise<Done> {
    return this.#executeQuery(statement.compile(this.#kysely));
  }

  /** What is no transaction's is asked for without changing anything, so that it may be asked again. */
  async #executeQuery(query: CompiledQuery<unknown>): Promise<Done> {
    if (this.#kysely.isTransaction) return this.#executeOnce(query);
    this.#shared.open.checkNone();
    return triedAgain(() => this.#executeOnce(query), {
      signal: this.#signal,
      again: ALWAYS,
      line: null,
    });
  }

  async #executeOnce(query: CompiledQuery<unknown>): Promise<Done> {
    const { underway } = this.#standing;
    const signal = this.#signal;
    underway?.check();
    const start = performance.now();
    try {
      const { rows, insertId } = await this.#kysely
        .getExecutor()
        // Whoever asks for rows knows what is in them.
        .provideConnection((connection) => runUntil(connection, query as CompiledQuery<FlatRow>, signal));
      this.#tell(query.sql, query.parameters, start);
      return { rows, insertId };
    } catch (error) {
      if (signal?.aborted && error === signal.reason) throw error;
      const failed = new StatementError(this.#shared.dialect.failure(error), query.sql);
      underway?.failed(failed);
      throw failed;
    }
  }

  #tell(text: string, parameters: readonly unknown[], start: number): void {
    const { scope } = this.#standing;
    if (this.#shared.listeners.size === 0 && scope?.ran === undefined) return;
    const milliseconds = performance.now() - start;
    scope?.ran?.(text, milliseconds);
    const statement = { sql: text, parameters, milliseconds };
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
    if (!this.#kysely.isTransaction) this.#shared.open.checkNone();
    // Asked before the transaction takes its connection: there may be no other.
    const known = await this.#asking.known();
    const askable = known.capacities.askable(wanted.entity, guard.where ?? []);
    if (askable === null) return null;
    const check = guard.check && { ...guard.check, plan: await this.#asking.load(guard.check.plan) };
    const held: Guard = { ...guard, where: askable.where, ...(check === undefined ? {} : { check }) };
    const change = async (within: KyselyStore): Promise<Values> => {
      const row = await within.#runIn(await within.#changing(), plan, held, key);
      // Nothing is changed where there is no such row: what was locked for it is let go.
      if (row === null) throw new NoSuchRow();
      guard.signal?.throwIfAborted();
      return row;
    };
    try {
      return await this.#inTransaction(wanted.entity, change, ALWAYS);
    } catch (error) {
      if (error instanceof NoSuchRow) return null;
      throw error;
    }
  }

  /**
   * Does work in a transaction, and again where the database asks for that; or as a part of the one that is there.
   *
   * @param entity the one that it is about; null: whatever the work is about
   */
  async #inTransaction<T>(
    entity: string | null,
    work: (within: KyselyStore) => Promise<T>,
    again: () => boolean,
    { hasParts, steady }: InTransaction = { hasParts: false, steady: false },
  ): Promise<T> {
    const { underway } = this.#standing;
    if (this.#kysely.isTransaction) {
      const inside = (): Promise<T> => work(this.#inside(this.#kysely, underway, hasParts));
      return this.#parts === null ? inside() : this.#parts.run(inside);
    }
    this.#shared.open.checkNone();
    // Asked before the transaction takes its connection: there may be no other.
    const { isolation } = await this.#asking.known();
    const signal = this.#signal;
    const beginning = {
      kysely: this.#kysely,
      isolation: (steady ? this.#shared.dialect.steady : null) ?? isolation,
      signal,
      failedAround: (error: unknown, isEnding: boolean) => this.#failedAround(entity, error, isEnding),
    };
    const once = (): Promise<T> =>
      new OwnTransaction(beginning).run((begun, own) => work(this.#inside(begun, own, hasParts)));
    return triedAgain(once, { signal, again, line: steady ? this.#shared.line : null });
  }

  /** What was thrown where a transaction begins or ends: what is checked last may be found wrong only then. */
  #failedAround(name: string | null, error: unknown, isEnding: boolean): GriboError {
    const failure = this.#shared.dialect.failure(error);
    const failed = new StatementError(failure, null, isEnding && failure.passing === 'later');
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

  async #changing(): Promise<Changing> {
    const { capacities, database } = await this.#asking.known();
    const kysely = this.#kysely;
    return {
      capacities,
      database,
      loading: this.#loading(database),
      entities: this.#shared.entities,
      execute: (statement) => this.#execute(statement),
      executeText: (text, parameters) => this.#executeQuery(CompiledQuery.raw(text, [...parameters])),
      textOf: (piece) => piece.compile(kysely).sql,
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
  const underway = kysely.isTransaction ? new Underway() : null;
  return new KyselyStore(sharedOf(model, kysely, options), kysely, {
    depth: 0,
    scope: null,
    underway,
    hasParts: kysely.isTransaction,
  });
};
