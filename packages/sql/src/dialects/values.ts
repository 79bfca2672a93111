import type { ColumnType } from 'gribo';

const asNumber = (value: unknown): number => Number(value);
const asBigint = (value: unknown): bigint => BigInt(value as string | number);
const asBool = (value: unknown): boolean => value === true || value === 1 || value === 1n || value === '1';
const asJson = (value: unknown): unknown => (typeof value === 'string' ? JSON.parse(value) : value);

/** A decimal as text with all its places: some databases leave trailing zeros away. */
const asDecimal =
  (scale: number) =>
  (value: unknown): string => {
    const text = String(value);
    const fraction = text.split('.')[1] ?? '';
    if (fraction.length >= scale || /[eE]/.test(text)) return text;
    return `${text}${fraction === '' && scale > 0 ? '.' : ''}${'0'.repeat(scale - fraction.length)}`;
  };

/** What turns a driver's value into the one that rows hold; null where it is that already. */
export const decodeValue = (
  type: ColumnType,
  asMoment: (value: unknown) => Date,
): ((value: unknown) => unknown) | null => {
  switch (type.kind) {
    case 'integer':
    case 'real':
      return asNumber;
    case 'bigint':
      return asBigint;
    case 'decimal':
      return asDecimal(type.scale);
    case 'bool':
      return asBool;
    case 'timestamp':
      return asMoment;
    case 'json':
      return asJson;
    case 'text':
    case 'date':
    case 'time':
    case 'uuid':
    case 'bytes':
    case 'oneOf':
      return null;
    default:
      return type satisfies never;
  }
};

/** A value as text, numbers or bytes, which every driver hands over as they are. */
export const encodeValue = (type: ColumnType, value: unknown, moment: (value: Date) => string): unknown => {
  if (value === null || value === undefined) return null;
  switch (type.kind) {
    case 'timestamp':
      return value instanceof Date ? moment(value) : value;
    case 'bigint':
      return String(value);
    case 'json':
      return JSON.stringify(value);
    case 'bytes':
      return Buffer.from(value as Uint8Array);
    case 'integer':
    case 'real':
    case 'decimal':
    case 'bool':
    case 'text':
    case 'date':
    case 'time':
    case 'uuid':
    case 'oneOf':
      return value;
    default:
      return type satisfies never;
  }
};

/** A text for `like`, in lower case, with what means something there escaped by `!`. */
export const likePattern = (text: string): string => `%${text.toLowerCase().replaceAll(/[!%_]/g, '!$&')}%`;
