/** A number from 0 to 1 that depends on its seed alone, one after the other. */
export type Random = () => number;

/** The FNV-1a hash of a text. */
const hashOf = (text: string): number => {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return hash >>> 0;
};

/**
 * A source of numbers for one place: the same seed and place give the same numbers, whatever
 * other places there are. So a new column leaves the values of the others as they were.
 */
export const randomAt = (...place: readonly (string | number)[]): Random => {
  let state = hashOf(place.join(' '));
  // Mulberry32.
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
};

/** A whole number from `min` to `max`, both included. */
export const wholeBetween = (random: Random, min: number, max: number): number =>
  min + Math.floor(random() * (max - min + 1));

/** One of several. */
export const oneFrom = <T>(random: Random, all: readonly T[]): T =>
  all[Math.floor(random() * all.length)] as T;
