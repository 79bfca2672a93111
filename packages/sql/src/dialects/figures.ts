import { averageOf, type ColumnType, type Figure, sumOf } from 'gribo/kit';
import { sql } from 'kysely';
import type { Piece, SqlColumn, SqlDialect, SqlFigure } from './dialect.js';

/** A sum as the database has it, as rows hold it; of no rows it is zero. */
const summed = (type: ColumnType, value: unknown): unknown => {
  if (value === null || value === undefined) return sumOf(type, []);
  if (type.kind === 'bigint') return BigInt(String(value).split('.')[0] ?? '0');
  return type.kind === 'decimal' ? sumOf(type, [String(value)]) : Number(value);
};

/**
 * Figures of a database whose own are exact.
 *
 * @param summedAs the sum of a column, as a text where drivers make it inexact
 */
export const exactFigures =
  (dialect: () => SqlDialect, summedAs: (column: SqlColumn, ref: Piece) => Piece) =>
  (column: SqlColumn, how: Figure['how']): SqlFigure => {
    const { type } = column;
    if (how === 'sum' || how === 'average') {
      const parts = [(ref: Piece) => summedAs(column, ref), (ref: Piece) => sql`count(${ref})`];
      return how === 'sum'
        ? { parts: parts.slice(0, 1), read: ([value]) => summed(type, value) }
        : { parts, read: ([value, many]) => averageOf(type, summed(type, value), Number(many)) };
    }
    const decode = dialect().decode(column);
    const least = (ref: Piece): Piece => (how === 'minimum' ? sql`min(${ref})` : sql`max(${ref})`);
    return {
      parts: [(ref) => dialect().selected(column, least(ref))],
      read: ([value]) =>
        value === null || value === undefined || decode === null ? (value ?? null) : decode(value),
    };
  };
