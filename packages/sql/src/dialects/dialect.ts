import type { Coding, ColumnType, Figure, FilterOperator } from 'gribo/kit';
import type { DialectAdapter, IsolationLevel, RawBuilder } from 'kysely';
import type { CatalogRow } from '../catalogue/catalogue-rows.js';
import type { DatabaseSchema } from '../catalogue/database-schema.js';
import type { StatementFailure } from '../errors/statement-error.js';
import type { Capacity } from '../kinds/capacity.js';
import type { AnyKysely } from '../kysely/any-kysely.js';

/** A piece of a statement: names are quoted and values are parameters, whatever they hold. */
export type Piece = RawBuilder<unknown>;

/**
 * How values are kept: `itself`, as their kind has them; `single`, numbers in 32 bits, which are others than those of 64 that
 * are written alike; `bits`, as bits; `text`, numbers as the text that is given; `array`, in an array of the database's own;
 * `other`, in a type that no kind has, of which the text is known; `zoneless`, moments without a zone, which are taken as UTC.
 */
export type Keeping = 'itself' | 'single' | 'bits' | 'text' | 'array' | 'other' | 'zoneless';

/** How a database's own type of a column compares values, where that may not be as its kind has it. */
export interface Native {
  /** Whether texts that differ are equal to it: in upper and lower case, with and without accents. */
  readonly isLoose: boolean;
  /** Whether its own order is that of the kind: texts by code points, choices as they are declared. */
  readonly isInOrder: boolean;
  /** Whether it compares as it orders: types of an extension do so only where their operators are in sight. */
  readonly isSteady: boolean;
  readonly keeps: Keeping;
}

/** A stored column, as far as statements need to know it. */
export interface SqlColumn {
  readonly stored: string;
  /** The type of what is stored. */
  readonly type: ColumnType;
  readonly native: Native;
  /** How values are stored in another form; null: as they are. */
  readonly coded: Coding | null;
}

/** A figure over a column: what is selected for it, over all rows, and what is made of that. */
export interface SqlFigure {
  readonly parts: readonly ((ref: Piece) => Piece)[];
  read(values: readonly unknown[]): unknown;
}

/** How a database is asked what its columns are. */
export interface ColumnFacts {
  /** Selects `table`, `column` and what else is needed, for these tables. */
  columns(tables: readonly string[]): RawBuilder<CatalogRow>;
  /** What a column of a type holds; `said` is its row of `columns`, null where there is none. */
  capacity(type: ColumnType, said: CatalogRow | null): Capacity;
  /** How it compares. */
  native(type: ColumnType, said: CatalogRow | null): Native;
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

/** An output of a statement: what is selected, and the column that it is; null: something that is made of several. */
export interface Selected {
  readonly piece: Piece;
  readonly column: SqlColumn | null;
}

/** How a database sends columns as text, in lines of fields, which are what its `COPY` writes. */
export interface PackedForm {
  selected(column: SqlColumn, ref: Piece): Piece;
  /** The value that rows hold, from the text of a field; null: that text. */
  decode(column: SqlColumn): ((value: unknown) => unknown) | null;
  /** Whether the text is all there is to say of a value, so that it may go out as it is. */
  isWhole(column: SqlColumn): boolean;
  /** Whether all texts are those that are known, by what the catalogue says of columns. */
  isSure(said: readonly CatalogRow[]): boolean;
  /** What was selected as text, or null. */
  text(selected: Selected): Piece;
  /** The line of fields for all that was selected, as one text without its end. */
  line(all: readonly Selected[]): Piece;
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
  /** Reads what a live database says of its tables: columns, keys, references. Null: of those found without a schema. */
  readSchema(kysely: AnyKysely, schemas: readonly string[] | null): Promise<DatabaseSchema>;
  /** Whether its catalogue calls several kinds alike, such as JSON and text. */
  readonly isLoose: boolean;
  /** Whether rows behind to-many links can be put into the statement as JSON: the strategy `single`. */
  readonly nests: boolean;
  /** What stands for no limit in front of an offset. */
  readonly noLimit: Piece;
  /** A column as it is selected, so that `decode` can read it exactly. */
  selected(column: SqlColumn, ref: Piece): Piece;
  /** The value that rows hold, from what the driver gives for `selected`; it is not null. */
  decode(column: SqlColumn): ((value: unknown) => unknown) | null;
  /** A value as a parameter of an insert or update; null stays null. */
  encode(column: SqlColumn, value: unknown): unknown;
  /** A column as it is put in order and compared by more or less. */
  ordered(column: SqlColumn, ref: Piece): Piece;
  /** A value, to be compared with `ordered`. */
  comparable(column: SqlColumn, value: unknown): Piece;
  /** Whether a moment is this one or later, or earlier than it; an index on the column itself serves. */
  since(column: SqlColumn, ref: Piece, value: Date): Piece;
  earlier(column: SqlColumn, ref: Piece, value: Date): Piece;
  /** Whether a column has exactly this value. */
  equals(column: SqlColumn, ref: Piece, value: unknown): Piece;
  /** A column as it is compared with another one, whose type and collation in the database may be others. */
  paired(column: SqlColumn, ref: Piece): Piece;
  /** Whether a text has another one in it, in upper or lower case. */
  contains(column: SqlColumn, ref: Piece, value: string): Piece;
  /** Whether a column is among these values, however many. */
  among(column: SqlColumn, ref: Piece, values: readonly unknown[]): Piece;
  /** What is made of a column of many rows. */
  figures(column: SqlColumn, how: Figure['how']): SqlFigure;
  /** One column of an order, nulls last. */
  orderBy(expression: Piece, descending: boolean, nullable: boolean): Piece;
  /** What is put behind a select to keep others from changing its rows. */
  readonly lock: Piece;
  /** The isolation level at which what a transaction has read is still so when it ends; null: it is at every level. */
  readonly steady: IsolationLevel | null;
  /** The isolation level that changes need; null: the database's own does. Left out: it always does. */
  readonly isolation?: (kysely: AnyKysely) => Promise<IsolationLevel | null>;
  /** How rows are inserted, many at a time. */
  readonly inserting: Inserting;
  /** What its columns are: what they cannot hold is not sent to it, and what they compare otherwise is written so. */
  readonly facts: ColumnFacts;
  /** How it sends rows as lines of text; null where that would not be exact, or no faster. */
  readonly packs: PackedForm | null;
  /** What is known of an error of its driver. */
  failure(error: unknown): StatementFailure;
}

/** How a comparison of a filter is written, by its operator. */
export type Operator = FilterOperator;
