/** Ways to ask for one header. */
const ONE = ['get', 'has'] as const;

/**
 * Does work, and notes which of a request's headers are asked for by their names meanwhile. Whoever copies all of them is not seen.
 *
 * @returns the work's result
 */
export const notingHeaders = async <T>(
  { headers }: Pick<Request, 'headers'>,
  noted: Set<string>,
  work: () => T | Promise<T>,
): Promise<T> => {
  // Hosts have classes of their own for them: what is asked is asked of that, and the object is as it was afterwards.
  if (!Object.isExtensible(headers)) return work();
  for (const way of ONE) {
    const asked: (name: string) => unknown = headers[way].bind(headers);
    Object.defineProperty(headers, way, {
      configurable: true,
      value: (name: string) => {
        noted.add(String(name).toLowerCase());
        return asked(name);
      },
    });
  }
  try {
    return await work();
  } finally {
    for (const way of ONE) Reflect.deleteProperty(headers, way);
  }
};

/** A header's name as it is usually written. */
const written = (name: string): string => name.replace(/(?:^|-)[a-z]/g, (start) => start.toUpperCase());

/**
 * The headers that tell callers apart, with those that were asked for to know who asks; null where nobody is told apart.
 *
 * @param decidedBy those that are known without looking
 */
export const withNoted = (
  decidedBy: readonly string[] | null,
  noted: ReadonlySet<string>,
): readonly string[] | null => {
  if (decidedBy === null || noted.size === 0) return decidedBy;
  const known = new Set(['accept', ...decidedBy.map((name) => name.toLowerCase())]);
  return [...decidedBy, ...[...noted].filter((name) => !known.has(name)).map(written)];
};
