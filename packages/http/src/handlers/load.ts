import {
  type Bound,
  type EntityName,
  GriboError,
  type Key,
  type LoadPlan,
  type ModelTypes,
  type Store,
} from 'gribo';
import {
  type ColumnPlan,
  type EntityPlan,
  ordering,
  type RowQuery,
  type SortKey,
  type StoreCondition,
} from 'gribo/kit';
import type { Exchange } from '../operations/exchange.js';
import { planFor } from '../operations/plan-for.js';
import { rowPlan } from '../operations/row-plan.js';
import { equalTo } from '../request/key.js';
import type { Load, LoadOptions, StoredRows } from './handlers.js';

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

const queryOf = (
  entity: EntityPlan,
  { where = {}, sort = [], limit, offset }: LoadOptions = {},
): RowQuery => ({
  where: whereOf(entity, where),
  sort: sort.map((words) => sortKeyOf(entity, words)),
  ...(limit === undefined ? {} : { limit }),
  ...(offset === undefined ? {} : { offset }),
});

/** What rows must be besides: in one row, and in many. */
interface Within {
  readonly row: readonly StoreCondition[];
  readonly rows: readonly StoreCondition[];
}

const ANYWHERE: Within = { row: [], rows: [] };

/** Loads rows of one entity by a plan. */
const loading = (store: Store, entity: EntityPlan, planned: () => LoadPlan, within: Within) => ({
  row: (...key: Key) => store.read(planned(), key, within.row),
  rows: (options?: LoadOptions) => {
    const { where = [], ...query } = queryOf(entity, options);
    return store.list(planned(), { ...query, where: [...within.rows, ...where] });
  },
});

/** Loads for a handler what the body of its endpoint needs, or whole rows. */
export const loadFor = (exchange: Exchange, store: Store): Load => ({
  ...loading(store, exchange.endpoint.entity, () => planFor(exchange), {
    row: exchange.where,
    rows: [...exchange.where, ...exchange.query.where],
  }),
  anywhere: loading(
    store,
    exchange.endpoint.entity,
    () => planFor(exchange),
    ANYWHERE,
  ) as unknown as Load['anywhere'],
  from: <M extends ModelTypes, K extends EntityName<M>>({ entity }: Bound<M, K>): StoredRows<M, K> =>
    // A row has every column of its plan: that is the law of stores.
    loading(store, entity, () => rowPlan(entity, entity.columns), ANYWHERE) as unknown as StoredRows<M, K>,
});
