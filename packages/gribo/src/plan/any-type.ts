import { freeze } from '../util/freeze.js';
import type { ColumnType } from './column-type.js';

/** Any length and any letters. */
export const anyText: ColumnType = freeze({ kind: 'text', min: null, max: null, pattern: null });
/** Any whole number. */
export const anyWhole: ColumnType = freeze({ kind: 'integer', min: null, max: null });
/** Any finite number. */
export const anyNumber: ColumnType = freeze({ kind: 'real', min: null, max: null });
