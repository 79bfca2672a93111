import type { ColumnType, FilterOperator } from 'gribo/kit';
import type { DialectAdapter, RawBuilder } from 'kysely';
import type { CatalogRow } from '../catalogue/catalogue-rows.js';
import type { DatabaseSchema } from '../catalogue/database-schema.js';
import type { StatementFailure } from '../errors/statement-error.js';
import type { Capacity } from '../kinds/capacity.js';
import type { AnyKysely } from '../kysely/any-kysely.js';

/** A piece of a statement: names are quoted and values are parameters, whatever they hold. */
export type Piece = RawBuilder<unknown>;

/** A stored column, as far as statements need to know it. */
export interface SqlColumn {
  readonly stored: string;
  readonly type: ColumnType;
}

/** How a database is asked what its columns can hold. */
export interface ColumnCapacities {
  /** Selects `table`, `column` and what else `of` needs, for these tables; null where kinds tell enough. */
  readonly columns: ((tables: readonly string[]) => RawBuilder<CatalogRow>) | null;
  /** What a column of a kind holds; `said` is its row of `columns`, null where there is none. */
  of(type: ColumnType, said: CatalogRow | null): Capacity;
}

/** How a database takes many rows in one statement, and tells what it made of them. */
export interface Inserting {
  /** The most parameters of a statement. */
  readonly parameters: number;
  /** A parameter by its place, from 1. */
  placeholder(place: number): string;
  /** Whether `default` may stand in place of a value; otherwise rows that set the same columns go together. */
  readonly takesDefault: boolean;
  /** What is put behind the table for a row that sets nothing. */
  readonly nothing: string;
  /**
   * `inOrder`: what was made is returned, in the order of the rows. `anyOrder`: in some order. `first`: only the
   * number that was made for the first row is told; the others follow it by the step that `step` reads.
   */
  readonly tells: 'inOrder' | 'anyOrder' | 'first';
  readonly step: Piece | null;
}

/** What differs from database to database. Values are exact on every one, whatever their drivers do. */
export interface SqlDialect {
  readonly name: string;
  /** What people call it. */
  readonly title: string;
  /** Whether a Kysely instance speaks it. */
  speaks(adapter: DialectAdapter): boolean;
  /** Opens a database, by the scheme of its address; what follows the scheme is `rest`. */
  readonly opens: Readonly<Record<string, (url: string, rest: string) => Promise<AnyKysely>>>;
  /** Reads what a live database says of its tables: columns, keys, references. */
  readSchema(kysely: AnyKysely): Promise<DatabaseSchema>;
  /** Whether its catalogue calls several kinds alike, such as JSON and text. */
  readonly isLoose: boolean;
  /** Whether rows behind to-many links can be put into the statement as JSON: the strategy `single`. */
  readonly nests: boolean;
  /** What stands for no limit in front of an offset. */
  readonly noLimit: Piece;
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
  /** Whether two columns of one kind have the same value; both are as `ordered` gives them. */
  same(column: SqlColumn, one: Piece, other: Piece): Piece;
  /** Whether a text has another one in it, in upper or lower case. */
  contains(ref: Piece, value: string): Piece;
  /** Whether a column is among these values, however many. */
  among(column: SqlColumn, ref: Piece, values: readonly unknown[]): Piece;
  /** One column of an order, nulls last. */
  orderBy(expression: Piece, descending: boolean, nullable: boolean): Piece;
  /** What is put behind a select to keep others from changing its rows. */
  readonly lock: Piece;
  /** How rows are inserted, many at a time. */
  readonly inserting: Inserting;
  /** What its columns can hold: nothing else is sent to it. */
  readonly capacities: ColumnCapacities;
  /** What is known of an error of its driver. */
  failure(error: unknown): StatementFailure;
}

/** How a comparison of a filter is written, by its operator. */
export type Operator = FilterOperator;
