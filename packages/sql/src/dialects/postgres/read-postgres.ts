import { sql } from 'kysely';
import {
  byTable,
  type CatalogRow,
  defaultIn,
  orNull,
  referencesOf,
  rowsOf,
  textOrNull,
} from '../../catalogue/catalogue-rows.js';
import { checked } from '../../catalogue/checked.js';
import type { DatabaseSchema, ScannedColumn, ScannedTable } from '../../catalogue/database-schema.js';
import { typeOf, unknownType } from '../../catalogue/type-of.js';
import type { AnyKysely } from '../../kysely/any-kysely.js';
import type { Piece } from '../dialect.js';

/** A default that the database computes anew for each row. */
const IS_MADE = /nextval|now\(|current_timestamp|current_date|localtimestamp|clock_timestamp|uuid/i;

/** The length of a text or the digits of a decimal, in the modifier of a type. */
const measuresOf = (type: string, modifier: number) => {
  const packed = modifier < 4 ? null : modifier - 4;
  const isDecimal = type === 'numeric' && packed !== null;
  return {
    length: isDecimal ? null : packed,
    precision: isDecimal ? (packed >> 16) & 0xffff : null,
    scale: isDecimal ? packed & 0x7ff : null,
  };
};

const typeIn = (row: CatalogRow): ScannedColumn['type'] => {
  const labels = row['labels'] as readonly string[] | null;
  if (labels !== null) return { kind: 'oneOf', choices: labels };
  const modifier = orNull(row['modifier']) ?? -1;
  const element = textOrNull(row['element']);
  if (element === null) return typeNamed(String(row['type']), modifier);
  const choices = row['element_labels'] as readonly string[] | null;
  const of = choices === null ? typeNamed(element, modifier) : ({ kind: 'oneOf', choices } as const);
  // Arrays hold what a database tells apart by its text.
  return of === null || ['json', 'bytes', 'timestamp'].includes(of.kind)
    ? null
    : { kind: 'array', of, min: null, max: null };
};

const typeNamed = (name: string, modifier: number): ScannedColumn['type'] =>
  typeOf({ name, ...measuresOf(name, modifier) });

const columnOf = (row: CatalogRow): ScannedColumn => {
  const known = typeIn(row);
  const initial = defaultIn(row['initial']);
  return {
    name: String(row['name']),
    type: known ?? unknownType(),
    said: String(row['said']),
    isGuessed: known === null,
    nullable: row['nullable'] === true,
    generated: row['made'] === true || (initial !== null && IS_MADE.test(initial)),
    hasDefault: initial !== null || row['made'] === true,
    about: textOrNull(row['about']),
  };
};

const listOf = (row: CatalogRow, name: string): readonly string[] =>
  (row[name] as readonly string[] | null) ?? [];

/** The tables of these schemas, but for parts of others and for what extensions brought. */
const relations = (schemas: readonly string[] | null): Piece => sql`
  relations as (
    select c.oid, n.nspname as schema, c.relname as name, c.relkind in ('v', 'm') as is_view,
      pg_table_is_visible(c.oid) as visible, obj_description(c.oid, 'pg_class') as about
    from pg_class c join pg_namespace n on n.oid = c.relnamespace
    where c.relkind in ('r', 'p', 'v', 'm', 'f') and not c.relispartition
      and n.nspname = any(${schemas === null ? sql`current_schemas(false)` : sql`${[...schemas]}::text[]`})
      and not exists (select 1 from pg_depend x where x.classid = 'pg_class'::regclass and x.objid = c.oid and x.deptype = 'e')
  )`;

/** A domain is made of another type, which may be a domain. */
const BASES = sql`
  bases as (
    select oid, oid as base, -1 as modifier, array[]::oid[] as domains from pg_type where typtype <> 'd'
    union all
    select d.oid, b.base, case when d.typtypmod >= 0 then d.typtypmod else b.modifier end, b.domains || d.oid
    from pg_type d join bases b on b.oid = d.typbasetype where d.typtype = 'd'
  )`;

const columnsQuery = (schemas: readonly string[] | null) => sql<CatalogRow>`
  with recursive ${relations(schemas)}, ${BASES}
  select r.oid::text as "table", a.attname as "name", format_type(a.atttypid, a.atttypmod) as "said", t.typname as "type",
    case when a.atttypmod >= 0 then a.atttypmod else b.modifier end as "modifier",
    (select json_agg(e.enumlabel order by e.enumsortorder) from pg_enum e where e.enumtypid = t.oid) as "labels",
    x.typname as "element",
    (select json_agg(e.enumlabel order by e.enumsortorder) from pg_enum e where e.enumtypid = x.oid) as "element_labels",
    not (a.attnotnull or exists (select 1 from pg_type d where d.oid = any(b.domains) and d.typnotnull)) as "nullable",
    pg_get_expr(d.adbin, d.adrelid) as "initial", a.attidentity <> '' or a.attgenerated <> '' as "made",
    col_description(r.oid, a.attnum) as "about",
    (select json_agg(pg_get_constraintdef(k.oid)) from pg_constraint k where k.contypid = any(b.domains)) as "checks"
  from relations r
  join pg_attribute a on a.attrelid = r.oid and a.attnum > 0 and not a.attisdropped
  join bases b on b.oid = a.atttypid
  join pg_type t on t.oid = b.base
  left join pg_type x on x.oid = t.typelem and t.typcategory = 'A'
  left join pg_attrdef d on d.adrelid = r.oid and d.adnum = a.attnum
  order by r.schema, r.name, a.attnum`;

/** Keys and what is unique, by constraints or by indexes without conditions and expressions. */
const uniqueQuery = (schemas: readonly string[] | null) => sql<CatalogRow>`
  with ${relations(schemas)}
  select r.oid::text as "table", i.indisprimary as "primary",
    (select json_agg(a.attname order by p.place) from unnest(i.indkey) with ordinality p(attnum, place)
      join pg_attribute a on a.attrelid = r.oid and a.attnum = p.attnum where p.place <= i.indnkeyatts) as "columns"
  from relations r join pg_index i on i.indrelid = r.oid join pg_class x on x.oid = i.indexrelid
  where i.indisunique and i.indisvalid and i.indpred is null and i.indexprs is null
  order by x.relname`;

const constraintsQuery = (schemas: readonly string[] | null) => sql<CatalogRow>`
  with ${relations(schemas)}
  select r.oid::text as "table", k.contype as "kind", k.conname as "name", pg_get_constraintdef(k.oid) as "definition",
    k.confrelid::text as "target",
    (select json_agg(a.attname order by p.place) from unnest(k.conkey) with ordinality p(attnum, place)
      join pg_attribute a on a.attrelid = k.conrelid and a.attnum = p.attnum) as "columns",
    (select json_agg(a.attname order by p.place) from unnest(k.confkey) with ordinality p(attnum, place)
      join pg_attribute a on a.attrelid = k.confrelid and a.attnum = p.attnum) as "targets"
  from relations r join pg_constraint k on k.conrelid = r.oid
  where k.contype in ('f', 'c') order by k.conname`;

/** What the checks of a column's domains say of it. */
const domainChecks = (row: CatalogRow): readonly string[] => {
  const column = `"${String(row['name']).replaceAll('"', '""')}"`;
  // In a text, the word is no column.
  return listOf(row, 'checks').map((check) =>
    check.replaceAll(/'(?:[^']|'')*'|\bVALUE\b/g, (found) => (found === 'VALUE' ? column : found)),
  );
};

const references = (constraints: readonly CatalogRow[]): ScannedTable['references'] =>
  referencesOf(
    constraints.flatMap((row) =>
      listOf(row, 'columns').map((column, i) => ({
        name: row['name'],
        column,
        target: row['target'],
        target_column: listOf(row, 'targets')[i],
      })),
    ),
  );

/** Reads the tables of some schemas; null: of those on the search path. */
export const readPostgres = async (
  kysely: AnyKysely,
  schemas: readonly string[] | null,
): Promise<DatabaseSchema> => {
  const found = await rowsOf(
    kysely,
    sql<CatalogRow>`with ${relations(schemas)} select oid::text as "table", schema, name, is_view, visible, about
      from relations order by name, schema`,
  );
  const columnsOf = byTable(await rowsOf(kysely, columnsQuery(schemas)));
  const uniqueOf = byTable(await rowsOf(kysely, uniqueQuery(schemas)));
  const constraintsOf = byTable(await rowsOf(kysely, constraintsQuery(schemas)));
  const tables = found.map((row): ScannedTable => {
    const id = String(row['table']);
    const [schema, name] = [String(row['schema']), String(row['name'])];
    const columns = columnsOf.get(id) ?? [];
    const constraints = constraintsOf.get(id) ?? [];
    const unique = uniqueOf.get(id) ?? [];
    const checks = constraints.filter((each) => each['kind'] === 'c');
    const all = [...checks.map((each) => String(each['definition'])), ...columns.flatMap(domainChecks)];
    const { columns: known, left } = checked(columns.map(columnOf), all);
    return {
      id,
      schema,
      name,
      stored: row['visible'] === true ? name : `${schema}.${name}`,
      isView: row['is_view'] === true,
      about: textOrNull(row['about']),
      columns: known,
      key: unique.filter((each) => each['primary'] === true).flatMap((each) => listOf(each, 'columns')),
      unique: unique.filter((each) => each['primary'] !== true).map((each) => listOf(each, 'columns')),
      references: references(constraints.filter((each) => each['kind'] === 'f')),
      checks: left,
    };
  });
  return { tables };
};
