import type { ColumnType } from 'gribo/kit';
import { type Form, formOf } from '../kinds/kinds.js';

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

type Decode = (value: unknown) => unknown;

/** What turns a driver's value into the one that rows hold, by the form of the type; null where it is that already. */
export const decodeValue = (type: ColumnType, asMoment: (value: unknown) => Date): Decode | null => {
  const decoders: Readonly<Record<Form, Decode | null>> = {
    plain: null,
    choice: null,
    day: null,
    clock: null,
    bytes: null,
    number: asNumber,
    whole: asBigint,
    decimal: asDecimal(type.kind === 'decimal' ? type.scale : 0),
    bool: asBool,
    moment: asMoment,
    json: asJson,
  };
  return decoders[formOf(type)];
};

const ENCODE: Readonly<Partial<Record<Form, (value: unknown) => unknown>>> = {
  whole: String,
  json: (value) => JSON.stringify(value),
  bytes: (value) => Buffer.from(value as Uint8Array),
};

/** A value as text, numbers or bytes, which every driver hands over as they are. */
export const encodeValue = (type: ColumnType, value: unknown, moment: (value: Date) => string): unknown => {
  if (value === null || value === undefined) return null;
  const form = formOf(type);
  if (form === 'moment') return value instanceof Date ? moment(value) : value;
  const encode = ENCODE[form];
  return encode === undefined ? value : encode(value);
};

/** A text for `like`, in lower case, with what means something there escaped by `!`. */
export const likePattern = (text: string): string => `%${text.toLowerCase().replaceAll(/[!%_]/g, '!$&')}%`;
