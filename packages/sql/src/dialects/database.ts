import type { ColumnPlan, EntityPlan } from 'gribo/kit';
import { type CatalogRow, rowsOf } from '../catalogue/catalogue-rows.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { withForms } from './coded.js';
import type { SqlColumn, SqlDialect } from './dialect.js';

/** What texts are put in order by, and compared by more or less. */
export type TextOrder = 'collation' | 'codePoints';

/** What a catalogue says of the columns of some tables, by what {@link toldKey} makes of their names. */
export type Told = ReadonlyMap<string, CatalogRow>;

export const toldKey = (table: unknown, column: unknown): string => JSON.stringify([table, column]);

/** Asks a database what the columns of some tables are. */
export const readTold = async (
  dialect: SqlDialect,
  kysely: AnyKysely,
  tables: Iterable<string>,
): Promise<Told> => {
  const names = [...new Set(tables)];
  const rows = names.length === 0 ? [] : await rowsOf(kysely, dialect.facts.columns(names));
  return new Map(rows.map((row) => [toldKey(row['table'], row['column']), row]));
};

/** A database as statements are written for it. */
export interface Database {
  readonly dialect: SqlDialect;
  /** A column of an entity, with how the database's own type compares. */
  column(entity: Pick<EntityPlan, 'table'>, column: Pick<ColumnPlan, 'stored' | 'type' | 'coded'>): SqlColumn;
}

/**
 * @param told what the database says of its columns
 * @param texts by code points, every database has one order; by their collation, each has its own, for which there are indexes
 */
export const databaseOf = (dialect: SqlDialect, told: Told, texts: TextOrder): Database => {
  const known = new Map<string, SqlColumn>();
  return {
    dialect: withForms(dialect),
    column: ({ table }, { stored, type: said, coded }) => {
      const key = toldKey(table, stored);
      const found = known.get(key);
      const type = coded?.type ?? said;
      if (found?.type === type && found.coded === coded) return found;
      const native = dialect.facts.native(type, told.get(key) ?? null);
      const isCollated = texts === 'collation' && type.kind === 'text' && native.isSteady;
      const made = { stored, type, native: isCollated ? { ...native, isInOrder: true } : native, coded };
      known.set(key, made);
      return made;
    },
  };
};
