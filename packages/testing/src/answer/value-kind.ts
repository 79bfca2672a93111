/** What kind of value of JSON something is, in words. */
export const valueKind = (value: unknown): string => {
  if (value === null) return 'null';
  if (value === undefined) return 'nothing';
  if (Array.isArray(value)) return `a list of ${value.length}`;
  return typeof value === 'object' ? 'an object' : `a ${typeof value}`;
};

export const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
