import { GriboError, type LoadPlan } from 'gribo';
import { type EntityPlan, type LinkedEntity, type RowQuery, unknownEntity, wholeOrder } from 'gribo/kit';
import type { IsolationLevel } from 'kysely';
import { askableLoad, askableOrder } from '../capacity/askable-load.js';
import { Capacities } from '../capacity/capacities.js';
import { type Database, databaseOf, readTold, type TextOrder } from '../dialects/database.js';
import type { SqlDialect } from '../dialects/dialect.js';
import { StatementError } from '../errors/statement-error.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import type { AskedQuery } from '../load/load-rows.js';

/** What a database is asked, and whether it alone can tell if the values in it are any. */
export interface Asked {
  readonly query: AskedQuery;
  readonly isUnsure: boolean;
}

/** What is known of a database's columns: what they hold, and how they compare. */
export interface Known {
  readonly capacities: Capacities;
  readonly database: Database;
  /** The same, for statements whose rows are sent as lines; null where they are not. */
  readonly packed: Database | null;
  /** The isolation level of changes; null: that of the database. */
  readonly isolation: IsolationLevel | null;
  /** Whether its sessions write texts as lines have them, without being told. */
  readonly isSure: boolean;
}

/** What is found out once, for a store and those of its transactions. */
interface Found {
  known: Promise<Known> | null;
  readonly loads: WeakMap<LoadPlan, Promise<LoadPlan>>;
}

/** What does not change: the entities, the dialect, and how texts are put in order. */
interface Terms {
  readonly entities: ReadonlyMap<string, LinkedEntity>;
  readonly dialect: SqlDialect;
  readonly texts: TextOrder;
}

/** Asks a database nothing that its columns cannot hold. */
export class Asking {
  readonly #terms: Terms;
  readonly #kysely: AnyKysely;
  readonly #found: Found;

  constructor(terms: Terms, kysely: AnyKysely, found: Found = { known: null, loads: new WeakMap() }) {
    this.#terms = terms;
    this.#kysely = kysely;
    this.#found = found;
  }

  /** The same on another connection: what is not known yet is read there, for there may be no other. */
  on(kysely: AnyKysely): Asking {
    return new Asking(this.#terms, kysely, this.#found);
  }

  /** What the database says of its columns, read once. */
  known(): Promise<Known> {
    const found = this.#found;
    found.known ??= this.#read().catch((error: unknown) => {
      // The next request tries again.
      found.known = null;
      throw error instanceof GriboError
        ? error
        : new StatementError(this.#terms.dialect.failure(error), null);
    });
    return found.known;
  }

  async #read(): Promise<Known> {
    const { entities, dialect, texts } = this.#terms;
    const linked = [...entities.values()];
    const told = await readTold(
      dialect,
      this.#kysely,
      linked.map(({ entity }) => entity.table),
    );
    const { packs } = dialect;
    return {
      capacities: Capacities.of(linked, dialect, told),
      database: databaseOf(dialect, told, texts),
      packed: packs && databaseOf({ ...dialect, ...packs }, told, texts),
      isolation: (await dialect.isolation?.(this.#kysely)) ?? null,
      isSure: packs?.isSure([...told.values()]) === true,
    };
  }

  /** A load plan as the database can be asked; made once, as what is prepared for it is. */
  load(plan: LoadPlan): Promise<LoadPlan> {
    let load = this.#found.loads.get(plan);
    if (load === undefined) {
      load = this.known().then(({ capacities }) => askableLoad(plan, capacities));
      this.#found.loads.set(plan, load);
      // The next request tries again.
      load.catch(() => this.#found.loads.delete(plan));
    }
    return load;
  }

  /** What the database is asked; null where no row can be what is looked for. */
  async askable(entity: string, query: RowQuery): Promise<Asked | null> {
    const { where = [], sort = [], after } = query;
    const isPlain = sort.every(({ shown }) => shown === null);
    if (where.length === 0 && after === undefined && isPlain) return { query, isUnsure: false };
    const { capacities } = await this.known();
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
    const linked = this.#terms.entities.get(name);
    if (linked === undefined) throw unknownEntity(name, this.#terms.entities.keys());
    return linked.entity;
  }
}
