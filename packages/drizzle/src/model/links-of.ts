import {
  createTableRelationsHelpers,
  type Column as DrizzleColumn,
  extractTablesRelationalConfig,
  getTableUniqueName,
  is,
  normalizeRelation,
  One,
  type Relation,
  type TableRelationalConfig,
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

/** Columns by the property that has them, and those whose values they hold. */
const pairsOf = (from: readonly string[], to: readonly string[]): Pairs =>
  Object.fromEntries(from.map((column, i) => [column, to[i] ?? '']));

/** The tables of a schema, as Drizzle makes them of it. */
interface Related {
  readonly tables: TablesRelationalConfig;
  readonly tableNamesMap: Record<string, string>;
}

/** The link for a relation; a text where it leads nowhere. */
const linkOf = (
  { tables, tableNamesMap }: Related,
  from: TableRelationalConfig,
  relation: Relation,
): Links[string] | string => {
  const target = tableNamesMap[getTableUniqueName(relation.referencedTable)];
  const to = target === undefined ? undefined : tables[target];
  if (target === undefined || to === undefined)
    return `the table "${relation.referencedTableName}" is not in the schema`;
  try {
    const { fields, references } = normalizeRelation(tables, tableNamesMap, relation);
    const mine = fields.map((column) => propertyOf(from.columns, column));
    const theirs = references.map((column) => propertyOf(to.columns, column));
    return is(relation, One)
      ? toOne(target, pairsOf(mine, theirs), { optional: !relation.isNullable })
      : toMany(target, pairsOf(theirs, mine));
  } catch (error) {
    // It says what is missing: the other side of the relation, or which of several it is.
    return error instanceof Error ? error.message : String(error);
  }
};

/** A link for each relation of a schema. */
export const linksOf = (schema: Schema): FoundLinks => {
  const related = extractTablesRelationalConfig<TablesRelationalConfig>(schema, createTableRelationsHelpers);
  const findings: Finding[] = [];
  const links: Record<string, Links> = {};
  for (const [name, table] of Object.entries(related.tables)) {
    const made: Links = {};
    for (const [link, relation] of Object.entries(table.relations)) {
      const found = linkOf(related, table, relation);
      if (typeof found === 'string') findings.push({ path: `${name}.${link}`, message: found });
      else made[link] = found;
    }
    links[name] = made;
  }
  return { links, findings };
};
