import type { ColumnKind } from '../plan/column-type.js';

/** What a database makes for a column that no change sets. */
export type Made = 'number' | 'uuid' | 'moment' | 'day' | 'false' | 'nothing';

/** Of other kinds, nothing is made. */
const MADE: { readonly [K in ColumnKind]?: Made } = {
  integer: 'number',
  bigint: 'number',
  bool: 'false',
  date: 'day',
  timestamp: 'moment',
  uuid: 'uuid',
};

/** What is made of a kind. */
export const madeOf = (kind: ColumnKind): Made => MADE[kind] ?? 'nothing';
