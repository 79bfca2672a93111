import { sql } from 'kysely';
import type { Operator, Piece, SqlColumn, SqlDialect } from '../dialects/dialect.js';
import { anyOf, refOf } from './pieces.js';

const LAST_MOMENT = Date.parse('9999-12-31T23:59:59.999Z');

/** A comparison of a moment to the millisecond, however exactly it is stored; an index can be used for it. */
const momentPiece = (
  dialect: SqlDialect,
  column: SqlColumn,
  ref: Piece,
  operator: Operator,
  value: Date,
): Piece => {
  const from = dialect.since(column, ref, value);
  // Behind the last millisecond of the year 9999 is nothing that could be written down.
  const until =
    value.getTime() === LAST_MOMENT
      ? sql`${ref} is not null`
      : dialect.earlier(column, ref, new Date(value.getTime() + 1));
  if (operator === 'atLeast') return from;
  return operator === 'atMost' ? until : sql`(${from} and ${until})`;
};

/** Whether a column has one of these values; moments are stretches of time, so each is compared by itself. */
const amongThese = (
  dialect: SqlDialect,
  alias: string,
  column: SqlColumn,
  values: readonly unknown[],
): Piece => {
  const { kind } = column.type;
  if (kind !== 'timestamp' && kind !== 'json')
    return dialect.among(column, refOf(alias, column.stored), values);
  return anyOf(values.map((value) => valuePiece(dialect, alias, column, 'equals', value)));
};

/** A comparison of a column of the table under an alias with a value. */
export const valuePiece = (
  dialect: SqlDialect,
  alias: string,
  column: SqlColumn,
  operator: Operator,
  value: unknown,
): Piece => {
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
      return sql`${dialect.ordered(column, ref)} >= ${dialect.comparable(column, value)}`;
    case 'atMost':
      return sql`${dialect.ordered(column, ref)} <= ${dialect.comparable(column, value)}`;
    case 'contains':
      return dialect.contains(column, ref, String(value));
    case 'isNull':
      return value === true ? sql`${ref} is null` : sql`${ref} is not null`;
    default:
      return operator satisfies never;
  }
};
