import { DeclarationError, type Finding } from '../../errors/declaration-error.js';
import { freeze } from '../../util/freeze.js';
import { isPlainLiteral } from '../../util/is-plain-literal.js';
import { Column, type ColumnFlag } from './column.js';
import { inheritedName } from './inherited.js';

/** Columns by the row's property names. */
export interface Columns {
  readonly [name: string]: Column<unknown, unknown, ColumnFlag>;
}

/** An entity before a model links it to others. */
export interface EntityDefinition<C extends Columns> {
  readonly name: string;
  /** The table's name, where it is not the snake_case of the entity's. */
  readonly stored: string | null;
  /** Whether its rows are only read. */
  readonly readOnly: boolean;
  readonly columns: C;
}

/** What columns have to be: themselves, or words for what are none. */
type CheckedColumns<C> = C extends Columns
  ? C
  : {
      readonly [N in keyof C]: C[N] extends Column<unknown, unknown, ColumnFlag>
        ? C[N]
        : 'expected a column such as text() or integer()';
    };

const columnFinding = (column: unknown): string | null => {
  if (!(column instanceof Column)) return 'expected a column such as text() or integer()';
  const { settings } = column;
  if (settings.key && settings.nullable) return 'a key cannot be nullable';
  if (settings.stamped?.on === 'remove' && !settings.nullable && !settings.defaulted)
    return 'a row is without it until it is removed: add .nullable() or .defaulted()';
  if (settings.coded !== null && settings.generated)
    return 'what the database makes has the form that it has: leave .generated() or .coded() out';
  const counts = settings.stamped?.value === 'count';
  if (counts && settings.type.kind !== 'integer' && settings.type.kind !== 'bigint')
    return 'it counts changes: integer().counting() or bigint().counting()';
  if (counts && settings.nullable) return 'it counts changes, so it is never null: leave .nullable() out';
  if (settings.sealed === '') return 'say why it is sealed: sealed("personal")';
  return settings.wrong;
};

/**
 * Declares a persisted record type: a table and its columns.
 *
 * @param name the entity's name, also its key in the model
 * @param columns columns by the row's property names
 * @param options `stored`: the table's name, where it is not the snake_case of `name`; `readOnly`: its rows are only
 * read, as those of a view: no input is declared over it, and none is removed
 * @returns the definition, to be given to `model`
 * @throws {DeclarationError} `DECLARATION` where a column is wrong; it lists every finding
 * @example
 * const vessel = entity('vessel', { id: integer().key(), name: text({ max: 60 }) });
 */
export const entity = <const C>(
  name: string,
  columns: CheckedColumns<C>,
  options: { stored?: string; readOnly?: boolean } = {},
): EntityDefinition<C extends Columns ? C : never> => {
  const findings: Finding[] = [];
  if (!isPlainLiteral(columns)) {
    findings.push({
      path: name,
      message: 'expected a plain object of columns (a key "__proto__" is not one)',
    });
  }
  for (const [column, value] of Object.entries(columns)) {
    const message = inheritedName(column, `with .stored(${JSON.stringify(column)})`) ?? columnFinding(value);
    if (message !== null) findings.push({ path: `${name}.${column}`, message });
  }
  if (findings.length === 0 && !Object.values(columns).some((column) => column.settings.key)) {
    findings.push({ path: name, message: 'it has no key: mark a column with .key()' });
  }
  DeclarationError.throwIfAny(`entity "${name}"`, findings);
  // What is no column was told above.
  const sound = freeze({ ...columns }) as C extends Columns ? C : never;
  return freeze({
    name,
    stored: options.stored ?? null,
    readOnly: options.readOnly === true,
    columns: sound,
  });
};
