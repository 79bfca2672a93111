import type { ColumnPlan, Compares, LinkedEntity, Operand, SortKey, StoreCondition, Values } from 'gribo/kit';
import { storedForm } from '../dialects/coded.js';
import { type Told, toldKey } from '../dialects/database.js';
import type { SqlDialect } from '../dialects/dialect.js';
import { asNumbers, type Capacity, mayBeHeld, type Standing, unknown } from '../kinds/capacity.js';

/** The conditions that a database can be asked, and whether it alone can tell if the values in them are any. */
export interface Askable {
  readonly where: readonly StoreCondition[];
  readonly isUnsure: boolean;
}

/** What holds values in a form of their own. */
const ofForms = ({ compared, stores }: Capacity, column: ColumnPlan): Capacity => ({
  compared: (value) => compared(storedForm(column, value)),
  stores: (value) => stores(storedForm(column, value)),
});

/** What the columns of a database can hold: nothing else is sent there. */
export class Capacities {
  /** By the entity's name, then by the column's. */
  readonly #of: ReadonlyMap<string, ReadonlyMap<string, Capacity>>;

  private constructor(of: ReadonlyMap<string, ReadonlyMap<string, Capacity>>) {
    this.#of = of;
  }

  /** Of a column that a database does not know, nothing is known. */
  static of(linked: Iterable<LinkedEntity>, { facts }: SqlDialect, told: Told): Capacities {
    return new Capacities(
      new Map(
        [...linked].map(({ entity: { name, table, columns } }) => [
          name,
          new Map(
            columns.map((column) => {
              const { stored, type, coded } = column;
              const capacity = facts.capacity(coded?.type ?? type, told.get(toldKey(table, stored)) ?? null);
              const held = type.kind === 'integer' ? asNumbers(capacity) : capacity;
              return [column.name, coded === null ? held : ofForms(capacity, column)] as const;
            }),
          ),
        ]),
      ),
    );
  }

  /** What a database is asked for these conditions; null where no row can satisfy them all. */
  askable(entity: string, where: readonly StoreCondition[]): Askable | null {
    const asking = { isUnsure: false };
    const kept = this.#all(entity, where, asking);
    return kept === null ? null : { where: kept, isUnsure: asking.isUnsure };
  }

  /** Conditions as a database can be asked all of them; null where no row can satisfy them. */
  #all(
    entity: string,
    where: readonly StoreCondition[],
    asking: { isUnsure: boolean },
  ): readonly StoreCondition[] | null {
    const asked = where.map((condition) => this.#asked(entity, condition, asking));
    return asked.includes(false) ? null : asked.filter((condition) => typeof condition !== 'boolean');
  }

  /** A condition as a database can be asked; true or false where that is known without it. */
  #asked(entity: string, condition: StoreCondition, asking: { isUnsure: boolean }): StoreCondition | boolean {
    switch (condition.kind) {
      case 'compares':
        return this.#comparison(entity, condition, asking);
      case 'thereIs': {
        const { selection, link } = condition;
        const rows = this.#all(link.target.name, selection.where, asking);
        const middle = this.#all(link.through?.entity.name ?? '', condition.middle, asking);
        return rows === null || middle === null
          ? false
          : { ...condition, selection: { ...selection, where: rows }, middle };
      }
      case 'all':
      case 'any':
        return this.#joined(entity, condition.kind, condition.of, asking);
      case 'not': {
        const inner = this.#asked(entity, condition.of, asking);
        return typeof inner === 'boolean' ? !inner : { kind: 'not', of: inner };
      }
      default:
        return condition satisfies never;
    }
  }

  #joined(
    entity: string,
    kind: 'all' | 'any',
    conditions: readonly StoreCondition[],
    asking: { isUnsure: boolean },
  ): StoreCondition | boolean {
    const settles = kind === 'any';
    const asked = conditions.map((part) => this.#asked(entity, part, asking));
    if (asked.includes(settles)) return settles;
    const of = asked.filter((part) => typeof part !== 'boolean');
    const [only] = of;
    if (only === undefined) return !settles;
    return of.length === 1 ? only : { kind, of };
  }

  #comparison(entity: string, filter: Compares, asking: { isUnsure: boolean }): StoreCondition | boolean {
    const { left, operator, right } = filter;
    if (operator === 'isNull' || right.kind !== 'value') return filter;
    if (right.value === null) return false;
    const owner = left.path.at(-1)?.target.name ?? entity;
    const asked = within(filter, right.value, this.#capacity(owner, left.column.name));
    if (asked === null) return false;
    asking.isUnsure ||= asked.isUnsure;
    return asked.filter;
  }

  /** Where each of the values of a row stands in its column. */
  standings(entity: string, order: readonly SortKey[], values: readonly unknown[]): readonly Standing[] {
    return order.map(({ path, column }, i) =>
      this.#standing(path.at(-1)?.target.name ?? entity, column.name, values[i]),
    );
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
  readonly filter: StoreCondition;
  readonly isUnsure: boolean;
}

const valued = (value: unknown): Operand => ({ kind: 'value', value });

/** Every value there is lies on that side: what is left to ask is whether there is one. */
const isThere = (filter: Compares): AskedFilter => ({
  filter: { ...filter, operator: 'isNull', right: valued(false) },
  isUnsure: false,
});

/** A comparison with values that the column can hold; null where no row passes it. */
const within = (filter: Compares, value: unknown, capacity: Capacity): AskedFilter | null => {
  const { operator } = filter;
  if (operator === 'oneOfThese') {
    const standings = (value as readonly unknown[]).map((each) => [each, capacity.compared(each)] as const);
    const left = standings.filter(([, standing]) => mayBeHeld(standing));
    if (left.length === 0) return null;
    const isUnsure = left.some(([, standing]) => standing === 'unsure');
    return { filter: { ...filter, right: valued(left.map(([each]) => each)) }, isUnsure };
  }
  const standing = capacity.compared(value);
  if (standing === 'held') return { filter, isUnsure: false };
  if (standing === 'unsure') return { filter, isUnsure: true };
  const isBeside =
    (operator === 'atLeast' && standing === 'below') || (operator === 'atMost' && standing === 'above');
  return isBeside ? isThere(filter) : null;
};
