import type { EntityPlan, SortKey } from 'gribo/kit';
import { sql } from 'kysely';
import type { Database } from '../dialects/database.js';
import type { Piece, SqlColumn } from '../dialects/dialect.js';
import type { Standing } from '../kinds/capacity.js';
import { columnValue, type Form, pieceIn, type Scope } from './conditions.js';
import { anyOf, EVERYTHING, NOTHING } from './pieces.js';

/** The column that a key is about, of the entity or of one behind its links. */
export const columnIn = (database: Database, entity: EntityPlan, { path, column }: SortKey): SqlColumn =>
  database.column(path.at(-1)?.target ?? entity, column);

/** What rows are put in order by: null where the value is not shown. */
const orderedBy = (
  database: Database,
  entity: EntityPlan,
  alias: string,
  key: SortKey,
  form: Form = database.dialect.ordered,
): Piece => {
  const scope: Scope = { database, alias, depth: 0 };
  const value = columnValue(scope, entity, key, form);
  return key.shown === null ? value : sql`case when ${pieceIn(scope, entity, key.shown)} then ${value} end`;
};

/** The same, as it is selected. */
export const placePiece = (database: Database, entity: EntityPlan, alias: string, key: SortKey): Piece =>
  orderedBy(database, entity, alias, key, database.dialect.selected);

const mayBeNull = ({ path, column, shown }: SortKey): boolean =>
  column.nullable || path.length > 0 || shown !== null;

/** An order, nulls last. */
export const orderPiece = (
  database: Database,
  entity: EntityPlan,
  alias: string,
  order: readonly SortKey[],
): Piece =>
  sql.join(
    order.map((key) =>
      database.dialect.orderBy(orderedBy(database, entity, alias, key), key.descending, mayBeNull(key)),
    ),
  );

/** Rows behind a place in an order: those that are greater in one column and equal in those before it. */
export const afterPiece = (
  database: Database,
  entity: EntityPlan,
  alias: string,
  order: readonly SortKey[],
  values: readonly unknown[],
  standings: readonly Standing[] = [],
): Piece => {
  const refs = order.map((key) => orderedBy(database, entity, alias, key));
  const same = (i: number): Piece => {
    const [ref, value, key] = [refs[i] ?? NOTHING, values[i], order[i]];
    if (standings[i] === 'below' || standings[i] === 'above') return NOTHING;
    return value === null || key === undefined
      ? sql`${ref} is null`
      : sql`${ref} = ${database.dialect.comparable(columnIn(database, entity, key), value)}`;
  };
  const behind = (i: number): Piece => {
    const [ref, value, key] = [refs[i] ?? NOTHING, values[i], order[i]];
    // Nulls come last: nothing is behind them.
    if (value === null || key === undefined) return NOTHING;
    const ends = key.descending ? 'below' : 'above';
    if (standings[i] === ends) return mayBeNull(key) ? sql`${ref} is null` : NOTHING;
    if (standings[i] === 'below' || standings[i] === 'above') return EVERYTHING;
    const comparable = database.dialect.comparable(columnIn(database, entity, key), value);
    const further = key.descending ? sql`${ref} < ${comparable}` : sql`${ref} > ${comparable}`;
    return mayBeNull(key) ? sql`(${further} or ${ref} is null)` : further;
  };
  return anyOf(
    order.map(
      (_key, i) => sql`(${sql.join([...order.slice(0, i).map((_k, j) => same(j)), behind(i)], sql` and `)})`,
    ),
  );
};
