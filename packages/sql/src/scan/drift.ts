import type { ColumnPlan, ColumnType, EntityPlan, LinkedEntities } from 'gribo/kit';
import type { DatabaseSchema, ScannedColumn, ScannedTable } from '../catalogue/database-schema.js';
import { dialectOf } from '../dialects/dialects.js';
import { sqlKind } from '../kinds/kinds.js';
import type { AnyKysely } from '../kysely/any-kysely.js';

/** One place where a model and its database do not agree. */
export interface Drift {
  /** `table`, `column`: not there. `excess`: only the database has it. `type`, `null`, `default`, `key`: declared otherwise. */
  readonly code: 'table' | 'column' | 'excess' | 'type' | 'null' | 'default' | 'key';
  /** The entity, and the column: `vessel.callSign`. */
  readonly path: string;
  /** What is different and what to do, in a sentence or two. */
  readonly message: string;
}

const typeText = (type: ColumnType): string => sqlKind(type).words(type);

const typeDrift = (
  declared: ColumnType,
  { type: stored, said }: ScannedColumn,
  isLoose: boolean,
): string | null => {
  const { storedAs, looselyAs } = sqlKind(declared);
  const allowed = [...storedAs, ...(isLoose ? looselyAs : [])];
  const words = `the model says ${typeText(declared)}, the database ${said}`;
  if (!allowed.includes(stored.kind)) return words;
  if (declared.kind === 'decimal' && stored.kind === 'decimal') {
    const isSame = declared.precision === stored.precision && declared.scale === stored.scale;
    return isSame ? null : `the model says ${typeText(declared)}, the database ${typeText(stored)}`;
  }
  if (declared.kind !== 'oneOf' || stored.kind !== 'oneOf') return null;
  const isSame = [...declared.choices].sort().join() === [...stored.choices].sort().join();
  return isSame ? null : `the model says ${typeText(declared)}; the database says ${typeText(stored)}`;
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
  const type = typeDrift(column.type, stored, isLoose);
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
  const columns = entity.columns.flatMap((column) =>
    columnDrift(
      `${entity.name}.${column.name}`,
      column,
      table.columns.find(({ name }) => name === column.stored),
      isLoose,
    ),
  );
  const key = entity.columns.filter((column) => column.key).map(({ stored }) => stored);
  const isSameKey = [...key].sort().join() === [...table.key].sort().join();
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
  return [...keys, ...columns, ...excess(entity, table)];
};

/** Where a model and a schema do not agree. */
export const driftFrom = (
  model: LinkedEntities,
  schema: DatabaseSchema,
  isLoose: boolean,
): readonly Drift[] =>
  Object.values(model).flatMap(({ entity }) => {
    // A table may be named with its schema.
    const name = entity.table.slice(entity.table.lastIndexOf('.') + 1);
    return entityDrift(
      entity,
      schema.tables.find((table) => table.name === name),
      isLoose,
    );
  });

/**
 * Compares a model with its database: tables and columns that one of them lacks, types, nullability
 * and keys that differ.
 *
 * @param model the model
 * @param kysely a Kysely instance of its database
 * @returns every difference; an empty list where they agree
 * @example
 * const differences = await drift(db, kysely);
 */
export const drift = async (model: LinkedEntities, kysely: AnyKysely): Promise<readonly Drift[]> => {
  const { readSchema, isLoose } = dialectOf(kysely);
  return driftFrom(model, await readSchema(kysely), isLoose);
};
