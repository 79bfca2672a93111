import type { ColumnType } from 'gribo/kit';

/** A column as a database declares it. */
export interface ScannedColumn {
  readonly name: string;
  readonly type: ColumnType;
  /** How the database calls the type. */
  readonly said: string;
  /** Whether the type is only near to the declared one, which Gribo has no name for. */
  readonly isGuessed: boolean;
  readonly nullable: boolean;
  /** Made by the database: a counter, a UUID, the moment, an expression. */
  readonly generated: boolean;
  /** Whether it has any default, so that an insert may leave it out. */
  readonly hasDefault: boolean;
}

/** Columns that hold the key of a row of another table. */
export interface Reference {
  readonly columns: readonly string[];
  readonly table: string;
  readonly targets: readonly string[];
}

export interface ScannedTable {
  readonly name: string;
  readonly columns: readonly ScannedColumn[];
  readonly key: readonly string[];
  /** Columns that are unique by themselves. */
  readonly unique: readonly string[];
  readonly references: readonly Reference[];
}

/** What a live database says of its tables. */
export interface DatabaseSchema {
  readonly tables: readonly ScannedTable[];
}
