import { sql } from 'kysely';
import {
  byTable,
  type CatalogRow,
  defaultIn,
  indexesOf,
  orNull,
  referencesOf,
  rowsOf,
  textOrNull,
} from '../../catalogue/catalogue-rows.js';
import { checked } from '../../catalogue/checked.js';
import type { DatabaseSchema, ScannedColumn, ScannedTable } from '../../catalogue/database-schema.js';
import { typeOf, unknownType } from '../../catalogue/type-of.js';
import type { AnyKysely } from '../../kysely/any-kysely.js';
import { labelsIn } from './labels-in.js';

const IS_MADE = /current_timestamp|now\(|uuid\(/i;

/** Types whose values are no text that could be set again. */
const SHAPES = /^(?:geometry|point|linestring|polygon|multi\w+|geometrycollection|geomcollection)$/i;

/** What it calls a type, where that is not what it is. */
const nameOf = (row: CatalogRow, json: ReadonlySet<string>): string => {
  const whole = String(row['whole_type']);
  if (/^(?:tinyint\(1\)|bit\(1\))$/i.test(whole)) return 'boolean';
  if (json.has(String(row['name']))) return 'json';
  // Nothing but the name says that it is a UUID.
  if (/^char\(36\)$/i.test(whole) && /uuid|guid|(?:^|_)id$/i.test(String(row['name']))) return 'uuid';
  if (/^bit\(/i.test(whole)) return (orNull(row['precision']) ?? 1) > 52 ? 'bigint' : 'integer';
  return String(row['type']);
};

const typeIn = (row: CatalogRow, json: ReadonlySet<string>): ScannedColumn['type'] => {
  const labels = labelsIn(String(row['whole_type']));
  if (labels !== null) return { kind: 'oneOf', choices: labels };
  return typeOf({
    name: nameOf(row, json),
    length: orNull(row['length']),
    precision: orNull(row['precision']),
    scale: orNull(row['scale']),
  });
};

const columnOf = (row: CatalogRow, json: ReadonlySet<string>): ScannedColumn => {
  const known = typeIn(row, json);
  const initial = defaultIn(row['initial']);
  const isMade = /auto_increment|generated/i.test(String(row['extra']));
  return {
    name: String(row['name']),
    type: known ?? (SHAPES.test(String(row['type'])) ? null : unknownType()),
    said: String(row['whole_type']),
    isGuessed: known === null,
    nullable: row['nullable'] === 'YES',
    generated: isMade || (initial !== null && IS_MADE.test(initial)),
    hasDefault: initial !== null || isMade,
    about: textOrNull(row['about']),
  };
};

const inSchemas = (schemas: readonly string[] | null, column: string) =>
  schemas === null
    ? sql`${sql.raw(column)} = database()`
    : sql`${sql.raw(column)} in (${sql.join([...schemas])})`;

const idOf = (schema: string, table: string) => sql`json_array(${sql.raw(schema)}, ${sql.raw(table)})`;

const columnsQuery = (schemas: readonly string[] | null) => sql<CatalogRow>`
  select ${idOf('table_schema', 'table_name')} as \`table\`, column_name as \`name\`, data_type as \`type\`,
    column_type as whole_type, is_nullable as nullable, column_default as initial, extra as extra,
    character_maximum_length as length, numeric_precision as \`precision\`, numeric_scale as scale, column_comment as about
  from information_schema.columns where ${inSchemas(schemas, 'table_schema')}
  order by table_schema, table_name, ordinal_position`;

const indexesQuery = (schemas: readonly string[] | null) => sql<CatalogRow>`
  select ${idOf('table_schema', 'table_name')} as \`table\`, index_name as \`name\`, column_name as \`column\`
  from information_schema.statistics where ${inSchemas(schemas, 'table_schema')} and non_unique = 0
  order by table_name, index_name, seq_in_index`;

const referencesQuery = (schemas: readonly string[] | null) => sql<CatalogRow>`
  select ${idOf('table_schema', 'table_name')} as \`table\`, constraint_name as \`name\`, column_name as \`column\`,
    ${idOf('referenced_table_schema', 'referenced_table_name')} as target, referenced_column_name as target_column
  from information_schema.key_column_usage
  where ${inSchemas(schemas, 'table_schema')} and referenced_table_name is not null
  order by table_name, constraint_name, ordinal_position`;

const checksQuery = (schemas: readonly string[] | null) => sql<CatalogRow>`
  select ${idOf('t.table_schema', 't.table_name')} as \`table\`, t.table_name as owner, k.*
  from information_schema.check_constraints k
  join information_schema.table_constraints t on t.constraint_schema = k.constraint_schema
    and t.constraint_name = k.constraint_name
  where ${inSchemas(schemas, 'k.constraint_schema')}`;

/** Where names of checks are only their table's, each says whose it is. */
const isOfItsTable = (row: CatalogRow): boolean =>
  row['TABLE_NAME'] === undefined || row['TABLE_NAME'] === row['owner'];

/** A check of `length`, which counts bytes, limits no characters. */
const COUNTS_CHARACTERS = /^char(?:acter)?_length$/i;

/** Reads the tables of some databases; null: of the one that is in use. */
export const readMysql = async (
  kysely: AnyKysely,
  schemas: readonly string[] | null,
): Promise<DatabaseSchema> => {
  const found = await rowsOf(
    kysely,
    sql<CatalogRow>`
      select ${idOf('table_schema', 'table_name')} as \`table\`, table_schema as \`schema\`, table_name as \`name\`,
        table_type as kind, table_comment as about, table_schema = database() as visible
      from information_schema.tables
      where ${inSchemas(schemas, 'table_schema')} and table_type in ('BASE TABLE', 'SYSTEM VERSIONED', 'VIEW')
      order by table_name, table_schema`,
  );
  const columnsOf = byTable(await rowsOf(kysely, columnsQuery(schemas)));
  const uniqueOf = byTable(await rowsOf(kysely, indexesQuery(schemas)));
  const referencesBy = byTable(await rowsOf(kysely, referencesQuery(schemas)));
  const checksOf = byTable((await rowsOf(kysely, checksQuery(schemas))).filter(isOfItsTable));
  const tables = found.map((row): ScannedTable => {
    const id = String(row['table']);
    const [schema, name] = [String(row['schema']), String(row['name'])];
    const checks = (checksOf.get(id) ?? []).map((each) => String(each['CHECK_CLAUSE']));
    const json = new Set(checks.flatMap((text) => /^json_valid\(`([^`]+)`\)$/i.exec(text)?.[1] ?? []));
    const others = checks.filter((text) => !/^json_valid\(`[^`]+`\)$/i.test(text));
    const columns = (columnsOf.get(id) ?? []).map((each) => columnOf(each, json));
    const { columns: known, left } = checked(columns, others, COUNTS_CHARACTERS);
    const { PRIMARY: key = [], ...unique } = Object.fromEntries(indexesOf(uniqueOf.get(id) ?? []));
    const isView = row['kind'] === 'VIEW';
    return {
      id,
      schema,
      name,
      stored: Number(row['visible']) === 1 ? name : `${schema}.${name}`,
      isView,
      about: isView ? null : textOrNull(row['about']),
      columns: known,
      key,
      unique: Object.values(unique),
      references: referencesOf(referencesBy.get(id) ?? []),
      checks: left,
    };
  });
  return { tables };
};
