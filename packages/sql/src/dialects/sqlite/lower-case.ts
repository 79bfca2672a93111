import { sql } from 'kysely';
import type { Piece } from '../dialect.js';

const LAST = 0x1ffff;

/** So many letters are looked for in both cases: an expression of SQLite may be a thousand deep. */
const MOST = 100;

let known: ReadonlyMap<string, readonly string[]> | null = null;

/** The characters beyond ASCII that are each character in upper case. */
const upperCases = (): ReadonlyMap<string, readonly string[]> => {
  if (known !== null) return known;
  const made = new Map<string, string[]>();
  for (let code = 128; code <= LAST; code++) {
    const upper = String.fromCodePoint(code);
    const lower = upper.toLowerCase();
    if (lower === upper) continue;
    const same = made.get(lower);
    if (same === undefined) made.set(lower, [upper]);
    else same.push(upper);
  }
  known = made;
  return made;
};

/**
 * A text in lower case, as far as a text in lower case is looked for in it: `lower` of SQLite knows the letters of ASCII, so
 * the others that are looked for are made of those that they are in upper case.
 */
export const inLowerCase = (ref: Piece, wanted: string): Piece => {
  const others = [...new Set(wanted)].flatMap((lower) =>
    (upperCases().get(lower) ?? []).map((upper) => [upper, lower] as const),
  );
  return others
    .slice(0, MOST)
    .reduce<Piece>((made, [upper, lower]) => sql`replace(${made}, ${upper}, ${lower})`, sql`lower(${ref})`);
};
