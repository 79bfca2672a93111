/** What every object has: no property of a row can be called so. */
export const INHERITED: readonly string[] = Object.getOwnPropertyNames(Object.prototype);

const first = (name: string): string => (name[0] ?? '').toUpperCase() + name.slice(1);

/** `port_call`, `PORT_CALL`, `PortCall` → `portCall`; what cannot be in a name is left out. */
export const camelCase = (name: string): string => {
  const isShouted = !/\p{Ll}/u.test(name);
  const words = (isShouted ? name.toLowerCase() : name)
    .split(/[^\p{L}\p{N}$]+/u)
    .filter((word) => word !== '');
  // Of an abbreviation behind another word only the first letter stays: `Buyer ID` is `buyerId`.
  const joined = words
    .map((word, i) => (i === 0 ? word : first(word)))
    .join('')
    .replace(
      /(?<=\p{Ll})(\p{Lu})(\p{Lu}+)(?=\P{L}|\p{Lu}\p{Ll}|$)/gu,
      (_all, head: string, rest: string) => head + rest.toLowerCase(),
    );
  const lower = joined.replace(/^(?:\p{Lu}+(?=\p{Lu}\p{Ll}|$)|\p{Lu})/u, (start) => start.toLowerCase());
  return /^[\p{L}_$]/u.test(lower) ? lower : `_${lower}`;
};

/** `vessels` → `vessel`, by the commonest rules of English. */
export const singular = (name: string): string => {
  if (/(?:ss|us|is)$/.test(name)) return name;
  if (/[^aeiou]ies$/.test(name)) return `${name.slice(0, -3)}y`;
  if (/(?:[sx]|ch|sh)es$/.test(name)) return name.slice(0, -2);
  return name.endsWith('s') && name.length > 3 ? name.slice(0, -1) : name;
};

/** `portCall` → `portCalls` */
export const plural = (name: string): string => {
  if (/[^aeiou]y$/.test(name)) return `${name.slice(0, -1)}ies`;
  return /(?:[sx]|ch|sh)$/.test(name) ? `${name}es` : `${name}s`;
};

/** The first of these names that is not taken yet, or the last one with a number. */
export const freeName = (taken: ReadonlySet<string>, ...names: readonly string[]): string => {
  const free = names.find((name) => !taken.has(name));
  if (free !== undefined) return free;
  const last = names.at(-1) ?? 'link';
  for (let i = 2; ; i++) if (!taken.has(`${last}${i}`)) return `${last}${i}`;
};

/** `portCalls`, `berth` → `portCallsByBerth` */
export const byName = (name: string, by: string): string => `${name}By${first(by)}`;
