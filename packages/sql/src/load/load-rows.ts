import type { LoadPlan } from 'gribo';
import { type EntityPlan, type LoadLink, type RowQuery, type SortKey, wholeOrder } from 'gribo/kit';
import { type RawBuilder, sql } from 'kysely';
import type { Piece, SqlDialect } from '../dialects/dialect.js';
import type { Standing } from '../kinds/capacity.js';
import { conditionPiece, seenPieces } from './conditions.js';
import { afterPiece, columnIn, orderPiece, placePiece } from './order.js';
import { allOf, amongPiece } from './pieces.js';
import {
  type PreparedCache,
  type PreparedMany,
  type PreparedRows,
  type PrepareSettings,
  prepareMany,
  prepareRows,
} from './prepare.js';
import { type FlatRow, type MadeRow, makeRow, type Owners, type RowNode } from './selecting.js';

/** Runs a statement and gives its rows. */
export type Run = (statement: RawBuilder<FlatRow>) => Promise<readonly FlatRow[]>;

/** What loading needs to know: how statements are written, run, and what entities there are. */
export interface Loading extends PrepareSettings {
  readonly run: Run;
  readonly cache: PreparedCache;
  /** Whether links of one level are loaded at once: in a transaction, which has one connection, one after the other. */
  readonly atOnce: boolean;
}

/** Rows, and where the values that they come after stand in their columns; left out: among them. */
export interface AskedQuery extends RowQuery {
  readonly standings?: readonly Standing[];
  /** Whether rows are to say where they stand in the order. */
  readonly withPlaces?: boolean;
}

/** Under this name a row says what it is put in order by, where that was asked for. */
export const PLACE: unique symbol = Symbol('place');

const where = (conditions: Piece | undefined): Piece =>
  conditions === undefined ? sql`` : sql`\nwhere ${conditions}`;

const limits = ({ limit, offset }: RowQuery, dialect: SqlDialect): Piece => {
  const first = offset === undefined || offset === 0 ? sql`` : sql` offset ${offset}`;
  if (limit !== undefined) return sql`\nlimit ${limit}${first}`;
  if (offset === undefined || offset === 0) return sql``;
  // Without a limit, an offset alone is no statement everywhere.
  return sql`${dialect.noLimit}${first}`;
};

/** What a row is put in order by, as one more column of a statement. */
const placeOf = (
  { database, packs }: Loading,
  entity: EntityPlan,
  alias: string,
  key: SortKey,
  i: number,
) => {
  const as = `o${i}`;
  const column = columnIn(database, entity, key);
  const decode = database.dialect.decode(column);
  const piece = placePiece(database, entity, alias, key);
  return {
    piece: sql`${packs === null ? piece : packs.text({ piece, column })} as ${sql.id(as)}`,
    read: (flat: FlatRow): unknown => {
      const value = flat[as];
      return value === null || decode === null ? value : decode(value);
    },
  };
};

/** The text of a key, to find rows by it: the same for values that are the same. */
const keyText = (values: readonly unknown[]): string =>
  values.length === 1 ? String(values[0]) : JSON.stringify(values.map(String));

/** What was made for this before, or is made now. */
const kept = <K extends LoadPlan | LoadLink, P extends PreparedRows>(
  { cache }: Loading,
  key: K,
  make: () => P,
): P => {
  // What is kept for a plan was made for a plan, and for a link, for a link.
  const known = cache.get(key) as P | undefined;
  if (known !== undefined) return known;
  const made = make();
  cache.set(key, made);
  return made;
};

/** The statement for the rows of a plan, and what is made of what it gives. */
export interface RowsStatement {
  readonly node: RowNode;
  /** How many outputs there are, but for places. */
  readonly width: number;
  readonly statement: RawBuilder<FlatRow>;
  /** Where a row stands in the order, where that was asked for. */
  readonly places: readonly ((flat: FlatRow) => unknown)[];
}

export const rowsStatement = (loading: Loading, plan: LoadPlan, query: AskedQuery): RowsStatement => {
  const { database } = loading;
  const { alias, node, width, head, from } = kept(loading, plan, () => prepareRows(loading, plan));
  const entity = loading.entityOf(plan.entity);
  const order = wholeOrder(entity, query.sort ?? []);
  const conditions = (query.where ?? []).map((part) => conditionPiece(database, entity, alias, part));
  if (query.after !== undefined)
    conditions.push(afterPiece(database, entity, alias, order, query.after, query.standings));
  const places =
    query.withPlaces === true ? order.map((key, i) => placeOf(loading, entity, alias, key, i)) : [];
  const selected = places.length === 0 ? head : sql`${head}, ${sql.join(places.map(({ piece }) => piece))}`;
  const statement = sql<FlatRow>`${selected}${from}${where(allOf(conditions))}\norder by ${orderPiece(database, entity, alias, order)}${limits(query, database.dialect)}`;
  return { node, width, statement, places: places.map(({ read }) => read) };
};

/**
 * Loads what a plan says: one statement for the rows and what is behind their to-one links, one for
 * each to-many link, however many rows there are.
 */
export const loadRows = async (loading: Loading, plan: LoadPlan, query: AskedQuery): Promise<MadeRow[]> => {
  const { node, statement, places } = rowsStatement(loading, plan, query);
  const flat = await loading.run(statement);
  const owners: Owners = new Map();
  const rows = flat.map((values) => {
    const row = makeRow(node, values, owners);
    if (places.length > 0) row[PLACE] = places.map((read) => read(values));
    return row;
  });
  await loadManys(loading, owners);
  return rows;
};

/** Rows that are to be found by the key of their owner, by that key. */
const byKey = ({ link }: LoadLink, owners: readonly MadeRow[]): ReadonlyMap<string, readonly MadeRow[]> => {
  const found = new Map<string, MadeRow[]>();
  for (const owner of owners) {
    // What is unique may be null, and leads nowhere then.
    if (link.from.some((name) => owner[name] === null)) continue;
    const text = keyText(link.from.map((name) => owner[name]));
    const same = found.get(text);
    if (same === undefined) found.set(text, [owner]);
    else same.push(owner);
  }
  return found;
};

/** The key of the owner that a row belongs to. */
const ownerKey = ({ link }: LoadLink, { keys }: PreparedMany, flat: FlatRow, row: MadeRow): string =>
  keyText(
    keys === null
      ? link.to.map((name) => row[name])
      : keys.map(({ as, decode }) => (decode === null ? flat[as] : decode(flat[as]))),
  );

/** Loads the rows of the to-many links of one level. */
const loadManys = async (loading: Loading, owners: Owners): Promise<void> => {
  if (loading.atOnce) {
    await Promise.all([...owners].map(([link, some]) => loadMany(loading, link, some)));
    return;
  }
  for (const [link, some] of owners) await loadMany(loading, link, some);
};

const loadMany = async (loading: Loading, many: LoadLink, all: readonly MadeRow[]): Promise<void> => {
  const owners = byKey(many, all);
  if (owners.size === 0) return;
  const { database, run } = loading;
  const { link } = many;
  const prepared = kept(loading, many, () => prepareMany(loading, many));
  const { alias, middle, holders, node, head, from, tail } = prepared;
  const keyValues = [...owners.values()].map(([owner]) => link.from.map((name) => owner?.[name]));
  const conditions = [
    amongPiece(database.dialect, middle, holders, keyValues),
    ...seenPieces(database, many, alias, middle),
  ];
  const inner: Owners = new Map();
  for (const flat of await run(sql<FlatRow>`${head}${from}${where(allOf(conditions))}${tail}`)) {
    const row = makeRow(node, flat, inner);
    for (const owner of owners.get(ownerKey(many, prepared, flat, row)) ?? []) {
      (owner[link.name] as MadeRow[]).push(row);
    }
  }
  await loadManys(loading, inner);
};
