import { getTableColumns, is, Table } from 'drizzle-orm';
import { toCamelCase, toSnakeCase } from 'drizzle-orm/casing';
import { DeclarationError, type EntityDefinition, entity, type Finding, type Model, model } from 'gribo';
import { type ColumnFacts, columnOf } from './column-of.js';
import type { AnyColumn } from './column-types.js';
import { linksOf } from './links-of.js';
import type { Over, Schema, TypesOf } from './model-types.js';
import { type TableFacts, tableFacts } from './table-facts.js';

/** Options of {@link modelFrom}. */
export interface ModelFromOptions {
  /** What `drizzle()` is told as `casing`: how columns that were given no name are called in the database. */
  readonly casing?: 'snake_case' | 'camelCase';
}

type Columns = Record<string, AnyColumn>;
type AnyOver = Readonly<Record<string, ((columns: Columns) => Record<string, AnyColumn | null>) | undefined>>;

const CASINGS = { snake_case: toSnakeCase, camelCase: toCamelCase };

/** Makes the entities of a schema, and gathers what is wrong with them. */
class EntityMaker {
  readonly findings: Finding[] = [];
  readonly #over: AnyOver;
  readonly #called: (name: string) => string;

  constructor(over: AnyOver, { casing }: ModelFromOptions) {
    this.#over = over;
    this.#called = casing === undefined ? (name): string => name : CASINGS[casing];
  }

  make(name: string, table: Table): EntityDefinition<Columns> | null {
    const found = getTableColumns(table);
    const facts = tableFacts(table, Object.values(found));
    if (facts === null) {
      this.findings.push({ path: name, message: 'expected a table of PostgreSQL, MySQL or SQLite' });
      return null;
    }
    const made: Columns = {};
    const unknown = new Map<string, string>();
    const stored = new Map<string, string>();
    for (const [property, column] of Object.entries(found)) {
      const called = column.keyAsName ? this.#called(property) : column.name;
      stored.set(property, called);
      const known = columnOf(column, this.#facts(facts, column.name, called));
      if (known === null) unknown.set(property, column.getSQLType());
      else made[property] = known;
    }
    const over = this.#over[name]?.(made) ?? {};
    const columns = this.#joined(name, made, over, stored);
    for (const [property, type] of unknown) {
      if (Object.hasOwn(over, property)) continue;
      const message = `no column holds a ${type} as it is: say what it is, as in { ${name}: () => ({ ${property}: text() }) }, or leave it out with null`;
      this.findings.push({ path: `${name}.${property}`, message });
    }
    return entity(name, columns, { stored: facts.stored });
  }

  #facts(facts: TableFacts, name: string, stored: string): ColumnFacts {
    return { stored, isKey: facts.key.has(name), isUnique: facts.unique.has(name) };
  }

  #joined(
    name: string,
    made: Columns,
    over: Readonly<Record<string, AnyColumn | null>>,
    stored: ReadonlyMap<string, string>,
  ): Columns {
    // They stay in the order of the table.
    const joined: Columns = {};
    for (const [property, called] of stored) {
      const column = Object.hasOwn(over, property) ? over[property] : made[property];
      if (column == null) continue;
      joined[property] = column.settings.stored === null ? column.stored(called) : column;
    }
    for (const property of Object.keys(over)) {
      if (stored.has(property)) continue;
      this.findings.push({ path: `${name}.${property}`, message: 'the table has no such column' });
    }
    return joined;
  }
}

/**
 * The model of a schema of Drizzle's: an entity for each table and a link for each relation, under the names that they are
 * exported by. Choices, `bigint`, what JSON columns hold by `$type` and whether a link may lead nowhere are in its types.
 *
 * @param schema tables and relations: `import * as schema from './schema.js'`
 * @param over by table, given its columns: columns in place of some of them, such as `phone.sealed('personal')`, or one for
 * a type that has none; null leaves a column out
 * @param options `casing`: what `drizzle()` is told of it
 * @throws {DeclarationError} `DECLARATION` listing every column of no known kind, and every relation that leads nowhere
 * @example
 * const fleet = modelFrom(schema, { operators: ({ phone }) => ({ phone: phone.sealed('personal') }) });
 */
export const modelFrom = <const S extends Schema, const O = Record<never, never>>(
  schema: S,
  over?: O & Over<S>,
  options: ModelFromOptions = {},
): Model<TypesOf<S, O>> => {
  // Each function is given the columns that its type names.
  const maker = new EntityMaker((over ?? {}) as AnyOver, options);
  const entities: Record<string, EntityDefinition<Columns>> = {};
  for (const [name, table] of Object.entries(schema)) {
    const made = is(table, Table) ? maker.make(name, table) : null;
    if (made !== null) entities[name] = made;
  }
  for (const name of Object.keys(over ?? {}))
    if (entities[name] === undefined)
      maker.findings.push({ path: name, message: 'the schema has no such table' });
  const { links, findings } = linksOf(schema);
  DeclarationError.throwIfAny('modelFrom', [...maker.findings, ...findings]);
  // What was made follows Drizzle's tables, as the type does.
  return model(entities, links as never, { columnNames: 'same' }) as unknown as Model<TypesOf<S, O>>;
};
