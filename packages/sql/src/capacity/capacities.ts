import type { LinkedEntity, RowFilter, SortKey, Values } from 'gribo/kit';
import { rowsOf } from '../catalogue/catalogue-rows.js';
import type { SqlDialect } from '../dialects/dialect.js';
import { type Capacity, mayBeHeld, type Standing, unknown } from '../kinds/capacity.js';
import type { AnyKysely } from '../kysely/any-kysely.js';

/** The comparisons that a database can be asked, and whether it alone can tell if their values are any. */
export interface Askable {
  readonly where: readonly RowFilter[];
  readonly isUnsure: boolean;
}

/** What the columns of a database can hold: nothing else is sent there. */
export class Capacities {
  /** By the entity's name, then by the column's. */
  readonly #of: ReadonlyMap<string, ReadonlyMap<string, Capacity>>;

  private constructor(of: ReadonlyMap<string, ReadonlyMap<string, Capacity>>) {
    this.#of = of;
  }

  /** Asks a database what its columns are; of a column that it does not know, nothing is known. */
  static async read(
    linked: Iterable<LinkedEntity>,
    { capacities: { columns, of } }: SqlDialect,
    kysely: AnyKysely,
  ): Promise<Capacities> {
    const entities = [...linked].map(({ entity }) => entity);
    const tables = [...new Set(entities.map(({ table }) => table))];
    const rows = columns === null || tables.length === 0 ? [] : await rowsOf(kysely, columns(tables));
    const said = new Map(rows.map((row) => [JSON.stringify([row['table'], row['column']]), row]));
    return new Capacities(
      new Map(
        entities.map(({ name, table, columns: all }) => [
          name,
          new Map(
            all.map((column) => [
              column.name,
              of(column.type, said.get(JSON.stringify([table, column.stored])) ?? null),
            ]),
          ),
        ]),
      ),
    );
  }

  /** What a database is asked for these comparisons; null where no row can pass them all. */
  askable(entity: string, where: readonly RowFilter[]): Askable | null {
    const kept: RowFilter[] = [];
    let isUnsure = false;
    for (const filter of where) {
      if (filter.operator === 'isNull') {
        kept.push(filter);
        continue;
      }
      const asked = within(filter, this.#capacity(entity, filter.column.name));
      if (asked === null) return null;
      kept.push(asked.filter);
      isUnsure ||= asked.isUnsure;
    }
    return { where: kept, isUnsure };
  }

  /** Where each of the values of a row stands in its column. */
  standings(entity: string, order: readonly SortKey[], values: readonly unknown[]): readonly Standing[] {
    return order.map(({ column }, i) => this.#standing(entity, column.name, values[i]));
  }

  /** Whether there can be a row of these values. */
  canBe(entity: string, values: Values): boolean {
    return Object.entries(values).every(([name, value]) => mayBeHeld(this.#standing(entity, name, value)));
  }

  /** The columns that cannot be set to what a row has for them. */
  overfull(entity: string, row: Values): readonly string[] {
    return Object.entries(row).flatMap(([name, value]) =>
      value === null || value === undefined || this.#capacity(entity, name).stores(value) ? [] : [name],
    );
  }

  #standing(entity: string, name: string, value: unknown): Standing {
    return value === null || value === undefined ? 'held' : this.#capacity(entity, name).compared(value);
  }

  #capacity(entity: string, name: string): Capacity {
    return this.#of.get(entity)?.get(name) ?? unknown;
  }
}

/** A comparison that a database can be asked. */
interface AskedFilter {
  readonly filter: RowFilter;
  readonly isUnsure: boolean;
}

/** Every value there is lies on that side: what is left to ask is whether there is one. */
const isThere = ({ column }: RowFilter): AskedFilter => ({
  filter: { column, operator: 'isNull', value: false },
  isUnsure: false,
});

/** A comparison with values that the column can hold; null where no row passes it. */
const within = (filter: RowFilter, capacity: Capacity): AskedFilter | null => {
  const { operator, value } = filter;
  if (operator === 'oneOfThese') {
    const standings = (value as readonly unknown[]).map((each) => [each, capacity.compared(each)] as const);
    const left = standings.filter(([, standing]) => mayBeHeld(standing));
    if (left.length === 0) return null;
    const isUnsure = left.some(([, standing]) => standing === 'unsure');
    return { filter: { ...filter, value: left.map(([each]) => each) }, isUnsure };
  }
  const standing = capacity.compared(value);
  if (standing === 'held') return { filter, isUnsure: false };
  if (standing === 'unsure') return { filter, isUnsure: true };
  const isBeside =
    (operator === 'atLeast' && standing === 'below') || (operator === 'atMost' && standing === 'above');
  return isBeside ? isThere(filter) : null;
};
