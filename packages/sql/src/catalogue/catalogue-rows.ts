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

/** The choices of a table's checks, by their columns. */
export const choicesOf = (checks: readonly string[]): ReadonlyMap<string, readonly string[]> =>
  new Map(
    checks.flatMap((check) => {
      const found = choicesIn(check);
      return found === null ? [] : [[found.column, found.choices] as const];
    }),
  );

/** Runs a query of a catalogue. */
export const rowsOf = async (
  kysely: AnyKysely,
  query: ReturnType<typeof sql<CatalogRow>>,
): Promise<readonly CatalogRow[]> => (await query.execute(kysely)).rows;

/** A number of a catalogue, which drivers may give as text. */
export const orNull = (value: unknown): number | null => (value === null ? null : Number(value));
