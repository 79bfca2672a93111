/** What a name of an edition may be: it stands in paths, headers and media types (a token of RFC 9110, section 5.6.2). */
export const EDITION_NAME: RegExp = /^[A-Za-z0-9][A-Za-z0-9._-]{0,63}$/;

const parts = (name: string): readonly string[] => name.match(/\d+|\D+/g) ?? [];

const comparePart = (one: string, other: string): number => {
  const isNumber = /^\d/.test(one) && /^\d/.test(other);
  // Of any length, and without rounding.
  const [a, b] = isNumber ? [BigInt(one), BigInt(other)] : [one, other];
  if (a === b) return 0;
  return a < b ? -1 : 1;
};

/**
 * Compares the names of two editions: numbers in them by value, the rest by its characters. A name says by itself where it
 * stands, so that what is declared for one edition knows it without the list of them all.
 *
 * @returns less than 0 where the first is older: `v9` than `v10`; nothing at all, `''`, is older than every name
 */
export const compareEditions = (one: string, other: string): number => {
  const [ones, others] = [parts(one), parts(other)];
  for (let i = 0; i < Math.min(ones.length, others.length); i++) {
    const compared = comparePart(ones[i] ?? '', others[i] ?? '');
    if (compared !== 0) return compared;
  }
  return ones.length - others.length;
};

/** Whether an edition is this one or a later one; left out, it is the newest. */
export const isFrom = (edition: string | undefined, from: string): boolean =>
  edition === undefined || compareEditions(edition, from) >= 0;
