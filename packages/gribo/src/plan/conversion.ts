import type { ColumnType } from './column-type.js';

export type ConversionName =
  | 'shorten'
  | 'masked'
  | 'rounded'
  | 'upper'
  | 'lower'
  | 'dateOnly'
  | 'epochSeconds'
  | 'asNumber'
  | 'asText'
  | 'labelled';

/** A named change of one value, with what it yields. `apply` is never given null. */
export interface ConversionPlan {
  readonly name: ConversionName;
  /** What was chosen when it was declared, as a description shows it: `{ length: 80 }`. */
  readonly settings: Readonly<Record<string, unknown>>;
  readonly yields: ColumnType;
  readonly apply: (value: never) => unknown;
  /** Leads back to the stored value, where there is a way back. */
  readonly invert: ((value: never) => unknown) | null;
}
