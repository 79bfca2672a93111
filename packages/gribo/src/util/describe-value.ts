const LONGEST = 40;

const cut = (text: string): string => (text.length > LONGEST ? `${text.slice(0, LONGEST)}…` : text);

/** What kind of value this is, without any of its content: safe for sealed columns. */
export const kindOfValue = (value: unknown): string => {
  if (value === null) return 'null';
  if (value === undefined) return 'nothing';
  if (Array.isArray(value)) return 'an array';
  if (value instanceof Date) return 'a Date';
  if (value instanceof Uint8Array) return 'bytes';
  return typeof value === 'object' ? 'an object' : `a ${typeof value}`;
};

/** A value as a message shows it: short, and with its content where that is short. */
export const describeValue = (value: unknown): string => {
  switch (typeof value) {
    case 'string':
      return cut(JSON.stringify(value));
    case 'number':
      return Object.is(value, -0) ? '-0' : String(value);
    case 'boolean':
      return String(value);
    case 'bigint':
      return cut(`${value}n`);
    default:
      if (value instanceof Date) return Number.isNaN(value.getTime()) ? 'an invalid Date' : `a Date`;
      return kindOfValue(value);
  }
};
