import type { ColumnKind } from '../plan/column-type.js';

/** What a database makes for a column that no change sets. */
export type Made = 'number' | 'uuid' | 'moment' | 'day' | 'false' | 'nothing';

/** A row for every kind: one that is missing does not compile. */
export const MADE: { readonly [K in ColumnKind]: Made } = {
  text: 'nothing',
  integer: 'number',
  bigint: 'number',
  real: 'nothing',
  decimal: 'nothing',
  bool: 'false',
  date: 'day',
  time: 'nothing',
  duration: 'nothing',
  timestamp: 'moment',
  uuid: 'uuid',
  json: 'nothing',
  bytes: 'nothing',
  oneOf: 'nothing',
  array: 'nothing',
};
