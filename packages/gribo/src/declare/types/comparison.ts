declare const COMPARISON: unique symbol;
declare const FILTER: unique symbol;

/** A comparison of a column with a value, as `some(…, { where })` takes it. */
export interface Comparison {
  readonly [COMPARISON]: true;
}

/** A comparison of a column with what a caller sends, as `filters` of a collection take it. */
export interface FilterMember {
  readonly [FILTER]: true;
}
