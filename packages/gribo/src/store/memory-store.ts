import type { Values } from '../change/change-plan.js';
import { stampedTerms } from '../change/change-terms.js';
import { planChange, type WantedChange } from '../change/plan-change.js';
import type { EntityName, Model, ModelTypes } from '../declare/entity/model.js';
import type { ColumnValues } from '../declare/types/row-types.js';
import { ConflictError } from '../errors/conflict-error.js';
import type { LoadPlan } from '../load/plan-load.js';
import type { EntityPlan } from '../plan/entity-plan.js';
import type { LinkedEntities } from '../plan/linked-entity.js';
import { clock } from '../util/clock.js';
import { freeze } from '../util/freeze.js';
import { satisfiesAll } from '../values/satisfies.js';
import { checkStorable } from './check-storable.js';
import { keptValues } from './kept-values.js';
import { MemoryChange } from './memory-change.js';
import { joinText, type MemoryRow } from './memory-table.js';
import { MemoryTables } from './memory-tables.js';
import { type Loaded, MemoryViews } from './memory-views.js';
import type { ChangeOptions, Guard, Key, KeyValue, RowQuery, Store } from './store.js';

/** Rows by the names of their entities: values of columns, and what rows of their links have. */
export type MemoryRows<M = unknown> = M extends ModelTypes
  ? { readonly [K in EntityName<M>]?: Iterable<ColumnValues<M, K>> }
  : Readonly<Record<string, Iterable<object>>>;

export interface MemoryOptions {
  /** The clock, for changes that are not part of a request: those go by its moment. Default: the program's. */
  readonly now?: () => Date;
  /** A new UUID for generated columns. Default: a random one. */
  readonly uuid?: () => string;
}

/** A store whose rows are at hand: what it streams is there at once. */
export interface MemoryStore extends Store {
  stream(plan: LoadPlan, query?: RowQuery): Iterable<object>;
}

/** The key as the table keeps it. */
const keyTextOf = (entity: EntityPlan, key: Key): string => {
  const values = Object.fromEntries(entity.key.map((name, i) => [name, key[i]]));
  return joinText(keptValues(entity, values), entity.key) ?? '';
};

/** What a store in memory is made of: a transaction shares it with the store that it is of. */
interface Memory {
  readonly model: LinkedEntities;
  readonly tables: MemoryTables;
  readonly views: MemoryViews;
  readonly now: () => Date;
  readonly uuid: () => string;
}

/** Rows in memory behind the interface of every store. */
class RowsInMemory implements MemoryStore {
  readonly #memory: Memory;
  /** The changes of the transaction that this is the store of, in their order; null: each is done for itself. */
  readonly #done: MemoryChange[] | null;
  /** What the next change waits for: the end of the transaction that is open. */
  #turn: Promise<unknown> = Promise.resolve();

  constructor(memory: Memory, done: MemoryChange[] | null) {
    this.#memory = memory;
    this.#done = done;
  }

  async list(plan: Loaded, query = {}): Promise<readonly object[]> {
    return this.stream(plan, query);
  }

  stream(plan: Loaded, query = {}): readonly object[] {
    const rows = this.#memory.tables.table(plan.entity).select(query);
    const make = this.#viewOf(plan);
    return make === null ? rows : rows.map(make);
  }

  async count(entity: string, where: Guard['where'] = []): Promise<number> {
    return this.#memory.tables.table(entity).select({ where }).length;
  }

  async read(plan: Loaded, key: Key, where: Guard['where'] = []): Promise<object | null> {
    const row = this.#find(plan.entity, key, where);
    return row === null ? null : (this.#viewOf(plan)?.(row) ?? row);
  }

  async create(entity: string, change: object, options: ChangeOptions = {}): Promise<Key> {
    const { key } = this.#memory.tables.linked(entity).entity;
    const row = await this.#run({ operation: 'create', entity, change }, options);
    return freeze(key.map((name) => row?.[name] as KeyValue));
  }

  async createAll(
    entity: string,
    batches: AsyncIterable<readonly object[]>,
    { signal, ...terms }: ChangeOptions = {},
  ): Promise<number> {
    const all: object[] = [];
    for await (const batch of batches) all.push(...batch);
    const { model, now } = this.#memory;
    const stamped = stampedTerms(terms, now);
    if (all.length === 0) return 0;
    const whole = planChange(model, { operation: 'create', entity, changes: all }, stamped);
    const single = (changing: MemoryChange): void => {
      for (const [at, change] of all.entries())
        changing.stepsOf(at, planChange(model, { operation: 'create', entity, change }, stamped));
    };
    try {
      await this.#change((changing) => changing.steps(whole, () => true), stamped, signal);
    } catch (error) {
      // All of them were taken back: by themselves, the one that does not fit is found, and nothing is stored either.
      if (!(error instanceof ConflictError)) throw error;
      const alone = new RowsInMemory(this.#memory, []);
      await alone.#change(single, stamped, signal);
      for (const change of alone.#done ?? []) change.undo();
      throw error;
    }
    return all.length;
  }

  async amend(entity: string, key: Key, change: object, guard: Guard = {}): Promise<boolean> {
    return (await this.#run({ operation: 'amend', entity, key, change }, guard)) !== null;
  }

  async remove(entity: string, key: Key, guard: Guard = {}): Promise<boolean> {
    return (await this.#run({ operation: 'remove', entity, key }, guard)) !== null;
  }

  async transaction<T>(work: (store: Store) => Promise<T>): Promise<T> {
    const before = this.#turn;
    const own = before.then(() => this.#transacted(work));
    // What waits for it does so whether it fails or not.
    this.#turn = own.catch(() => undefined);
    return own;
  }

  #viewOf(plan: Loaded): ((row: MemoryRow) => MemoryRow) | null {
    const { views } = this.#memory;
    return this.#done === null ? views.of(plan) : views.fixed(plan);
  }

  /** Work whose changes are taken back together where it fails. */
  async #transacted<T>(work: (store: Store) => Promise<T>): Promise<T> {
    const done: MemoryChange[] = [];
    try {
      const result = await work(new RowsInMemory(this.#memory, done));
      this.#done?.push(...done);
      return result;
    } catch (error) {
      for (const change of done.reverse()) change.undo();
      throw error;
    }
  }

  async #run(
    wanted: WantedChange,
    { where = [], check, signal, ...terms }: Guard = {},
  ): Promise<Values | null> {
    const { views, model, now } = this.#memory;
    const stamped = stampedTerms(terms, now);
    const isMeant = (row: MemoryRow): boolean => {
      if (!satisfiesAll(where, row)) return false;
      check?.row(views.of(check.plan)?.(row) ?? row);
      return true;
    };
    const plan = planChange(model, wanted, stamped);
    return this.#change((work) => work.steps(plan, isMeant), stamped, signal);
  }

  async #change<T>(
    work: (change: MemoryChange) => T,
    { stamp }: ReturnType<typeof stampedTerms>,
    signal?: AbortSignal,
  ): Promise<T> {
    await this.#turn;
    signal?.throwIfAborted();
    const change = new MemoryChange(this.#memory.tables, { now: stamp.now, uuid: this.#memory.uuid });
    const result = change.run(work);
    this.#done?.push(change);
    return result;
  }

  #find(entity: string, key: Key, where: Guard['where'] = []): MemoryRow | null {
    const table = this.#memory.tables.table(entity);
    const row = table.get(keyTextOf(table.entity, key));
    if (row === undefined) return null;
    return satisfiesAll(where, row) ? row : null;
  }
}

const columnsOf = ({ columns }: EntityPlan, row: object): Values =>
  Object.fromEntries(columns.map((column) => [column.name, (row as Values)[column.name]]));

/** The rows of the start: they may name each other in circles, so all of them are one change. */
const fill = ({ tables, now, uuid }: Memory, rows: MemoryRows): void => {
  new MemoryChange(tables, { now: now(), uuid }).run((change) => {
    for (const [name, all] of Object.entries(rows)) {
      const { entity } = tables.linked(name);
      change.insert(
        name,
        Array.from(all, (row) => columnsOf(entity, row)),
      );
    }
  });
};

/**
 * A store whose rows are in memory: for tests, samples and browsers. It checks keys, unique columns
 * and to-one links as a database does, and makes what is `generated`.
 *
 * @param model the model
 * @param rows rows by the names of their entities, as plain objects by property names; links are
 * found by the columns that join them
 * @param options `now` and `uuid`, for what is generated
 * @throws {ConflictError} `CONFLICT` where the rows do not fit each other
 * @throws {DeclarationError} `DECLARATION` where a column is read by `.via()`
 * @example
 * memoryStore(db, { quay: [{ id: 3, name: 'Lantern Quay', parentId: null }] })
 */
export const memoryStore = <M extends ModelTypes>(
  model: Model<M>,
  rows: MemoryRows<M> = {} as MemoryRows<M>,
  options: MemoryOptions = {},
): MemoryStore => {
  checkStorable('memoryStore', model);
  const tables = new MemoryTables(model);
  const memory = {
    model,
    tables,
    views: new MemoryViews(tables),
    now: options.now ?? clock,
    uuid: options.uuid ?? (() => globalThis.crypto.randomUUID()),
  };
  fill(memory, rows as MemoryRows);
  return new RowsInMemory(memory, null);
};
