/**
 * Copies what a field stands for, from between two positions of a line's bytes, to a position of the target. The caller has
 * reserved six bytes for each of the field, and 26 more.
 *
 * @returns the position after it; `NOT` where the field is none that it takes: such a row is made into values
 */
export type CopyField = (
  target: Uint8Array,
  position: number,
  source: Uint8Array,
  from: number,
  to: number,
) => number;

/** The same of one that is told something besides. */
export type CopyFieldWith<G> = (
  target: Uint8Array,
  position: number,
  source: Uint8Array,
  from: number,
  to: number,
  given: G,
) => number;

export const NOT = -1;

/** Codes of characters that fields are looked at for. */
export const DASH = 45;
export const POINT = 46;
export const ZERO = 48;
export const BACKSLASH = 92;

export const at = (source: Uint8Array, position: number): number => source[position] ?? 0;

export const isDigit = (code: number): boolean => code >= ZERO && code <= 57;

/** Copies the field as it is. */
export const copied: CopyField = (target, p, source, from, to) => {
  let end = p;
  for (let i = from; i < to; i++) target[end++] = at(source, i);
  return end;
};

/** The end of the digits that start at a position. */
export const digitsEnd = (source: Uint8Array, from: number, to: number): number => {
  let i = from;
  while (i < to && isDigit(at(source, i))) i++;
  return i;
};
