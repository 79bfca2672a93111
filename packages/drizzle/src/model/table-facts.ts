import { type Column as DrizzleColumn, is, type Table } from 'drizzle-orm';
import { MySqlTable, getTableConfig as mysqlConfig } from 'drizzle-orm/mysql-core';
import { PgTable, getTableConfig as postgresConfig } from 'drizzle-orm/pg-core';
import { SQLiteTable, getTableConfig as sqliteConfig } from 'drizzle-orm/sqlite-core';

/** An index as all three dialects describe it. */
interface SaidIndex {
  readonly config: {
    readonly unique?: boolean | undefined;
    readonly where?: unknown;
    readonly columns: readonly unknown[];
  };
}

/** What all three dialects say of a table. */
interface Said {
  readonly name: string;
  readonly schema?: string | undefined;
  readonly primaryKeys: readonly { readonly columns: readonly DrizzleColumn[] }[];
  readonly uniqueConstraints: readonly { readonly columns: readonly DrizzleColumn[] }[];
  readonly indexes: readonly SaidIndex[];
}

/** What a table is called, and which of its columns are its key or unique; columns by their names in the database. */
export interface TableFacts {
  readonly stored: string;
  readonly key: ReadonlySet<string>;
  readonly unique: ReadonlySet<string>;
}

const saidOf = (table: Table): Said | null => {
  if (is(table, PgTable)) return postgresConfig(table);
  if (is(table, MySqlTable)) return mysqlConfig(table);
  if (is(table, SQLiteTable)) return sqliteConfig(table);
  return null;
};

const nameOf = (column: unknown): string | null => {
  const { name } = (column ?? {}) as { name?: unknown };
  return typeof name === 'string' ? name : null;
};

/** The one column that is unique by an index; null where it is none, or not in all rows. */
const uniqueBy = ({ config: { unique, where, columns } }: SaidIndex): string | null =>
  unique === true && where === undefined && columns.length === 1 ? nameOf(columns[0]) : null;

/** What a table of PostgreSQL, MySQL or SQLite says of itself; null for any other. */
export const tableFacts = (table: Table, columns: readonly DrizzleColumn[]): TableFacts | null => {
  const said = saidOf(table);
  if (said === null) return null;
  const composite = said.primaryKeys.flatMap((key) => key.columns.map(({ name }) => name));
  const alone = columns.filter(({ primary }) => primary).map(({ name }) => name);
  const unique = [
    ...columns.filter(({ isUnique }) => isUnique).map(({ name }) => name),
    ...said.uniqueConstraints.flatMap((each) => (each.columns.length === 1 ? [each.columns[0]?.name] : [])),
    ...said.indexes.map(uniqueBy),
  ];
  return {
    stored: said.schema === undefined ? said.name : `${said.schema}.${said.name}`,
    key: new Set([...alone, ...composite]),
    unique: new Set(unique.filter((name) => typeof name === 'string')),
  };
};
