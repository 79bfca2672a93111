import type { ColumnType } from './column-type.js';

/** Does something to a value that is not null, with what was chosen when the conversion was declared. */
export type Apply = (value: never, ...choices: never[]) => unknown;

/** A named change of one value, with what it yields: a function and what it is called with besides the value. */
export interface ConversionPlan {
  readonly name: string;
  readonly apply: Apply;
  /** Leads back to the stored value, where there is a way back; undefined where a value has none. */
  readonly invert: Apply | null;
  /** What was chosen when it was declared: plain values, in the order in which both functions take them. */
  readonly choices: readonly unknown[];
  readonly yields: ColumnType;
  /** What a body holds that leads back, as it is described: the limits of the column in it, for one. */
  readonly reads: ColumnType;
  /** Whether what comes out may be shown where the column is sealed. */
  readonly lifts: boolean;
}

/** The value as a conversion shows it. */
export const convert = ({ apply, choices }: ConversionPlan, value: unknown): unknown =>
  apply(value as never, ...(choices as never[]));

/** The value that a conversion would have made this of; undefined where there is none. */
export const convertBack = ({ invert, choices }: ConversionPlan, value: unknown): unknown => {
  try {
    return invert?.(value as never, ...(choices as never[]));
  } catch {
    return undefined;
  }
};
