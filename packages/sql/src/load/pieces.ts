import { sql } from 'kysely';
import type { Piece, SqlColumn, SqlDialect } from '../dialects/dialect.js';

/** A column of a table that stands in a statement under an alias; without one, of the only table. */
export const refOf = (alias: string | null, stored: string): Piece =>
  alias === null ? sql`${sql.id(stored)}` : sql`${sql.id(alias, stored)}`;

/** What no row satisfies, and what every one does. */
export const NOTHING: Piece = sql`1 = 0`;
export const EVERYTHING: Piece = sql`1 = 1`;

/** Conditions that must all hold, each in parentheses; undefined where there are none. */
export const allOf = (pieces: readonly Piece[]): Piece | undefined =>
  pieces.length === 0 ? undefined : sql`${sql.join(pieces, sql` and `)}`;

/** So many conditions stand side by side: databases take a long row of them as so many levels, and have few. */
const SIDE_BY_SIDE = 32;

/** Conditions of which one must hold. */
export const anyOf = (pieces: readonly Piece[]): Piece => {
  if (pieces.length === 0) return NOTHING;
  if (pieces.length <= SIDE_BY_SIDE) return sql`(${sql.join(pieces, sql` or `)})`;
  const size = Math.ceil(pieces.length / SIDE_BY_SIDE);
  const groups = Array.from({ length: Math.ceil(pieces.length / size) }, (_, i) =>
    anyOf(pieces.slice(i * size, (i + 1) * size)),
  );
  return anyOf(groups);
};

/** Whether columns have one of these lists of values. */
export const amongPiece = (
  dialect: SqlDialect,
  alias: string | null,
  columns: readonly SqlColumn[],
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
  const refs = sql.join(columns.map((column) => dialect.ordered(column, refOf(alias, column.stored))));
  const lists = values.map(
    (list) => sql`(${sql.join(columns.map((column, i) => dialect.comparable(column, list[i])))})`,
  );
  return sql`(${refs}) in (${sql.join(lists)})`;
};
