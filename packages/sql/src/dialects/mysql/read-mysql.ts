import { sql } from 'kysely';
import {
  byTable,
  type CatalogRow,
  choicesOf,
  orNull,
  referencesOf,
  rowsOf,
} from '../../catalogue/catalogue-rows.js';
import type { DatabaseSchema, ScannedColumn } from '../../catalogue/database-schema.js';
import { typeOf, unknownType } from '../../catalogue/type-of.js';
import type { AnyKysely } from '../../kysely/any-kysely.js';
import { labelsIn } from './labels-in.js';

const IS_MADE = /current_timestamp|now\(|uuid\(/i;

const columnOf = (
  row: CatalogRow,
  choices: ReadonlyMap<string, readonly string[]>,
  json: ReadonlySet<string>,
): ScannedColumn => {
  const name = String(row['name']);
  const said = String(row['whole_type']);
  const isUuid = /^char\(36\)$/i.test(said);
  const listed = labelsIn(said) ?? choices.get(name);
  const known = typeOf({
    name: /^tinyint\(1\)$/i.test(said)
      ? 'boolean'
      : isUuid
        ? 'uuid'
        : json.has(name)
          ? 'json'
          : String(row['type']),
    length: orNull(row['length']),
    precision: orNull(row['precision']),
    scale: orNull(row['scale']),
  });
  const initial = row['initial'] === null || row['initial'] === 'NULL' ? null : String(row['initial']);
  const extra = String(row['extra']);
  return {
    name,
    type: listed === undefined ? (known ?? unknownType()) : { kind: 'oneOf', choices: listed },
    said,
    isGuessed: known === null && listed === undefined,
    nullable: row['nullable'] === 'YES',
    generated: /auto_increment|generated/i.test(extra) || (initial !== null && IS_MADE.test(initial)),
    hasDefault: initial !== null || /auto_increment|generated/i.test(extra),
  };
};

/** Reads the tables of the database that is in use. */
export const readMysql = async (kysely: AnyKysely): Promise<DatabaseSchema> => {
  const columns = await rowsOf(
    kysely,
    sql<CatalogRow>`
      select c.table_name as \`table\`, c.column_name as \`name\`, c.data_type as \`type\`, c.column_type as whole_type,
        c.is_nullable as nullable, c.column_default as initial, c.extra as extra, c.character_maximum_length as length,
        c.numeric_precision as \`precision\`, c.numeric_scale as scale
      from information_schema.columns c
      join information_schema.tables t on t.table_schema = c.table_schema and t.table_name = c.table_name
      where c.table_schema = database() and t.table_type = 'BASE TABLE'
      order by c.table_name, c.ordinal_position`,
  );
  const indexes = await rowsOf(
    kysely,
    sql<CatalogRow>`
      select table_name as \`table\`, index_name as \`name\`, column_name as \`column\`
      from information_schema.statistics where table_schema = database() and non_unique = 0
      order by table_name, index_name, seq_in_index`,
  );
  const references = await rowsOf(
    kysely,
    sql<CatalogRow>`
      select table_name as \`table\`, constraint_name as \`name\`, column_name as \`column\`,
        referenced_table_name as target, referenced_column_name as target_column
      from information_schema.key_column_usage
      where table_schema = database() and referenced_table_name is not null
      order by table_name, constraint_name, ordinal_position`,
  );
  const checks = await rowsOf(
    kysely,
    sql<CatalogRow>`
      select t.table_name as \`table\`, k.check_clause as definition
      from information_schema.check_constraints k
      join information_schema.table_constraints t on t.constraint_schema = k.constraint_schema
        and t.constraint_name = k.constraint_name
      where k.constraint_schema = database()`,
  );
  const [indexesOf, referencesBy, checksOf] = [byTable(indexes), byTable(references), byTable(checks)];
  const tables = [...byTable(columns)].map(([name, rows]) => {
    const definitions = (checksOf.get(name) ?? []).map((row) => String(row['definition']));
    const choices = choicesOf(definitions);
    const json = new Set(definitions.flatMap((text) => /json_valid\(`([^`]+)`\)/i.exec(text)?.[1] ?? []));
    const indexed = (indexesOf.get(name) ?? []).map(
      (row) => [String(row['name']), String(row['column'])] as const,
    );
    const single = indexed.filter(([index]) => indexed.filter(([other]) => other === index).length === 1);
    return {
      name,
      columns: rows.map((row) => columnOf(row, choices, json)),
      key: indexed.flatMap(([index, column]) => (index === 'PRIMARY' ? [column] : [])),
      unique: single.flatMap(([index, column]) => (index === 'PRIMARY' ? [] : [column])),
      references: referencesOf(referencesBy.get(name) ?? []),
    };
  });
  return { tables };
};
