import type { ColumnType } from '../plan/column-type.js';
import type { IssueLimits, Wanted } from './issue.js';
import { readTyped } from './kinds.js';
import { Refusal } from './refusal.js';

/** What would be right where a value of a type is wanted; null: anything is. */
export const wantedBy = (
  type: ColumnType,
): { readonly wanted: Wanted; readonly limits: IssueLimits } | null => {
  if (type.kind === 'json') return null;
  // Nothing is a value of no type, so its refusal says what would be one.
  const refusal = readTyped(type, undefined, { text: 'exact', choices: 'name', digits: 'text' });
  return refusal instanceof Refusal ? { wanted: refusal.wanted, limits: refusal.limits } : null;
};
