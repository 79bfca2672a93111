import { counts, type LoadCount, type LoadLink, type LoadPlan, type SortKey, type ThroughPlan } from 'gribo';
import { type Expression, type Kysely, sql } from 'kysely';
import type { Tables } from './database.js';

type Row = Record<PropertyKey, unknown>;
type Database = Kysely<Tables>;

/** Which rows of an entity: those whose columns have these values, so many at most. */
export interface Wanted {
  /** Stored columns, and lists of their values in step. */
  readonly columns?: readonly string[];
  readonly values?: readonly (readonly unknown[])[];
  readonly limit?: number;
  /** The order; left out: by the key. */
  readonly sort?: readonly SortKey[];
}

const keyOf = (row: Row, names: readonly string[]): string =>
  JSON.stringify(names.map((name) => String(row[name])));

/** The column that keeps a property; its own name where the plan does not load it. */
export const storedName = (plan: LoadPlan, property: string): string =>
  plan.columns.find((column) => column.name === property)?.stored ?? property;

/** Whether these columns have one of these lists of values. */
const isOneOf = (
  columns: readonly string[],
  values: readonly (readonly unknown[])[],
): Expression<boolean> => {
  const tuples = values.map((tuple) => sql`(${sql.join([...tuple])})`);
  const left = sql.join(columns.map((column) => sql.ref(column)));
  return sql<boolean>`(${left}) in (${sql.join(tuples)})`;
};

const select = (database: Database, plan: LoadPlan, wanted: Wanted) => {
  const { columns = [], values, limit, sort = [] } = wanted;
  let query = database
    .selectFrom(plan.table)
    .select(plan.columns.map(({ name, stored }) => `${plan.table}.${stored} as ${name}` as const));
  if (values !== undefined) query = query.where(isOneOf(columns, values));
  for (const { column, descending } of sort) {
    query = query.orderBy(`${plan.table}.${column.stored}`, (order) =>
      (descending ? order.desc() : order.asc()).nullsLast(),
    );
  }
  for (const name of plan.key) query = query.orderBy(`${plan.table}.${storedName(plan, name)}`);
  return limit === undefined ? query : query.limit(limit);
};

/**
 * Loads what a plan says, and nothing else: one statement for the rows, one for each link,
 * however many rows there are.
 */
export const load = async (database: Database, plan: LoadPlan, wanted: Wanted = {}): Promise<Row[]> => {
  if (wanted.values?.length === 0) return [];
  const rows: Row[] = await select(database, plan, wanted).execute();
  for (const link of plan.links) await attach(database, rows, link);
  for (const counting of plan.counts) await attachCount(database, rows, counting);
  return rows;
};

/** The distinct values that rows join by; those with a null join nothing. */
const joinValues = (rows: readonly Row[], names: readonly string[]): unknown[][] => {
  const distinct = new Map(rows.map((row) => [keyOf(row, names), names.map((name) => row[name])]));
  return [...distinct.values()].filter((values) => !values.includes(null));
};

const grouped = (rows: readonly Row[], names: readonly string[]): Map<string, Row[]> => {
  const groups = new Map<string, Row[]>();
  for (const row of rows) {
    const key = keyOf(row, names);
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  return groups;
};

const attach = async (database: Database, rows: readonly Row[], loading: LoadLink): Promise<void> => {
  const { link, plan } = loading;
  if (link.through !== null) return attachThrough(database, rows, loading, link.through);
  const columns = link.to.map((name) => storedName(plan, name));
  const found = await load(database, plan, { columns, values: joinValues(rows, link.from) });
  const byKey = grouped(found, link.to);
  for (const row of rows) {
    const behind = byKey.get(keyOf(row, link.from)) ?? [];
    row[link.name] = link.kind === 'toMany' ? behind : (behind[0] ?? null);
  }
};

/** Many-to-many: the pairs of keys first, then the rows they lead to. */
const attachThrough = async (
  database: Database,
  rows: readonly Row[],
  { link, plan }: LoadLink,
  through: ThroughPlan,
): Promise<void> => {
  const pairs = await selectPairs(database, through, joinValues(rows, link.from));
  const columns = link.to.map((name) => storedName(plan, name));
  const found = grouped(
    await load(database, plan, { columns, values: joinValues(pairs, through.to) }),
    link.to,
  );
  const pairsOf = grouped(pairs, through.from);
  for (const row of rows) {
    const reached = pairsOf.get(keyOf(row, link.from)) ?? [];
    row[link.name] = reached.flatMap((pair) => found.get(keyOf(pair, through.to)) ?? []);
  }
};

const selectPairs = async (database: Database, through: ThroughPlan, values: unknown[][]): Promise<Row[]> => {
  if (values.length === 0) return [];
  const { entity, from, to } = through;
  const stored = (name: string): string =>
    entity.columns.find((column) => column.name === name)?.stored ?? name;
  return database
    .selectFrom(entity.table)
    .select([...from, ...to].map((name) => `${stored(name)} as ${name}` as const))
    .where(isOneOf(from.map(stored), values))
    .orderBy(stored(to[0] ?? ''))
    .execute();
};

/** Counts in the database what is not loaded. */
const attachCount = async (
  database: Database,
  rows: readonly Row[],
  { name, link }: LoadCount,
): Promise<void> => {
  const holder = link.through?.entity ?? link.target;
  const names = link.through?.from ?? link.to;
  const columns = names.map((to) => holder.columns.find((column) => column.name === to)?.stored ?? to);
  const values = joinValues(rows, link.from);
  const found: Row[] =
    values.length === 0
      ? []
      : await database
          .selectFrom(holder.table)
          .select(columns.map((column, i) => `${column} as ${names[i]}` as const))
          .select(sql<string>`count(*)`.as('many'))
          .where(isOneOf(columns, values))
          .groupBy(columns)
          .execute();
  const byKey = grouped(found, names);
  for (const row of rows) {
    const many = byKey.get(keyOf(row, link.from))?.[0]?.['many'] ?? 0;
    row[counts] = { ...(row[counts] as object | undefined), [name]: Number(many) };
  }
};
