import type { SortKey } from '../plan/condition.js';
import type { EntityPlan, LinkPlan } from '../plan/entity-plan.js';
import { wholeOrder } from '../plan/whole-order.js';
import { compareInOrder, type Placed } from '../values/orders.js';
import { orderedValue, satisfiesAll } from '../values/satisfies.js';
import type { RowQuery } from './store.js';

/** A stored row: its columns are its own properties, its links are getters. It never changes. */
export type MemoryRow = Readonly<Record<string, unknown>>;

/** The values of some properties as one text; null where one of them is null, for that leads nowhere. */
export const joinText = (row: MemoryRow, names: readonly string[]): string | null => {
  const [only] = names;
  if (names.length === 1 && only !== undefined) {
    const value = row[only];
    return value === null ? null : String(value);
  }
  const values = names.map((name) => row[name]);
  return values.includes(null) ? null : JSON.stringify(values.map(String));
};

const wholeOf = (value: unknown): bigint => BigInt((value as number | bigint | null) ?? 0);

const orderText = (sort: readonly SortKey[]): string =>
  sort.map(({ column, descending }) => `${column.name} ${descending}`).join();

/** An order that depends on nothing but the rows themselves. */
const isOwn = (sort: readonly SortKey[]): boolean =>
  sort.every(({ path, shown }) => path.length === 0 && shown === null);

const placeOf = (order: readonly SortKey[], row: MemoryRow): Placed => ({
  values: order.map((key) => orderedValue(key, row)),
});

/** The rows of one entity by their key, with what is found again and again kept until a row changes. */
export class MemoryTable {
  readonly entity: EntityPlan;
  readonly #rows = new Map<string, MemoryRow>();
  readonly #orders = new Map<string, readonly MemoryRow[]>();
  readonly #indexes = new Map<string, ReadonlyMap<string, readonly MemoryRow[]>>();
  readonly #highest = new Map<string, bigint>();

  constructor(entity: EntityPlan) {
    this.entity = entity;
  }

  keyText(row: MemoryRow): string {
    return joinText(row, this.entity.key) ?? '';
  }

  get(key: string): MemoryRow | undefined {
    return this.#rows.get(key);
  }

  /** @returns what undoes it */
  put(row: MemoryRow): () => void {
    const key = this.keyText(row);
    const before = this.#rows.get(key);
    this.#rows.set(key, row);
    for (const [name, highest] of this.#highest) {
      const value = wholeOf(row[name]);
      if (value > highest) this.#highest.set(name, value);
    }
    this.#forget();
    return () => {
      if (before === undefined) this.#rows.delete(key);
      else this.#rows.set(key, before);
      this.#forget();
    };
  }

  /** @returns what undoes it */
  delete(row: MemoryRow): () => void {
    const key = this.keyText(row);
    this.#rows.delete(key);
    this.#forget();
    return () => {
      this.#rows.set(key, row);
      this.#forget();
    };
  }

  /** The next number of a column that counts its rows: one more than it ever had. */
  next(column: string): bigint {
    let highest = this.#highest.get(column);
    if (highest === undefined) {
      highest = 0n;
      for (const row of this.#rows.values()) {
        const value = wholeOf(row[column]);
        if (value > highest) highest = value;
      }
    }
    this.#highest.set(column, highest + 1n);
    return highest + 1n;
  }

  /** The rows whose properties have these values. */
  having(names: readonly string[], text: string | null): readonly MemoryRow[] {
    if (text === null) return [];
    if (names.join() === this.entity.key.join()) {
      const row = this.#rows.get(text);
      return row === undefined ? [] : [row];
    }
    const index = names.join();
    let found = this.#indexes.get(index);
    if (found === undefined) {
      found = this.#index(names);
      this.#indexes.set(index, found);
    }
    return found.get(text) ?? [];
  }

  select({ where = [], sort = [], after, offset = 0, limit }: RowQuery): readonly MemoryRow[] {
    const order = wholeOrder(this.entity, sort);
    let rows = this.#inOrder(order);
    if (where.length > 0) {
      rows = rows.filter((row) => satisfiesAll(where, row));
    }
    if (after !== undefined)
      rows = rows.filter((row) => compareInOrder(order, placeOf(order, row), { values: after }) > 0);
    return offset === 0 && limit === undefined
      ? rows
      : rows.slice(offset, limit === undefined ? undefined : offset + limit);
  }

  /** Behind a link, rows come in the order of their key. */
  behind(link: LinkPlan, row: MemoryRow): readonly MemoryRow[] {
    return this.having(link.to, joinText(row, link.from));
  }

  #forget(): void {
    this.#orders.clear();
    this.#indexes.clear();
  }

  #inOrder(order: readonly SortKey[]): readonly MemoryRow[] {
    if (!isOwn(order)) return this.#sorted(order);
    const name = orderText(order);
    let rows = this.#orders.get(name);
    if (rows === undefined) {
      rows = this.#sorted(order);
      this.#orders.set(name, rows);
    }
    return rows;
  }

  #sorted(order: readonly SortKey[]): readonly MemoryRow[] {
    const placed = Array.from(this.#rows.values(), (row) => ({ row, ...placeOf(order, row) }));
    placed.sort((a, b) => compareInOrder(order, a, b));
    return placed.map(({ row }) => row);
  }

  #index(names: readonly string[]): ReadonlyMap<string, readonly MemoryRow[]> {
    const index = new Map<string, MemoryRow[]>();
    for (const row of this.#inOrder(wholeOrder(this.entity, []))) {
      const text = joinText(row, names);
      if (text === null) continue;
      const same = index.get(text);
      if (same === undefined) index.set(text, [row]);
      else same.push(row);
    }
    return index;
  }
}
