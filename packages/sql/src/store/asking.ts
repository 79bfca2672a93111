import { GriboError, type LoadPlan } from 'gribo';
import { type EntityPlan, type LinkedEntity, type RowQuery, unknownEntity, wholeOrder } from 'gribo/kit';
import { askableLoad, askableOrder } from '../capacity/askable-load.js';
import { Capacities } from '../capacity/capacities.js';
import type { SqlDialect } from '../dialects/dialect.js';
import { StatementError } from '../errors/statement-error.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import type { AskedQuery } from '../load/load-rows.js';

/** What a database is asked, and whether it alone can tell if the values in it are any. */
export interface Asked {
  readonly query: AskedQuery;
  readonly isUnsure: boolean;
}

/** Asks a database nothing that its columns cannot hold. */
export class Asking {
  readonly #entities: ReadonlyMap<string, LinkedEntity>;
  readonly #dialect: SqlDialect;
  readonly #kysely: AnyKysely;
  #capacities: Promise<Capacities> | null = null;
  readonly #loads = new WeakMap<LoadPlan, Promise<LoadPlan>>();

  constructor(entities: ReadonlyMap<string, LinkedEntity>, dialect: SqlDialect, kysely: AnyKysely) {
    this.#entities = entities;
    this.#dialect = dialect;
    this.#kysely = kysely;
  }

  /** What the columns can hold, read once. */
  capacities(): Promise<Capacities> {
    this.#capacities ??= Capacities.read(this.#entities.values(), this.#dialect, this.#kysely).catch(
      (error: unknown) => {
        // The next request tries again.
        this.#capacities = null;
        throw error instanceof GriboError ? error : new StatementError(this.#dialect.failure(error), null);
      },
    );
    return this.#capacities;
  }

  /** A load plan as the database can be asked; made once, as what is prepared for it is. */
  load(plan: LoadPlan): Promise<LoadPlan> {
    let load = this.#loads.get(plan);
    if (load === undefined) {
      load = askableLoad(plan, () => this.capacities());
      this.#loads.set(plan, load);
      // The next request tries again.
      load.catch(() => this.#loads.delete(plan));
    }
    return load;
  }

  /** What the database is asked; null where no row can be what is looked for. */
  async askable(entity: string, query: RowQuery): Promise<Asked | null> {
    const { where = [], sort = [], after } = query;
    const isPlain = sort.every(({ shown }) => shown === null);
    if (where.length === 0 && after === undefined && isPlain) return { query, isUnsure: false };
    const capacities = await this.capacities();
    const askable = capacities.askable(entity, where);
    if (askable === null) return null;
    const order = isPlain ? {} : { sort: askableOrder(sort, entity, capacities) };
    const asked = { ...query, ...order, where: askable.where };
    if (after === undefined) return { query: asked, isUnsure: askable.isUnsure };
    const standings = capacities.standings(entity, wholeOrder(this.#entityOf(entity), sort), after);
    if (standings.includes('nowhere')) return null;
    const isUnsure = askable.isUnsure || standings.includes('unsure');
    return { query: { ...asked, standings }, isUnsure };
  }

  /** What is found; nothing where only the database could tell that a value is none of its column's. */
  async found<T>({ isUnsure }: Asked, find: () => Promise<T>, nothing: T): Promise<T> {
    try {
      return await find();
    } catch (error) {
      if (isUnsure && error instanceof StatementError && error.isAboutValue) return nothing;
      throw error;
    }
  }

  #entityOf(name: string): EntityPlan {
    const linked = this.#entities.get(name);
    if (linked === undefined) throw unknownEntity(name, this.#entities.keys());
    return linked.entity;
  }
}
