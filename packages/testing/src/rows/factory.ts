import { type EntityName, GriboError, type Model, type ModelTypes, type StoredRow, samples } from 'gribo';
import type { LinkedEntities, LinkPlan } from 'gribo/kit';

export interface FactoryOptions {
  /** What the made-up values follow from: the same seed gives the same rows. Default: 1. */
  readonly seed?: number | string;
}

type Values = Record<string, unknown>;

/** Makes rows of one model; what they refer to is made along. */
export interface Factory<M extends ModelTypes> {
  /**
   * A new row: what is not given is made up, and the rows that it refers to are made too.
   *
   * @example
   * make('vessel', { name: 'Anselma' }).operatorId
   */
  <K extends EntityName<M>>(entity: K, values?: Partial<StoredRow<M, K>>): StoredRow<M, K>;
  /** All rows that were made, by the names of their entities, as `memoryStore` and `testServer` take them. */
  rows(): Readonly<Record<string, readonly object[]>>;
}

/** How many rows are made up at first; twice as many when they are used up. */
const FIRST = 32;

/** Rows that are made up in advance, and handed out one by one. */
class Making {
  readonly #model: LinkedEntities;
  readonly #seed: number | string;
  readonly #used = new Map<string, number>();
  readonly #made = new Map<string, Values[]>();
  #size = FIRST;
  #pool: Readonly<Record<string, readonly object[]>>;

  constructor(model: LinkedEntities, seed: number | string) {
    this.#model = model;
    this.#seed = seed;
    this.#pool = samples(model, { seed, rows: FIRST });
  }

  rows(): Readonly<Record<string, readonly object[]>> {
    return Object.fromEntries([...this.#made].map(([name, rows]) => [name, [...rows]]));
  }

  make(entity: string, given: Values): Values {
    const linked = this.#model[entity];
    if (linked === undefined)
      throw new GriboError(
        'UNKNOWN',
        entity,
        `there is no such entity. There are: ${Object.keys(this.#model).join(', ')}`,
      );
    const row: Values = { ...this.#next(entity), ...given };
    for (const link of linked.links.values()) if (link.reference === 'here') this.#refer(row, link, given);
    this.#keep(entity, row);
    return row;
  }

  /** A row of the pool that was not handed out yet. */
  #next(entity: string): Values {
    const place = this.#used.get(entity) ?? 0;
    this.#used.set(entity, place + 1);
    while (place >= (this.#pool[entity]?.length ?? 0)) this.#grow(entity, place);
    return (this.#pool[entity]?.[place] ?? {}) as Values;
  }

  #grow(entity: string, place: number): void {
    this.#size *= 2;
    this.#pool = samples(this.#model, { seed: this.#seed, rows: this.#size });
    if (place < (this.#pool[entity]?.length ?? 0) || this.#size < place * 4) return;
    throw new GriboError(
      'DECLARATION',
      entity,
      `no more than ${place} rows of it can be made up: its key or a unique column has no more values`,
    );
  }

  /** Points a row at one that is there: a row that was given by its key, or one that is made now. */
  #refer(row: Values, { from, to, target }: LinkPlan, given: Values): void {
    const isGiven = from.some((name) => name in given);
    if (isGiven || from.some((name) => row[name] === null)) return;
    const rows = this.#made.get(target.name) ?? [];
    const wanted = rows.at(-1) ?? this.make(target.name, {});
    for (const [place, name] of from.entries()) row[name] = wanted[to[place] ?? ''];
  }

  #keep(entity: string, row: Values): void {
    const made = this.#made.get(entity);
    if (made === undefined) this.#made.set(entity, [row]);
    else made.push(row);
  }
}

/**
 * Makes rows for tests, one at a time: give what the test is about, the rest is made up by type, limits and pattern, and fits.
 * A row refers to the row of its link that was made last, or to a new one.
 *
 * @param model the model
 * @param options `seed`
 * @returns a function of an entity's name and values; its `rows()` are all that it made
 * @throws {DeclarationError} `DECLARATION` where a column's values cannot be made up
 * @example
 * const make = factory(db);
 * make('vessel', { name: 'Anselma' });
 * const store = memoryStore(db, make.rows());
 */
export const factory = <M extends ModelTypes>(
  model: Model<M>,
  { seed = 1 }: FactoryOptions = {},
): Factory<M> => {
  const making = new Making(model, seed);
  const make = (entity: string, values: Values = {}): Values => making.make(entity, values);
  return Object.assign(make, { rows: () => making.rows() }) as unknown as Factory<M>;
};
