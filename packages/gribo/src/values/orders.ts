import type { ColumnKind, ColumnType, OfKind } from '../plan/column-type.js';
import type { SortKey } from '../plan/condition.js';
import { compareBytes, compareDecimals, compareOrdered, compareTexts } from './compare-raw.js';

type Compare<K extends ColumnKind> = (a: never, b: never, type: OfKind<K>) => number;

/** Kinds whose values are not in the order in which JavaScript has them. Choices are in the order in which they are declared. */
const ORDERS: { readonly [K in ColumnKind]?: Compare<K> } = {
  text: compareTexts,
  decimal: compareDecimals,
  timestamp: (a: Date, b: Date) => a.getTime() - b.getTime(),
  json: (a: unknown, b: unknown) => compareOrdered(JSON.stringify(a), JSON.stringify(b)),
  bytes: compareBytes,
  oneOf: (a, b, { choices }) => choices.indexOf(a) - choices.indexOf(b),
  array: (a: readonly unknown[], b: readonly unknown[], { of }) => {
    const at = a.findIndex((value, i) => i >= b.length || compareValues(of, value, b[i]) !== 0);
    return at < 0 || at >= b.length ? a.length - b.length : compareValues(of, a[at], b[at]);
  },
};

/** Compares two accepted values of a type: below zero where `a` comes first. */
export const compareValues = (type: ColumnType, a: unknown, b: unknown): number => {
  // A row takes values of its own kind, and is found by that.
  const compare = (ORDERS[type.kind] ?? compareOrdered) as Compare<ColumnKind>;
  return compare(a as never, b as never, type);
};

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
