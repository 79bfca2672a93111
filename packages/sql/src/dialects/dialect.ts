import type { ColumnType, RowFilter } from 'gribo';
import type { RawBuilder } from 'kysely';

/** A piece of a statement: names are quoted and values are parameters, whatever they hold. */
export type Piece = RawBuilder<unknown>;

/** A stored column, as far as statements need to know it. */
export interface SqlColumn {
  readonly stored: string;
  readonly type: ColumnType;
}

/** What went wrong with a change, read from a driver's error: columns by their stored names. */
export interface Violation {
  readonly reason: 'duplicate' | 'reference' | 'missing' | 'value';
  readonly columns: readonly string[];
}

/** What differs from database to database. Values are exact on every one, whatever their drivers do. */
export interface SqlDialect {
  readonly name: 'postgres' | 'mysql' | 'sqlite';
  /** A column as it is selected, so that `decode` can read it exactly. */
  selected(column: SqlColumn, ref: Piece): Piece;
  /** The value that rows hold, from what the driver gives for `selected`; it is not null. */
  decode(type: ColumnType): ((value: unknown) => unknown) | null;
  /** A value as a parameter of an insert or update; null stays null. */
  encode(type: ColumnType, value: unknown): unknown;
  /** A column as it is put in order and compared by more or less. */
  ordered(column: SqlColumn, ref: Piece): Piece;
  /** A value, to be compared with `ordered`. */
  comparable(type: ColumnType, value: unknown): Piece;
  /** Whether a column has exactly this value. */
  equals(column: SqlColumn, ref: Piece, value: unknown): Piece;
  /** Whether a text has another one in it, in upper or lower case. */
  contains(ref: Piece, value: string): Piece;
  /** Whether a column is among these values, however many. */
  among(column: SqlColumn, ref: Piece, values: readonly unknown[]): Piece;
  /** One column of an order, nulls last. */
  orderBy(expression: Piece, descending: boolean, nullable: boolean): Piece;
  /** What is put behind a select to keep others from changing its rows. */
  readonly lock: Piece;
  /** Whether an insert can return the key that was made. */
  readonly returns: boolean;
  /** Whether the error is about a change that does not fit. */
  violation(error: unknown): Violation | null;
}

/** How a comparison of a filter is written, by its operator. */
export type Operator = RowFilter['operator'];
