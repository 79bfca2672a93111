import {
  createTableRelationsHelpers,
  type Column as DrizzleColumn,
  extractTablesRelationalConfig,
  getTableUniqueName,
  is,
  normalizeRelation,
  One,
  type TablesRelationalConfig,
} from 'drizzle-orm';
import { type Finding, type ToMany, type ToOne, toMany, toOne } from 'gribo';
import type { Schema } from './model-types.js';

type Pairs = Readonly<Record<string, string>>;
type Links = Record<string, ToOne<string, Pairs, boolean> | ToMany<string>>;

/** Links by table and by relation, and what is wrong with relations. */
export interface FoundLinks {
  readonly links: Readonly<Record<string, Links>>;
  readonly findings: readonly Finding[];
}

/** The property that a table has a column under. */
const propertyOf = (columns: Readonly<Record<string, DrizzleColumn>>, column: DrizzleColumn): string =>
  Object.keys(columns).find((name) => columns[name]?.name === column.name) ?? column.name;

const messageOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/** A link for each relation of a schema. */
export const linksOf = (schema: Schema): FoundLinks => {
  const { tables, tableNamesMap } = extractTablesRelationalConfig<TablesRelationalConfig>(
    schema,
    createTableRelationsHelpers,
  );
  const findings: Finding[] = [];
  const links: Record<string, Links> = {};
  for (const [name, { columns, relations }] of Object.entries(tables)) {
    const made: Links = {};
    for (const [link, relation] of Object.entries(relations)) {
      const target = tableNamesMap[getTableUniqueName(relation.referencedTable)];
      const other = target === undefined ? undefined : tables[target];
      try {
        if (target === undefined || other === undefined)
          throw new Error(`the table "${relation.referencedTableName}" is not in the schema`);
        const { fields, references } = normalizeRelation(tables, tableNamesMap, relation);
        const mine = fields.map((column) => propertyOf(columns, column));
        const theirs = references.map((column) => propertyOf(other.columns, column));
        const pairs = (from: readonly string[], to: readonly string[]): Record<string, string> =>
          Object.fromEntries(from.map((column, i) => [column, to[i] ?? '']));
        made[link] = is(relation, One)
          ? toOne(target, pairs(mine, theirs), { optional: !relation.isNullable })
          : toMany(target, pairs(theirs, mine));
      } catch (error) {
        findings.push({ path: `${name}.${link}`, message: messageOf(error) });
      }
    }
    links[name] = made;
  }
  return { links, findings };
};
