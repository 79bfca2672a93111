import { GriboError, type Key, type LoadedRow } from 'gribo';
import { type ColumnPlan, type EntityPlan, ordering, type SortKey, type StoreCondition } from 'gribo/kit';
import type { Exchange } from '../operations/exchange.js';
import { planFor } from '../operations/plan-for.js';
import { equalTo } from '../request/key.js';
import type { Load, LoadOptions } from './handlers.js';

const columnOf = (entity: EntityPlan, name: string): ColumnPlan => {
  const column = entity.columns.find((candidate) => candidate.name === name);
  if (column === undefined)
    throw new GriboError('UNKNOWN', `load.${name}`, `load: ${entity.name} has no column "${name}"`);
  return column;
};

const sortKeyOf = (entity: EntityPlan, words: string): SortKey => {
  const descending = words.endsWith(' desc');
  return ordering(columnOf(entity, descending ? words.slice(0, -' desc'.length) : words), descending);
};

/** What a handler says of rows, as stores run it: values of columns, or conditions. */
export const whereOf = (entity: EntityPlan, where: object): readonly StoreCondition[] => {
  // Only `rowsWhere` makes arrays of conditions.
  if (Array.isArray(where)) return where as readonly StoreCondition[];
  const values = where as Readonly<Record<string, unknown>>;
  const names = Object.keys(values).map((name) => columnOf(entity, name).name);
  return equalTo(
    entity,
    names,
    names.map((name) => values[name]),
  );
};

/** Loads for a handler what the body of its endpoint needs. */
export class EndpointLoad implements Load {
  readonly #exchange: Exchange;

  constructor(exchange: Exchange) {
    this.#exchange = exchange;
  }

  row(...key: Key): Promise<LoadedRow | null> {
    return this.#exchange.store.read(planFor(this.#exchange), key);
  }

  rows({ where = {}, sort = [], limit, offset }: LoadOptions = {}): Promise<readonly LoadedRow[]> {
    const { entity } = this.#exchange.endpoint;
    return this.#exchange.store.list(planFor(this.#exchange), {
      where: whereOf(entity, where),
      sort: sort.map((words) => sortKeyOf(entity, words)),
      ...(limit === undefined ? {} : { limit }),
      ...(offset === undefined ? {} : { offset }),
    });
  }
}
