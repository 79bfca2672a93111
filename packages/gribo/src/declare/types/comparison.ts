import type { Condition, Sometimes } from './member-types.js';

declare const COMPARISON: unique symbol;
declare const FILTER: unique symbol;

/** A comparison of a column: a condition. */
export interface Comparison extends Condition<Sometimes> {
  readonly [COMPARISON]: true;
}

/** A comparison of a column with what a caller sends, as `filters` of a collection take it. */
export interface FilterMember {
  readonly [FILTER]: true;
}
