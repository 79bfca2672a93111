import type { ColumnType } from 'gribo';

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

/** A row of a catalogue, whatever the case of its column names. */
export type CatalogRow = Readonly<Record<string, unknown>>;

/** Groups rows of a catalogue by their table. */
export const byTable = (rows: readonly CatalogRow[]): ReadonlyMap<string, readonly CatalogRow[]> => {
  const groups = new Map<string, CatalogRow[]>();
  for (const row of rows) {
    const table = String(row['table']);
    const group = groups.get(table);
    if (group === undefined) groups.set(table, [row]);
    else group.push(row);
  }
  return groups;
};

/** References, from one row for each of their columns, in order. */
export const referencesOf = (rows: readonly CatalogRow[]): Reference[] => {
  const found = new Map<string, { columns: string[]; table: string; targets: string[] }>();
  for (const row of rows) {
    const name = String(row['name']);
    const known = found.get(name) ?? { columns: [], table: String(row['target']), targets: [] };
    known.columns.push(String(row['column']));
    known.targets.push(String(row['target_column']));
    found.set(name, known);
  }
  return [...found.values()];
};

/** The choices of a check such as `kind in ('bulk', 'tug')`, with the column it is about; null for any other. */
export const choicesIn = (
  check: string,
): { readonly column: string; readonly choices: readonly string[] } | null => {
  const [, column, list] =
    /^\W*["`[]?(\w+)["`\]]?(?:\)?::\w+(?: \w+)*)?\)*\s*(?:in|=\s*any)\s*\(+(?:array\[)?(.*)$/is.exec(
      check.replace(/^check\s*/i, ''),
    ) ?? [];
  if (column === undefined || list === undefined) return null;
  const choices = [...list.matchAll(/'((?:[^']|'')*)'/g)].map(([, text = '']) => text.replaceAll("''", "'"));
  const rest = list
    .replaceAll(/'(?:[^']|'')*'(?:::[\w ]+(?:\[\])?)?/g, '')
    .replaceAll(/[\s,()\]]|::[\w ]+(?:\[\])?/g, '');
  return choices.length > 0 && rest === '' ? { column, choices } : null;
};
