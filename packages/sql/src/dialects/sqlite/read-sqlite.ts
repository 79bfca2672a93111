import { sql } from 'kysely';
import { type CatalogRow, choicesOf, referencesOf, rowsOf } from '../../catalogue/catalogue-rows.js';
import type { DatabaseSchema, ScannedColumn, ScannedTable } from '../../catalogue/database-schema.js';
import { typeOf, unknownType } from '../../catalogue/type-of.js';
import type { AnyKysely } from '../../kysely/any-kysely.js';

const IS_MADE = /current_timestamp|current_date|strftime|datetime\(|randomblob/i;

const columnOf = (
  row: CatalogRow,
  key: readonly string[],
  choices: ReadonlyMap<string, readonly string[]>,
): ScannedColumn => {
  const name = String(row['name']);
  const said = String(row['type']);
  const [, word = said, first, second] = /^([^(]*?)\s*(?:\((\d+)(?:\s*,\s*(\d+))?\))?$/.exec(said) ?? [];
  const number = first === undefined ? null : Number(first);
  const known = typeOf({
    name: word,
    length: number,
    precision: number,
    scale: second === undefined ? null : Number(second),
  });
  const listed = choices.get(name);
  // An integer that is the whole key is the number of the row, which is made where it is left out.
  const isRowNumber = key.length === 1 && key[0] === name && /^integer$/i.test(word);
  const initial = row['initial'] === null ? null : String(row['initial']);
  return {
    name,
    type: listed === undefined ? (known ?? unknownType()) : { kind: 'oneOf', choices: listed },
    said,
    isGuessed: known === null && listed === undefined,
    nullable: Number(row['required']) === 0 && !key.includes(name),
    generated: isRowNumber || Number(row['hidden']) > 1 || (initial !== null && IS_MADE.test(initial)),
    hasDefault: isRowNumber || initial !== null,
  };
};

const readTable = async (kysely: AnyKysely, name: string, definition: string): Promise<ScannedTable> => {
  const columns = await rowsOf(
    kysely,
    sql<CatalogRow>`select name, type, "notnull" as required, dflt_value as initial, pk, hidden from pragma_table_xinfo(${name})`,
  );
  const key = columns
    .filter((row) => Number(row['pk']) > 0)
    .sort((a, b) => Number(a['pk']) - Number(b['pk']))
    .map((row) => String(row['name']));
  const references = await rowsOf(
    kysely,
    sql<CatalogRow>`select id as name, "from" as "column", "table" as target, "to" as target_column
      from pragma_foreign_key_list(${name}) order by id desc, seq`,
  );
  const unique = await rowsOf(
    kysely,
    sql<CatalogRow>`select i.name as name, min(c.name) as "column", count(*) as many from pragma_index_list(${name}) i, pragma_index_info(i.name) c
      where i."unique" = 1 and i.origin <> 'pk' group by i.name`,
  );
  const checks =
    definition.match(/check\s*\((?:[^()']|'(?:[^']|'')*'|\((?:[^()']|'(?:[^']|'')*')*\))*\)/gi) ?? [];
  const choices = choicesOf(checks);
  return {
    name,
    columns: columns.map((row) => columnOf(row, key, choices)),
    key,
    unique: unique.flatMap((row) => (Number(row['many']) === 1 ? [String(row['column'])] : [])),
    references: referencesOf(references),
  };
};

/** Reads the tables of the main database. */
export const readSqlite = async (kysely: AnyKysely): Promise<DatabaseSchema> => {
  const named = await rowsOf(
    kysely,
    sql<CatalogRow>`select name, sql as definition from sqlite_master where type = 'table' and name not like 'sqlite\\_%' escape '\\' order by name`,
  );
  const tables: ScannedTable[] = [];
  for (const row of named)
    tables.push(await readTable(kysely, String(row['name']), String(row['definition'])));
  return { tables };
};
