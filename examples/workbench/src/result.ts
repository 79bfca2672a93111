import type { Weight } from 'gribo';

/** What is to be run: the shapes as JavaScript, and what is to be shown of them. */
export interface Job {
  readonly id: number;
  readonly code: string;
  /** The name of the exported shape; empty: the last one. */
  readonly shape: string;
  readonly audience: string;
  /** The last part of an endpoint's name; empty: none. */
  readonly endpoint: string;
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

type Unknown = Readonly<Record<string, unknown>>;

const isTexts = (value: unknown): boolean =>
  Array.isArray(value) && value.every((text) => typeof text === 'string');

/** No shape of the harbour is so deep. */
const MOST_LEVELS = 30;

const isWeight = (value: unknown, levels = MOST_LEVELS): value is Weight => {
  if (typeof value !== 'object' || value === null || levels === 0) return false;
  const { name, bytes, members } = value as Unknown;
  const isLeaf = typeof name === 'string' && typeof bytes === 'number';
  return isLeaf && Array.isArray(members) && members.every((member) => isWeight(member, levels - 1));
};

const isMade = (value: unknown): value is Made => {
  if (typeof value !== 'object' || value === null) return false;
  const { shapes, shape, response, schema, load, weight, storedBytes } = value as Unknown;
  const isText = [shape, response, schema].every((text) => typeof text === 'string');
  return isTexts(shapes) && isText && isTexts(load) && isWeight(weight) && typeof storedBytes === 'number';
};

/** A result, if it is one: what runs an edit may say anything. */
export const resultOf = (value: unknown): Result | null => {
  if (typeof value !== 'object' || value === null) return null;
  const { id, ok, made, message } = value as Unknown;
  if (typeof id !== 'number') return null;
  if (ok === true && isMade(made)) return { id, ok, made };
  return { id, ok: false, message: typeof message === 'string' ? message : 'The edit gave no result.' };
};
