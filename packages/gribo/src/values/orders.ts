import type { ColumnKind, ColumnType } from '../plan/column-type.js';
import type { SortKey } from '../plan/condition.js';
import { compareBytes, compareDecimals, compareOrdered } from './compare-raw.js';

/** Below zero where `a` comes first. Text is ordered by its UTF-16 units, as JavaScript compares it. */
const ORDERS: { readonly [K in ColumnKind]: (a: never, b: never) => number } = {
  text: compareOrdered,
  integer: compareOrdered,
  bigint: compareOrdered,
  real: compareOrdered,
  decimal: compareDecimals,
  bool: compareOrdered,
  date: compareOrdered,
  time: compareOrdered,
  timestamp: (a: Date, b: Date) => a.getTime() - b.getTime(),
  uuid: compareOrdered,
  json: (a: unknown, b: unknown) => compareOrdered(JSON.stringify(a), JSON.stringify(b)),
  bytes: compareBytes,
  oneOf: compareOrdered,
};

/** Compares two accepted values of a type. */
export const compareValues = ({ kind }: ColumnType, a: unknown, b: unknown): number =>
  ORDERS[kind](a as never, b as never);

/** What is put in order, with its value for each key. */
export interface Placed {
  readonly values: readonly unknown[];
}

/** Compares by one key after the other, until they differ. */
export const compareInOrder = (order: readonly SortKey[], a: Placed, b: Placed): number => {
  for (const [i, key] of order.entries()) {
    const difference = compareBy(key, a.values[i], b.values[i]);
    if (difference !== 0) return difference;
  }
  return 0;
};

/** Nulls last, whichever way the rest is sorted. */
export const compareBy = ({ column, descending }: SortKey, a: unknown, b: unknown): number => {
  if (a === null || b === null) return (a === null ? 1 : 0) - (b === null ? 1 : 0);
  const order = compareValues(column.type, a, b);
  return descending ? -order : order;
};
