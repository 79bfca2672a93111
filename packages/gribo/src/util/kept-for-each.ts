import { keptBy } from './kept-by.js';

/**
 * Keeps what is made of an object for each audience.
 *
 * @param make makes it, once for each object and audience; null: callers of no audience
 */
export const keptForEach = <K extends object, V>(
  make: (key: K, audience: string | null) => V,
): ((key: K, audience: string | null) => V) => {
  const byAudience = keptBy((_key: K) => new Map<string | null, V>());
  return (key, audience) => {
    const made = byAudience(key);
    let value = made.get(audience);
    if (value === undefined) {
      value = make(key, audience);
      made.set(audience, value);
    }
    return value;
  };
};
