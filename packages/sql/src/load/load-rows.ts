import { type EntityPlan, type LoadLink, type LoadPlan, type RowQuery, wholeOrder } from 'gribo';
import { type RawBuilder, sql } from 'kysely';
import type { Piece, SqlColumn, SqlDialect } from '../dialects/dialect.js';
import { afterPiece, allOf, amongPiece, filterPiece, orderPiece, refOf } from './conditions.js';
import {
  columnsOf,
  type FlatRow,
  type MadeRow,
  type Many,
  makeRow,
  manysOf,
  Selecting,
} from './selecting.js';

/** Runs a statement and gives its rows. */
export type Run = (statement: RawBuilder<FlatRow>) => Promise<readonly FlatRow[]>;

/** What loading needs to know: how statements are written, run, and what entities there are. */
export interface Loading {
  readonly dialect: SqlDialect;
  readonly run: Run;
  entityOf(name: string): EntityPlan;
}

const where = (conditions: Piece | undefined): Piece =>
  conditions === undefined ? sql`` : sql` where ${conditions}`;

const limits = ({ limit, offset }: RowQuery, dialect: SqlDialect): Piece => {
  const first = offset === undefined || offset === 0 ? sql`` : sql` offset ${offset}`;
  if (limit !== undefined) return sql` limit ${limit}${first}`;
  if (offset === undefined || offset === 0) return sql``;
  // Without a limit, an offset alone is no statement everywhere.
  return dialect.name === 'postgres' ? first : sql` limit ${sql.lit(Number.MAX_SAFE_INTEGER)}${first}`;
};

/** The text of a key, to find rows by it: the same for values that are the same. */
const keyText = (values: readonly unknown[]): string =>
  values.length === 1 ? String(values[0]) : JSON.stringify(values.map(String));

/**
 * Loads what a plan says: one statement for the rows and what is behind their to-one links, one for
 * each to-many link, however many rows there are.
 */
export const loadRows = async (loading: Loading, plan: LoadPlan, query: RowQuery): Promise<MadeRow[]> => {
  const { dialect, run } = loading;
  const entity = loading.entityOf(plan.entity);
  const selecting = new Selecting(dialect, loading.entityOf);
  const alias = selecting.alias();
  const node = selecting.node(plan, alias);
  const order = wholeOrder(entity, query.sort ?? []);
  const conditions = (query.where ?? []).map((filter) => filterPiece(dialect, alias, filter));
  if (query.after !== undefined) conditions.push(afterPiece(dialect, alias, order, query.after));
  const flat = await run(
    sql<FlatRow>`select ${sql.join(selecting.selected)} from ${sql.table(plan.table)} as ${sql.id(alias)}${sql.join(selecting.joins, sql``)}${where(allOf(conditions))} order by ${orderPiece(dialect, alias, order)}${limits(query, dialect)}`,
  );
  const rows = flat.map((values) => makeRow(node, values));
  for (const many of manysOf(node)) await loadMany(loading, many);
  return rows;
};

/** Rows that are to be found by the key of their owner, by that key. */
const owned = (many: Many): ReadonlyMap<string, readonly MadeRow[]> => {
  const { from } = many.loading.link;
  const owners = new Map<string, MadeRow[]>();
  for (const owner of many.owners) {
    const values = from.map((name) => owner[name]);
    if (values.includes(null)) continue;
    const text = keyText(values);
    const same = owners.get(text);
    if (same === undefined) owners.set(text, [owner]);
    else same.push(owner);
  }
  return owners;
};

/** The columns that hold the owner's key: the target's own, or those of the entity in the middle. */
const holdersOf = ({ link }: LoadLink): SqlColumn[] =>
  link.through === null ? columnsOf(link.target, link.to) : columnsOf(link.through.entity, link.through.from);

const loadMany = async (loading: Loading, many: Many): Promise<void> => {
  const owners = owned(many);
  if (owners.size === 0) return;
  const { dialect, run } = loading;
  const { link, plan, selection } = many.loading;
  const selecting = new Selecting(dialect, loading.entityOf);
  const alias = selecting.alias();
  const middle = link.through === null ? alias : selecting.alias();
  const holders = holdersOf(many.loading);
  const keys = holders.map((column) => ({
    as: selecting.column(middle, column),
    decode: dialect.decode(column.type),
  }));
  const node = selecting.node(plan, alias);
  const keyValues = [...owners.values()].map(([owner]) => link.from.map((name) => owner?.[name]));
  const conditions = [
    amongPiece(dialect, middle, holders, keyValues),
    ...selection.where.map((filter) => filterPiece(dialect, alias, filter)),
  ];
  const order = orderPiece(dialect, alias, wholeOrder(link.target, selection.sort));
  const from = sql`from ${sql.table(plan.table)} as ${sql.id(alias)}${throughJoin(many.loading, alias, middle)}${sql.join(selecting.joins, sql``)}${where(allOf(conditions))}`;
  const statement =
    selection.limit === null
      ? sql<FlatRow>`select ${sql.join(selecting.selected)} ${from} order by ${order}`
      : limited(selecting.selected, from, holders, middle, order, selection.limit);
  for (const flat of await run(statement)) {
    const row = makeRow(node, flat);
    const text = keyText(keys.map(({ as, decode }) => (decode === null ? flat[as] : decode(flat[as]))));
    for (const owner of owners.get(text) ?? []) (owner[link.name] as MadeRow[]).push(row);
  }
  for (const inner of manysOf(node)) await loadMany(loading, inner);
};

/** The first rows of each owner, in their order. */
const limited = (
  selected: readonly Piece[],
  from: Piece,
  holders: readonly SqlColumn[],
  middle: string,
  order: Piece,
  limit: number,
): RawBuilder<FlatRow> => {
  const owner = sql.join(holders.map(({ stored }) => refOf(middle, stored)));
  const place = sql`row_number() over (partition by ${owner} order by ${order}) as ${sql.id('place')}`;
  return sql<FlatRow>`select * from (select ${sql.join([...selected, place])} ${from}) as ranked where ${sql.id('place')} <= ${sql.lit(limit)} order by ${sql.id('place')}`;
};

const throughJoin = ({ link }: LoadLink, alias: string, middle: string): Piece => {
  const { through } = link;
  if (through === null) return sql``;
  const to = columnsOf(link.target, link.to);
  const on = columnsOf(through.entity, through.to).map(
    ({ stored }, i) => sql`${refOf(middle, stored)} = ${refOf(alias, to[i]?.stored ?? '')}`,
  );
  return sql` inner join ${sql.table(through.entity.table)} as ${sql.id(middle)} on ${sql.join(on, sql` and `)}`;
};
