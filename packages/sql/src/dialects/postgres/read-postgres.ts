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

/** A default that the database computes anew for each row. */
const IS_MADE = /nextval|now\(|current_timestamp|current_date|localtimestamp|clock_timestamp|uuid/i;

const columnOf = (row: CatalogRow, choices: ReadonlyMap<string, readonly string[]>): ScannedColumn => {
  const said = String(row['type']);
  const known = typeOf({
    name: said,
    length: orNull(row['length']),
    precision: orNull(row['precision']),
    scale: orNull(row['scale']),
  });
  const listed = (row['labels'] as readonly string[] | null) ?? choices.get(String(row['name'])) ?? null;
  const initial = row['initial'] === null ? null : String(row['initial']);
  return {
    name: String(row['name']),
    type: listed === null ? (known ?? unknownType()) : { kind: 'oneOf', choices: listed },
    said,
    isGuessed: known === null && listed === null,
    nullable: row['nullable'] === true,
    generated: row['identity'] === true || (initial !== null && IS_MADE.test(initial)),
    hasDefault: initial !== null || row['identity'] === true,
  };
};

/** Reads the tables of the schemas on the search path. */
export const readPostgres = async (kysely: AnyKysely): Promise<DatabaseSchema> => {
  const columns = await rowsOf(
    kysely,
    sql<CatalogRow>`
      select c.table_name as "table", c.column_name as "name", c.data_type as "type", c.is_nullable = 'YES' as "nullable",
        c.column_default as "initial", c.is_identity = 'YES' or c.is_generated = 'ALWAYS' as "identity",
        c.character_maximum_length as "length", c.numeric_precision as "precision", c.numeric_scale as "scale",
        (select json_agg(e.enumlabel order by e.enumsortorder) from pg_enum e join pg_type t on t.oid = e.enumtypid
          join pg_namespace n on n.oid = t.typnamespace
          where t.typname = c.udt_name and n.nspname = c.udt_schema) as "labels"
      from information_schema.columns c
      join information_schema.tables t on t.table_schema = c.table_schema and t.table_name = c.table_name
      where t.table_type = 'BASE TABLE' and c.table_schema = any(current_schemas(false))
      order by c.table_name, c.ordinal_position`,
  );
  const constraints = await rowsOf(
    kysely,
    sql<CatalogRow>`
      select r.relname as "table", k.contype as "kind", k.conname as "name", pg_get_constraintdef(k.oid) as "definition",
        (select json_agg(a.attname order by p.place) from unnest(k.conkey) with ordinality p(attnum, place)
          join pg_attribute a on a.attrelid = k.conrelid and a.attnum = p.attnum) as "columns",
        f.relname as "target",
        (select json_agg(a.attname order by p.place) from unnest(k.confkey) with ordinality p(attnum, place)
          join pg_attribute a on a.attrelid = k.confrelid and a.attnum = p.attnum) as "targets"
      from pg_constraint k
      join pg_class r on r.oid = k.conrelid
      join pg_namespace n on n.oid = r.relnamespace
      left join pg_class f on f.oid = k.confrelid
      where n.nspname = any(current_schemas(false)) and k.contype in ('p', 'u', 'f', 'c')
      order by r.relname, k.conname`,
  );
  const constraintsOf = byTable(constraints);
  const tables = [...byTable(columns)].map(([name, rows]) => {
    const own = constraintsOf.get(name) ?? [];
    const columnsOf = (row: CatalogRow): readonly string[] => row['columns'] as readonly string[];
    const ofKind = (kind: string): readonly CatalogRow[] => own.filter((row) => row['kind'] === kind);
    const choices = choicesOf(ofKind('c').map((row) => String(row['definition'])));
    return {
      name,
      columns: rows.map((row) => columnOf(row, choices)),
      key: ofKind('p').flatMap(columnsOf),
      unique: ofKind('u').flatMap((row) => (columnsOf(row).length === 1 ? columnsOf(row) : [])),
      references: referencesOf(
        ofKind('f').flatMap((row) =>
          columnsOf(row).map((column, i) => ({
            name: row['name'],
            column,
            target: row['target'],
            target_column: (row['targets'] as readonly string[])[i],
          })),
        ),
      ),
    };
  });
  return { tables };
};
