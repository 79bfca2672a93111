import { type ColumnType, clockText, durationText, withPlaces } from 'gribo/kit';
import { type Form, formOf } from '../kinds/kinds.js';
import { arrayText } from './arrays.js';
import type { SqlColumn } from './dialect.js';
import { asItsKind } from './native.js';

const asNumber = (value: unknown): number => Number(value);
const asBigint = (value: unknown): bigint => BigInt(value as string | number);
const asBool = (value: unknown): boolean =>
  value === true || value === 1 || value === 1n || value === '1' || value === 'true';
const asJson = (value: unknown): unknown => (typeof value === 'string' ? JSON.parse(value) : value);

/** A decimal as text with all its places: some databases leave trailing zeros away. */
const asDecimal =
  (scale: number) =>
  (value: unknown): string => {
    const text = String(value);
    return /[eE]/.test(text) ? text : withPlaces(text, scale);
  };

/** A number of 32 bits in the fewest digits that mean it, as other databases write it. */
const asSingle = (value: unknown): number => {
  const number = Number(value);
  for (let digits = 6; digits < 9; digits++) {
    const short = Number(number.toPrecision(digits));
    if (Math.fround(short) === number) return short;
  }
  return Number(number.toPrecision(9));
};

/** Durations are written alike, whatever keeps them. */
const asSpan = (value: unknown): unknown => durationText(value) ?? value;

/** Times of day are written alike, however many places a column has. */
const asClock = (value: unknown): unknown => clockText(value) ?? value;

type Decode = (value: unknown) => unknown;

/** The values of an array, from its JSON text or what a driver has made of that. */
const asArray =
  (decode: Decode | null): Decode =>
  (value) => {
    const values = asJson(value);
    if (!Array.isArray(values) || decode === null) return values;
    // Null is no value: whoever reads the row says so.
    return values.map((each) => (each === null ? null : decode(each)));
  };

/** What turns a driver's value into the one that rows hold, by the form of the type; null where it is that already. */
export const decodeValue = (
  { type, native }: Pick<SqlColumn, 'type' | 'native'>,
  asMoment: (value: unknown) => Date,
): Decode | null => {
  const decoders: Readonly<Record<Form, Decode | null>> = {
    plain: null,
    choice: null,
    day: null,
    clock: asClock,
    span: asSpan,
    bytes: null,
    number: native.keeps === 'single' ? asSingle : asNumber,
    whole: asBigint,
    decimal: asDecimal(type.kind === 'decimal' ? type.scale : 0),
    bool: asBool,
    moment: asMoment,
    json: asJson,
    array:
      type.kind === 'array' ? asArray(decodeValue({ type: type.of, native: asItsKind }, asMoment)) : null,
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
  if (form === 'array') return arrayText(type, value);
  const encode = ENCODE[form];
  return encode === undefined ? value : encode(value);
};

/** A text for `like`, in lower case, with what means something there escaped by `!`. */
export const likePattern = (text: string): string => `%${text.toLowerCase().replaceAll(/[!%_]/g, '!$&')}%`;
