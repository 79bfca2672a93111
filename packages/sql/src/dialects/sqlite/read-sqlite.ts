import type { ColumnType } from 'gribo/kit';
import { sql } from 'kysely';
import {
  type CatalogRow,
  defaultIn,
  indexesOf,
  referencesOf,
  rowsOf,
} from '../../catalogue/catalogue-rows.js';
import { checked } from '../../catalogue/checked.js';
import type { DatabaseSchema, ScannedColumn, ScannedTable } from '../../catalogue/database-schema.js';
import { typeOf, unknownType } from '../../catalogue/type-of.js';
import type { AnyKysely } from '../../kysely/any-kysely.js';
import { checksIn } from './checks-in.js';

const IS_MADE = /current_timestamp|current_date|strftime|datetime\(|randomblob/i;

/** A type by the affinity that its name has (section 3.1 of SQLite's "Datatypes"), where the name itself says nothing more. */
const byAffinity = (said: string, length: number | null): ColumnType => {
  if (/int/i.test(said)) return { kind: 'integer', min: null, max: null };
  if (/char|clob|text/i.test(said)) return { kind: 'text', min: null, max: length, pattern: null };
  if (/blob/i.test(said)) return { kind: 'bytes', max: null };
  return /real|floa|doub/i.test(said) || said !== '' ? { kind: 'real', min: null, max: null } : unknownType();
};

/** A type by what a value is, for columns that say none: those of views that are computed. */
const BY_VALUE: Readonly<Record<string, ColumnType>> = {
  integer: { kind: 'integer', min: null, max: null },
  real: { kind: 'real', min: null, max: null },
  blob: { kind: 'bytes', max: null },
};

const columnOf = (row: CatalogRow, key: readonly string[]): ScannedColumn => {
  const name = String(row['name']);
  const said = String(row['type'] ?? '');
  const [, word = said, first, second] = /^([^(]*?)\s*(?:\((\d+)(?:\s*,\s*(\d+))?\))?$/.exec(said) ?? [];
  const number = first === undefined ? null : Number(first);
  const scale = second === undefined ? null : Number(second);
  const known = typeOf({ name: word, length: number, precision: number, scale });
  const isAffine = known === null && /int|char|clob|text|blob|real|floa|doub/i.test(said);
  // An integer that is the whole key is the number of the row, which is made where it is left out.
  const isRowNumber = key.length === 1 && key[0] === name && /^integer$/i.test(word);
  const initial = defaultIn(row['initial']);
  return {
    name,
    type: known ?? byAffinity(said, number),
    said: said === '' ? 'no type' : said,
    isGuessed: known === null && !isAffine,
    nullable: Number(row['required']) === 0 && !key.includes(name),
    generated: isRowNumber || Number(row['hidden']) > 1 || (initial !== null && IS_MADE.test(initial)),
    hasDefault: isRowNumber || initial !== null,
    about: null,
  };
};

interface Named {
  readonly schema: string;
  readonly name: string;
  readonly isView: boolean;
  readonly definition: string;
}

const idOf = (schema: string, name: string): string => JSON.stringify([schema, name.toLowerCase()]);

/** The type of a computed column, of which only values tell. */
const byValue = async (kysely: AnyKysely, stored: string, column: ScannedColumn): Promise<ScannedColumn> => {
  if (column.said !== 'no type') return column;
  const [row] = await rowsOf(
    kysely,
    sql<CatalogRow>`select typeof(${sql.id(column.name)}) as kind from ${sql.table(stored)} where ${sql.id(column.name)} is not null limit 1`,
  );
  return { ...column, type: BY_VALUE[String(row?.['kind'])] ?? column.type };
};

const keyOf = (columns: readonly CatalogRow[]): readonly string[] =>
  columns
    .filter((row) => Number(row['pk']) > 0)
    .sort((a, b) => Number(a['pk']) - Number(b['pk']))
    .map((row) => String(row['name']));

const columnsOf = (kysely: AnyKysely, { schema, name }: Named): Promise<readonly CatalogRow[]> =>
  rowsOf(
    kysely,
    sql<CatalogRow>`select name, type, "notnull" as required, dflt_value as initial, pk, hidden from pragma_table_xinfo(${name}, ${schema})`,
  );

const referencesFrom = async (
  kysely: AnyKysely,
  { schema, name }: Named,
): Promise<ScannedTable['references']> => {
  const rows = await rowsOf(
    kysely,
    sql<CatalogRow>`select id as name, "from" as "column", "table" as target, "to" as target_column, seq
      from pragma_foreign_key_list(${name}, ${schema}) order by id desc, seq`,
  );
  const keys = new Map<string, readonly string[]>();
  for (const { target, target_column: column } of rows as readonly {
    target: string;
    target_column: unknown;
  }[]) {
    if (column !== null || keys.has(target)) continue;
    keys.set(target, keyOf(await columnsOf(kysely, { schema, name: target, isView: false, definition: '' })));
  }
  return referencesOf(
    rows.map((row) => ({
      ...row,
      target: idOf(schema, String(row['target'])),
      // Where no column is named, the key is meant.
      target_column: row['target_column'] ?? keys.get(String(row['target']))?.[Number(row['seq'])],
    })),
  );
};

const uniqueIn = async (kysely: AnyKysely, { schema, name }: Named): Promise<ScannedTable['unique']> => {
  const rows = await rowsOf(
    kysely,
    sql<CatalogRow>`select i.name as name, c.name as "column" from pragma_index_list(${name}, ${schema}) i,
      pragma_index_info(i.name, ${schema}) c
      where i."unique" = 1 and i.origin <> 'pk' and i.partial = 0 order by i.name, c.seqno`,
  );
  return [...indexesOf(rows).values()];
};

const readTable = async (kysely: AnyKysely, table: Named): Promise<ScannedTable> => {
  const { schema, name, isView, definition } = table;
  const stored = schema === 'main' ? name : `${schema}.${name}`;
  const rows = await columnsOf(kysely, table);
  const key = keyOf(rows);
  const columns: ScannedColumn[] = [];
  for (const row of rows) columns.push(await byValue(kysely, stored, columnOf(row, key)));
  const { columns: known, left } = checked(columns, isView ? [] : checksIn(definition));
  return {
    id: idOf(schema, name),
    schema,
    name,
    stored,
    isView,
    about: null,
    columns: known,
    key,
    unique: isView ? [] : await uniqueIn(kysely, table),
    references: isView ? [] : await referencesFrom(kysely, table),
    checks: left,
  };
};

const namedIn = (kysely: AnyKysely, schema: string): Promise<readonly CatalogRow[]> =>
  rowsOf(
    kysely,
    sql<CatalogRow>`select l.name as name, l.type as kind, s.sql as definition from pragma_table_list l
      left join ${sql.table(`${schema}.sqlite_schema`)} s on s.name = l.name and s.type = l.type
      where l.schema = ${schema} and l.type in ('table', 'view') and l.name not like 'sqlite\\_%' escape '\\' order by l.name`,
  );

/** Reads the tables of the main database, or of those that are attached under these names. */
export const readSqlite = async (
  kysely: AnyKysely,
  schemas: readonly string[] | null,
): Promise<DatabaseSchema> => {
  const tables: ScannedTable[] = [];
  for (const schema of schemas ?? ['main']) {
    for (const row of await namedIn(kysely, schema)) {
      const definition = String(row['definition'] ?? '');
      const isView = row['kind'] === 'view';
      tables.push(await readTable(kysely, { schema, name: String(row['name']), isView, definition }));
    }
  }
  return { tables };
};
