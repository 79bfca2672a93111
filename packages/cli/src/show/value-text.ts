/** The value at the end of a path; undefined where the path leads nowhere. */
export const valueAt = (root: unknown, path: readonly (string | number)[]): unknown => {
  let at: unknown = root;
  for (const step of path) {
    if (typeof at !== 'object' || at === null) return undefined;
    at = (at as Record<string | number, unknown>)[step];
  }
  return at;
};

/** `portCalls[0].eta` */
export const pathText = (path: readonly (string | number)[]): string =>
  path.reduce<string>((text, step) => {
    if (typeof step === 'number' || step === '…') return `${text}[${step}]`;
    return text === '' ? step : `${text}.${step}`;
  }, '');

/** What the two sides of a comparison call one thing and many. */
export interface Nouns {
  readonly one: string;
  readonly item: string;
}

export const STORED: Nouns = { one: 'a row', item: 'row' };
export const SENT: Nouns = { one: 'an object', item: 'item' };

/** A stored or written value on one line. */
export const valueText = (value: unknown, nouns: Nouns): string => {
  if (value === undefined) return '';
  if (value instanceof Date) return value.toISOString();
  if (value instanceof Uint8Array) return `${value.length} bytes`;
  if (typeof value === 'bigint') return String(value);
  if (Array.isArray(value)) return value.length === 1 ? `1 ${nouns.item}` : `${value.length} ${nouns.item}s`;
  if (typeof value === 'object' && value !== null) return nouns.one;
  return JSON.stringify(value);
};
