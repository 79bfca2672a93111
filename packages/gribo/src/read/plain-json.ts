import { ExactNumber } from '../values/exact-number.js';
import { HALF } from '../values/patterns.js';

/** How much of a body has been seen: what has not been seen, somebody else has to look at. */
export interface Seen {
  /** Members of objects and items of arrays. */
  members: number;
  items: number;
  /** Rows of nested to-many inputs; they are items too. */
  rows: number;
  /** The levels of the deepest JSON value. */
  depth: number;
  /**
   * Why a JSON value cannot be stored, where it is not too deep: a text has half a character, which no UTF-8 can
   * write; a number is beyond all that JavaScript holds; something in it is no JSON.
   */
  wrong: 'format' | 'range' | 'type' | null;
}

/** A value for a JSON column may be so deep, however it was parsed. */
export const MOST_LEVELS = 256;

/**
 * A JSON value as JavaScript holds it: digits that were kept become numbers, objects plain ones.
 * Undefined where it is too deep to be walked, or has a text that cannot be stored.
 *
 * @param seen is told how much there is in it
 */
export const plainJson = (value: unknown, seen: Seen, level = 0): unknown => {
  if (value instanceof ExactNumber) return finite(Number(value.text), seen);
  switch (typeof value) {
    case 'string':
      return whole(value, seen);
    case 'number':
      return finite(value, seen);
    case 'boolean':
      return value;
    case 'object':
      if (value === null) return null;
      break;
    default:
      seen.wrong = 'type';
      return undefined;
  }
  if (level === MOST_LEVELS) return undefined;
  seen.depth = Math.max(seen.depth, level + 1);
  if (Array.isArray(value)) {
    seen.items += value.length;
    const made = value.map((item) => plainJson(item, seen, level + 1));
    return made.includes(undefined) ? undefined : made;
  }
  const made = Object.entries(value).map(
    ([name, member]) => [whole(name, seen), plainJson(member, seen, level + 1)] as const,
  );
  seen.members += made.length;
  return made.some((pair) => pair.includes(undefined)) ? undefined : Object.fromEntries(made);
};

/** A text, if each of its characters is whole. */
const whole = (text: string, seen: Seen): string | undefined => {
  if (!HALF.test(text)) return text;
  seen.wrong = 'format';
  return undefined;
};

/** A number, if it is one that JSON can write. */
const finite = (value: number, seen: Seen): number | undefined => {
  if (Number.isFinite(value)) return value;
  seen.wrong = 'range';
  return undefined;
};

/** Nothing seen yet. */
export const nothingSeen = (): Seen => ({ members: 0, items: 0, rows: 0, depth: 0, wrong: null });
