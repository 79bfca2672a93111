import type { ColumnPlan } from '../plan/entity-plan.js';
import { freeze } from '../util/freeze.js';
import type { IssueLimits, Wanted } from './issue.js';
import { readKind, readTyped } from './kinds.js';
import { Refusal } from './refusal.js';

/** The value that a text stands for, or what was expected in its place. */
export type TextResult =
  | { readonly ok: true; readonly value: unknown }
  | { readonly ok: false; readonly wanted: Wanted; readonly limits: IssueLimits };

/**
 * The value that a text of a path or a query stands for, to find rows by: of the column's type, but
 * not held to the limits of what may be stored.
 *
 * @param column the column that it is compared with, or a fact
 * @param text the text as it was sent, decoded
 * @returns `{ ok: true, value }`, or `{ ok: false, wanted, limits }`, for `sayWanted`
 * @example
 * const [id] = db.vessel.entity.columns;
 * valueFromText(id, '17') // => {"ok":true,"value":17}
 */
export const valueFromText = (column: Pick<ColumnPlan, 'type'>, text: string): TextResult => {
  const value = readTyped(readKind(column.type).unlimited(column.type), text, {
    text: 'lax',
    choices: 'name',
    digits: 'text',
  });
  return value instanceof Refusal
    ? freeze({ ok: false, wanted: value.wanted, limits: value.limits })
    : freeze({ ok: true, value });
};
