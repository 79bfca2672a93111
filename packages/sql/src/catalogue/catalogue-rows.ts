import type { sql } from 'kysely';
import type { AnyKysely } from '../kysely/any-kysely.js';
import type { Reference } from './database-schema.js';

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
export const referencesOf = (rows: readonly CatalogRow[]): readonly Reference[] => {
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

/** The columns of each index by its name, from one row for each of them, in order; none of an index over an expression. */
export const indexesOf = (rows: readonly CatalogRow[]): ReadonlyMap<string, readonly string[]> => {
  const found = new Map<string, string[]>();
  const computed = new Set<string>();
  for (const row of rows) {
    const name = String(row['name']);
    if (row['column'] === null) computed.add(name);
    found.set(name, [...(found.get(name) ?? []), String(row['column'])]);
  }
  return new Map([...found].filter(([name]) => !computed.has(name)));
};

/** Runs a query of a catalogue. */
export const rowsOf = async (
  kysely: AnyKysely,
  query: ReturnType<typeof sql<CatalogRow>>,
): Promise<readonly CatalogRow[]> => (await query.execute(kysely)).rows;

/** A number of a catalogue, which drivers may give as text. */
export const orNull = (value: unknown): number | null => (value === null ? null : Number(value));

/** A default as a catalogue has it; null where it is null, which needs nobody. */
export const defaultIn = (value: unknown): string | null => {
  const said = textOrNull(value);
  return said === null || /^null(?:::.*)?$/i.test(said) ? null : said;
};

/** A text of a catalogue; null where it says nothing. */
export const textOrNull = (value: unknown): string | null =>
  value === null || value === undefined || value === '' ? null : String(value);
