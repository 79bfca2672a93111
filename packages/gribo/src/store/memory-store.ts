import type { Values } from '../change/change-plan.js';
import { planChange, type WantedChange } from '../change/plan-change.js';
import type { EntityName, Model, ModelTypes } from '../declare/entity/model.js';
import type { ColumnValues } from '../declare/types/row-types.js';
import type { LoadPlan } from '../load/plan-load.js';
import type { EntityPlan } from '../plan/entity-plan.js';
import type { LinkedEntities } from '../plan/linked-entity.js';
import { freeze } from '../util/freeze.js';
import { satisfiesAll } from '../values/satisfies.js';
import { checkStorable } from './check-storable.js';
import { keptValues } from './kept-values.js';
import { MemoryChange, type MemoryMakers } from './memory-change.js';
import { joinText, type MemoryRow } from './memory-table.js';
import { MemoryTables } from './memory-tables.js';
import { type Loaded, MemoryViews } from './memory-views.js';
import type { ChangeOptions, Guard, Key, KeyValue, RowQuery, Store } from './store.js';

/** Rows by the names of their entities: values of columns, and what rows of their links have. */
export type MemoryRows<M = unknown> = M extends ModelTypes
  ? { readonly [K in EntityName<M>]?: Iterable<ColumnValues<M, K>> }
  : Readonly<Record<string, Iterable<object>>>;

export interface MemoryOptions {
  /** The moment that generated columns hold. Default: now. */
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

/** Rows in memory behind the interface of every store. */
class RowsInMemory implements MemoryStore {
  readonly #tables: MemoryTables;
  readonly #views: MemoryViews;
  readonly #makers: MemoryMakers;
  readonly #model: LinkedEntities;

  constructor(model: LinkedEntities, rows: MemoryRows, makers: MemoryMakers) {
    checkStorable('memoryStore', model);
    this.#tables = new MemoryTables(model);
    this.#views = new MemoryViews(this.#tables);
    this.#makers = makers;
    this.#model = model;
    // Rows of the start may name each other in circles: all of them are one change.
    this.#change((change) => {
      for (const [name, all] of Object.entries(rows)) {
        change.insert(
          name,
          Array.from(all, (row) => this.#columnsOf(name, row)),
        );
      }
    });
  }

  async list(plan: Loaded, query = {}): Promise<readonly object[]> {
    return this.stream(plan, query);
  }

  stream(plan: Loaded, query = {}): readonly object[] {
    const rows = this.#tables.table(plan.entity).select(query);
    const make = this.#views.of(plan);
    return make === null ? rows : rows.map(make);
  }

  async count(entity: string, where: Guard['where'] = []): Promise<number> {
    return this.#tables.table(entity).select({ where }).length;
  }

  async read(plan: Loaded, key: Key, where: Guard['where'] = []): Promise<object | null> {
    const row = this.#find(plan.entity, key, where);
    return row === null ? null : (this.#views.of(plan)?.(row) ?? row);
  }

  async create(entity: string, change: object, options: ChangeOptions = {}): Promise<Key> {
    const { key } = this.#tables.linked(entity).entity;
    const row = this.#run({ operation: 'create', entity, change }, options);
    return freeze(key.map((name) => row?.[name] as KeyValue));
  }

  async createAll(
    entity: string,
    batches: AsyncIterable<readonly object[]>,
    { signal, ...terms }: ChangeOptions = {},
  ): Promise<number> {
    const all: object[] = [];
    for await (const batch of batches) all.push(...batch);
    signal?.throwIfAborted();
    this.#change((work) => {
      for (const [at, change] of all.entries())
        work.stepsOf(at, planChange(this.#model, { operation: 'create', entity, change }, terms));
    });
    return all.length;
  }

  async amend(entity: string, key: Key, change: object, guard: Guard = {}): Promise<boolean> {
    return this.#run({ operation: 'amend', entity, key, change }, guard) !== null;
  }

  async remove(entity: string, key: Key, guard: Guard = {}): Promise<boolean> {
    return this.#run({ operation: 'remove', entity, key }, guard) !== null;
  }

  #run(wanted: WantedChange, { where = [], check, signal, ...terms }: Guard = {}): Values | null {
    signal?.throwIfAborted();
    const isMeant = (row: MemoryRow): boolean => {
      if (!satisfiesAll(where, row)) return false;
      check?.row(this.#views.of(check.plan)?.(row) ?? row);
      return true;
    };
    const plan = planChange(this.#model, wanted, terms);
    return this.#change((work) => work.steps(plan, isMeant));
  }

  #change<T>(work: (change: MemoryChange) => T): T {
    return new MemoryChange(this.#tables, this.#makers).run(work);
  }

  #find(entity: string, key: Key, where: Guard['where'] = []): MemoryRow | null {
    const table = this.#tables.table(entity);
    const row = table.get(keyTextOf(table.entity, key));
    if (row === undefined) return null;
    return satisfiesAll(where, row) ? row : null;
  }

  #columnsOf(name: string, row: object): Values {
    const { columns } = this.#tables.linked(name).entity;
    return Object.fromEntries(columns.map((column) => [column.name, (row as Values)[column.name]]));
  }
}

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
): MemoryStore =>
  new RowsInMemory(model, rows as MemoryRows, {
    now: options.now ?? (() => new Date()),
    uuid: options.uuid ?? (() => globalThis.crypto.randomUUID()),
  });
