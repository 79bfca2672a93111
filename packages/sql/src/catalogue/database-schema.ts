import type { ColumnType } from 'gribo/kit';

/** A column as a database declares it. */
export interface ScannedColumn {
  readonly name: string;
  /** Null where no type of Gribo's holds what it has. */
  readonly type: ColumnType | null;
  /** How the database calls the type. */
  readonly said: string;
  /** Whether the type is only near to the declared one, which Gribo has no name for. */
  readonly isGuessed: boolean;
  readonly nullable: boolean;
  /** Made by the database: a counter, a UUID, the moment, an expression. */
  readonly generated: boolean;
  /** Whether it has any default, so that an insert may leave it out. */
  readonly hasDefault: boolean;
  /** What the database says of it in words. */
  readonly about: string | null;
}

/** Columns that hold the key of a row of another table, or what is unique in it. */
export interface Reference {
  readonly columns: readonly string[];
  /** The other table's id. */
  readonly table: string;
  readonly targets: readonly string[];
}

export interface ScannedTable {
  /** Tells it apart from all others: its schema and its name. */
  readonly id: string;
  readonly schema: string;
  readonly name: string;
  /** What statements call it: with its schema, where it is not found without. */
  readonly stored: string;
  /** Whether it is made from others, and only read. */
  readonly isView: boolean;
  readonly about: string | null;
  readonly columns: readonly ScannedColumn[];
  readonly key: readonly string[];
  /** Columns that are unique together, or one by itself; the key is not among them. */
  readonly unique: readonly (readonly string[])[];
  readonly references: readonly Reference[];
  /** Checks that are no limits of single columns. */
  readonly checks: readonly string[];
}

/** What a live database says of its tables. */
export interface DatabaseSchema {
  readonly tables: readonly ScannedTable[];
}
