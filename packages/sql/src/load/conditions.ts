import type { ColumnPlan, RowFilter, SortKey } from 'gribo/kit';
import { sql } from 'kysely';
import type { Operator, Piece, SqlColumn, SqlDialect } from '../dialects/dialect.js';
import type { Standing } from '../kinds/capacity.js';

/** A column of a table that stands in a statement under an alias. */
export const refOf = (alias: string, stored: string): Piece => sql`${sql.id(alias, stored)}`;

const NOTHING = sql`1 = 0`;
const EVERYTHING = sql`1 = 1`;

const LAST_MOMENT = Date.parse('9999-12-31T23:59:59.999Z');

/** Conditions that must all hold, each in parentheses; undefined where there are none. */
export const allOf = (pieces: readonly Piece[]): Piece | undefined =>
  pieces.length === 0 ? undefined : sql`${sql.join(pieces, sql` and `)}`;

/** So many conditions stand side by side: databases take a long row of them as so many levels, and have few. */
const SIDE_BY_SIDE = 32;

const anyOf = (pieces: readonly Piece[]): Piece => {
  if (pieces.length === 0) return NOTHING;
  if (pieces.length <= SIDE_BY_SIDE) return sql`(${sql.join(pieces, sql` or `)})`;
  const size = Math.ceil(pieces.length / SIDE_BY_SIDE);
  const groups = Array.from({ length: Math.ceil(pieces.length / size) }, (_, i) =>
    anyOf(pieces.slice(i * size, (i + 1) * size)),
  );
  return anyOf(groups);
};

/** A comparison of a moment to the millisecond, however exactly it is stored; an index can be used for it. */
const momentPiece = (
  dialect: SqlDialect,
  { type }: SqlColumn,
  ref: Piece,
  operator: Operator,
  value: Date,
): Piece => {
  const from = sql`${ref} >= ${dialect.comparable(type, value)}`;
  // Behind the last millisecond of the year 9999 is nothing that could be written down.
  const until =
    value.getTime() === LAST_MOMENT
      ? sql`${ref} is not null`
      : sql`${ref} < ${dialect.comparable(type, new Date(value.getTime() + 1))}`;
  if (operator === 'atLeast') return from;
  return operator === 'atMost' ? until : sql`(${from} and ${until})`;
};

/** Whether a column has one of these values; moments are stretches of time, so each is compared by itself. */
const amongThese = (
  dialect: SqlDialect,
  alias: string,
  column: ColumnPlan,
  values: readonly unknown[],
): Piece => {
  const { kind } = column.type;
  if (kind !== 'timestamp' && kind !== 'json')
    return dialect.among(column, refOf(alias, column.stored), values);
  return anyOf(values.map((value) => filterPiece(dialect, alias, { column, operator: 'equals', value })));
};

/** A comparison of a column of the table under an alias. */
export const filterPiece = (dialect: SqlDialect, alias: string, filter: RowFilter): Piece => {
  const { column, operator, value } = filter;
  const ref = refOf(alias, column.stored);
  if (column.type.kind === 'timestamp' && value instanceof Date) {
    return momentPiece(dialect, column, ref, operator, value);
  }
  switch (operator) {
    case 'equals':
      return dialect.equals(column, ref, value);
    case 'oneOfThese':
      return amongThese(dialect, alias, column, value as readonly unknown[]);
    case 'atLeast':
      return sql`${dialect.ordered(column, ref)} >= ${dialect.comparable(column.type, value)}`;
    case 'atMost':
      return sql`${dialect.ordered(column, ref)} <= ${dialect.comparable(column.type, value)}`;
    case 'contains':
      return dialect.contains(ref, String(value));
    case 'isNull':
      return value === true ? sql`${ref} is null` : sql`${ref} is not null`;
    default:
      return operator satisfies never;
  }
};

/** An order, nulls last. */
export const orderPiece = (dialect: SqlDialect, alias: string, order: readonly SortKey[]): Piece =>
  sql.join(
    order.map(({ column, descending }) =>
      dialect.orderBy(dialect.ordered(column, refOf(alias, column.stored)), descending, column.nullable),
    ),
  );

/** Rows behind a place in an order: those that are greater in one column and equal in those before it. */
export const afterPiece = (
  dialect: SqlDialect,
  alias: string,
  order: readonly SortKey[],
  values: readonly unknown[],
  standings: readonly Standing[] = [],
): Piece => {
  const refs = order.map(({ column }) => dialect.ordered(column, refOf(alias, column.stored)));
  const same = (i: number): Piece => {
    const [ref, value, type] = [refs[i] ?? NOTHING, values[i], order[i]?.column.type];
    if (standings[i] === 'below' || standings[i] === 'above') return NOTHING;
    return value === null || type === undefined
      ? sql`${ref} is null`
      : sql`${ref} = ${dialect.comparable(type, value)}`;
  };
  const behind = (i: number): Piece => {
    const [ref, value, key] = [refs[i] ?? NOTHING, values[i], order[i]];
    // Nulls come last: nothing is behind them.
    if (value === null || key === undefined) return NOTHING;
    const ends = key.descending ? 'below' : 'above';
    if (standings[i] === ends) return key.column.nullable ? sql`${ref} is null` : NOTHING;
    if (standings[i] === 'below' || standings[i] === 'above') return EVERYTHING;
    const comparable = dialect.comparable(key.column.type, value);
    const further = key.descending ? sql`${ref} < ${comparable}` : sql`${ref} > ${comparable}`;
    return key.column.nullable ? sql`(${further} or ${ref} is null)` : further;
  };
  return anyOf(
    order.map(
      (_key, i) => sql`(${sql.join([...order.slice(0, i).map((_k, j) => same(j)), behind(i)], sql` and `)})`,
    ),
  );
};

/** Whether columns have one of these lists of values. */
export const amongPiece = (
  dialect: SqlDialect,
  alias: string,
  columns: readonly (SqlColumn | ColumnPlan)[],
  values: readonly (readonly unknown[])[],
): Piece => {
  const [only] = columns;
  if (only !== undefined && columns.length === 1) {
    return dialect.among(
      only,
      refOf(alias, only.stored),
      values.map(([value]) => value),
    );
  }
  if (values.length === 0) return NOTHING;
  const refs = sql.join(columns.map(({ stored }) => refOf(alias, stored)));
  const lists = values.map(
    (list) => sql`(${sql.join(columns.map(({ type }, i) => dialect.comparable(type, list[i])))})`,
  );
  return sql`(${refs}) in (${sql.join(lists)})`;
};
