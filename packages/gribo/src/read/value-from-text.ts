import type { ColumnType } from '../plan/column-type.js';
import type { ColumnPlan } from '../plan/entity-plan.js';
import { freeze } from '../util/freeze.js';
import { Refusal, readTyped } from './read-value.js';

/** The value that a text stands for, or what was expected in its place. */
export type TextResult =
  | { readonly ok: true; readonly value: unknown }
  | { readonly ok: false; readonly expected: string };

/** The type without the limits of what may be stored: any value of it can be compared with. */
const unlimited = (type: ColumnType): ColumnType => {
  switch (type.kind) {
    case 'text':
      return { ...type, min: null, max: null, pattern: null };
    case 'integer':
    case 'real':
      return { ...type, min: null, max: null };
    case 'bigint':
      return { ...type, min: null, max: null };
    case 'bytes':
      return { ...type, max: null };
    case 'decimal':
    case 'bool':
    case 'date':
    case 'time':
    case 'timestamp':
    case 'uuid':
    case 'json':
    case 'oneOf':
      return type;
    default:
      return type satisfies never;
  }
};

/**
 * The value that a text of a path or a query stands for, to find rows by: of the column's type, but
 * not held to the limits of what may be stored.
 *
 * @param column the column that it is compared with
 * @param text the text as it was sent, decoded
 * @returns `{ ok: true, value }`, or `{ ok: false, expected }` in a few words
 * @example
 * const [id] = db.vessel.entity.columns;
 * valueFromText(id, '17') // => {"ok":true,"value":17}
 */
export const valueFromText = (column: ColumnPlan, text: string): TextResult => {
  const value = readTyped(unlimited(column.type), text, { text: 'lax', choices: 'name' });
  return value instanceof Refusal
    ? freeze({ ok: false, expected: value.expected })
    : freeze({ ok: true, value });
};
