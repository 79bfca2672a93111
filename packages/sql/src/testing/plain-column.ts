import type { ColumnPlan } from 'gribo/kit';
import type { SqlColumn } from '../dialects/dialect.js';
import { asItsKind } from '../dialects/native.js';

/** A column that compares as its kind does: for rows that tests put into tables themselves. */
export const plainColumn = ({ stored, type }: Pick<ColumnPlan, 'stored' | 'type'>): SqlColumn => ({
  stored,
  type,
  native: asItsKind,
  coded: null,
});
