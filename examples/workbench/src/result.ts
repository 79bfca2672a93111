import type { Weight } from 'gribo';

/** What is to be run: the shapes as JavaScript, and what is to be shown of them. */
export interface Job {
  readonly id: number;
  readonly code: string;
  /** The name of the exported shape; empty: the last one. */
  readonly shape: string;
  readonly audience: string;
}

/** What came of it. */
export interface Made {
  /** The names of every exported shape. */
  readonly shapes: readonly string[];
  readonly shape: string;
  /** The response for a few rows, as JSON. */
  readonly response: string;
  readonly schema: string;
  /** The load plan, in lines of words. */
  readonly load: readonly string[];
  readonly weight: Weight;
  readonly storedBytes: number;
}

export type Result =
  | { readonly id: number; readonly ok: true; readonly made: Made }
  | { readonly id: number; readonly ok: false; readonly message: string };
