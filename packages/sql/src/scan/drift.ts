import type { ColumnPlan, ColumnType, EntityPlan, LinkedEntities } from 'gribo/kit';
import type { DatabaseSchema, ScannedColumn, ScannedTable } from '../catalogue/database-schema.js';
import { isUnstated } from '../catalogue/type-of.js';
import { dialectOf } from '../dialects/dialects.js';
import { sqlKind } from '../kinds/kinds.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { linkDrift, type Tables } from './link-drift.js';

/** One place where a model and its database do not agree. */
export interface Drift {
  /**
   * `table`, `column`: not there. `excess`: only the database has it. `type`, `null`, `default`, `key`, `unique`, `link`:
   * declared otherwise.
   */
  readonly code: 'table' | 'column' | 'excess' | 'type' | 'null' | 'default' | 'key' | 'unique' | 'link';
  /** The entity, and the column: `vessel.callSign`. */
  readonly path: string;
  /** What is different and what to do, in a sentence or two. */
  readonly message: string;
}

const typeText = (type: ColumnType): string => sqlKind(type).words(type);

const isSameSet = (some: readonly string[], others: readonly string[]): boolean =>
  some.length === others.length && some.every((each) => others.includes(each));

/** Whether a database keeps values of a type as the model says. */
const isKept = (declared: ColumnType, stored: ColumnType, isLoose: boolean): boolean => {
  const { storedAs, looselyAs } = sqlKind(declared);
  if (![...storedAs, ...(isLoose ? looselyAs : [])].includes(stored.kind)) return false;
  // Where the database does not say how many digits there are, the model does.
  if (declared.kind === 'decimal' && stored.kind === 'decimal' && !isUnstated(stored))
    return declared.precision === stored.precision && declared.scale === stored.scale;
  // Whole numbers may be kept as decimals that have no places.
  if (declared.kind === 'bigint' && stored.kind === 'decimal') return stored.scale === 0;
  if (declared.kind === 'oneOf' && stored.kind === 'oneOf')
    return isSameSet(declared.choices, stored.choices);
  return declared.kind !== 'array' || stored.kind !== 'array' || isKept(declared.of, stored.of, isLoose);
};

const typeDrift = (
  declared: ColumnType,
  { type: stored, said }: ScannedColumn,
  isLoose: boolean,
): string | null => {
  if (stored !== null && isKept(declared, stored, isLoose)) return null;
  const words = stored?.kind === declared.kind ? typeText(stored) : said;
  return `the model says ${typeText(declared)}; the database says ${words}`;
};

const columnDrift = (
  path: string,
  column: ColumnPlan,
  stored: ScannedColumn | undefined,
  isLoose: boolean,
): Drift[] => {
  if (stored === undefined) {
    const message = `the database has no column ${column.stored}: add it, or take it out of the model`;
    return [{ code: 'column', path, message }];
  }
  const found: Drift[] = [];
  const type = typeDrift(column.coded?.type ?? column.type, stored, isLoose);
  if (type !== null) found.push({ code: 'type', path, message: `${type}: change one of them` });
  if (stored.nullable && !column.nullable) {
    found.push({
      code: 'null',
      path,
      message: 'the database allows null: make it .nullable(), or the column not null',
    });
  }
  if (column.defaulted && !stored.hasDefault) {
    found.push({
      code: 'default',
      path,
      message: 'the database has no default for it: take .defaulted() away, or add one there',
    });
  }
  if (!stored.nullable && column.nullable) {
    found.push({
      code: 'null',
      path,
      message: 'the database never has null: take .nullable() away, or allow it there',
    });
  }
  return found;
};

const excess = (entity: EntityPlan, { columns }: ScannedTable): Drift[] =>
  columns
    .filter(({ name }) => !entity.columns.some(({ stored }) => stored === name))
    .map(({ name, nullable, hasDefault, generated }) => {
      const isNeeded = !nullable && !hasDefault && !generated;
      const advice = isNeeded ? ', and it always needs a value: no row can be created' : '';
      return {
        code: 'excess',
        path: `${entity.name}.${name}`,
        message: `only the database has the column ${name}${advice}: add it to the model, or leave it out knowingly`,
      };
    });

const entityDrift = (entity: EntityPlan, table: ScannedTable | undefined, isLoose: boolean): Drift[] => {
  if (table === undefined) {
    return [{ code: 'table', path: entity.name, message: `the database has no table ${entity.table}` }];
  }
  // Of a view, no database says what is never null.
  const columns = entity.columns
    .flatMap((column) =>
      columnDrift(
        `${entity.name}.${column.name}`,
        column,
        table.columns.find(({ name }) => name === column.stored),
        isLoose,
      ),
    )
    .filter(({ code }) => code !== 'null' || !table.isView);
  const key = entity.columns.filter((column) => column.key).map(({ stored }) => stored);
  // A view has no key but the one that the model gives it.
  const isSameKey = table.isView || isSameSet(key, table.key);
  const said = table.key.length === 0 ? 'none' : table.key.join(', ');
  const keys: Drift[] = isSameKey
    ? []
    : [
        {
          code: 'key',
          path: entity.name,
          message: `the model's key is ${key.join(', ')}, the database's ${said}`,
        },
      ];
  return [...keys, ...columns, ...uniqueDrift(entity, table), ...excess(entity, table)];
};

/** Columns that the model takes for unique, and that may have the same value in several rows. */
const uniqueDrift = (entity: EntityPlan, { key, unique, isView }: ScannedTable): Drift[] =>
  entity.columns
    .filter(({ unique: isUnique, stored }) => {
      const alone = [key, ...unique].some((columns) => columns.length === 1 && columns[0] === stored);
      // Of a view, no database says it.
      return isUnique && !isView && !alone;
    })
    .map(({ name, stored }) => ({
      code: 'unique',
      path: `${entity.name}.${name}`,
      message: `the database lets several rows have the same ${stored}: take .unique() away, or make it unique there`,
    }));

/** Where a model and a schema do not agree. */
const driftFrom = (model: LinkedEntities, { tables }: DatabaseSchema, isLoose: boolean): readonly Drift[] => {
  const found: Tables = {
    of: ({ table }) =>
      tables.find(({ stored, schema, name }) => stored === table || `${schema}.${name}` === table),
    byId: (id) => tables.find((table) => table.id === id),
  };
  return Object.values(model).flatMap((linked) => [
    ...entityDrift(linked.entity, found.of(linked.entity), isLoose),
    ...linkDrift(linked, found).map((drift): Drift => ({ code: 'link', ...drift })),
  ]);
};

/** The schemas that a model's tables are named with. */
const schemasOf = (model: LinkedEntities): readonly string[] => [
  ...new Set(
    Object.values(model).flatMap(({ entity: { table } }) =>
      table.includes('.') ? [table.slice(0, table.indexOf('.'))] : [],
    ),
  ),
];

/**
 * Compares a model with its database: tables and columns that one of them lacks; types, nullability, defaults, keys, what is
 * unique, and links that differ.
 *
 * @param model the model
 * @param kysely a Kysely instance of its database
 * @returns every difference; an empty list where they agree
 * @example
 * const differences = await drift(db, kysely);
 */
export const drift = async (model: LinkedEntities, kysely: AnyKysely): Promise<readonly Drift[]> => {
  const { readSchema, isLoose } = dialectOf(kysely);
  const found = await readSchema(kysely, null);
  const schemas = schemasOf(model);
  const others = schemas.length === 0 ? [] : (await readSchema(kysely, schemas)).tables;
  return driftFrom(model, { tables: [...found.tables, ...others] }, isLoose);
};
