import type { ColumnKind, ColumnType, OfKind } from '../plan/column-type.js';
import { base64Text } from '../util/base64.js';
import { dayText, isDate, isMoment } from './calendar.js';
import { compareBytes, compareDecimals, compareOrdered } from './compare-raw.js';
import { wholeNumber } from './exact.js';
import { jsonText } from './json-text.js';
import { CLOCK, DECIMAL, UUID } from './patterns.js';

/** What every room knows of the values of one kind. */
export interface ValueKind<K extends ColumnKind> {
  /** What a message about a row calls it. */
  name(type: OfKind<K>): string;
  /** What JSON shows, in words. */
  readonly shown: string;
  /**
   * A value of the type in the one form that user functions are given: days as text, big whole numbers
   * as bigint; undefined where it is no value of the type.
   */
  accept(value: unknown, type: OfKind<K>): unknown;
  /** Below zero where `a` comes first. Text is ordered by its UTF-16 units, as JavaScript compares it. */
  compare(a: never, b: never): number;
  /** An accepted value as JSON shows it; null where it goes out as it is. */
  readonly jsonReady: ((value: never) => unknown) | null;
  /** The accepted value of what JSON shows; undefined where it is none, or where rows are not ordered by it. */
  fromJson(value: unknown): unknown;
  /** What a database makes for a generated column of this kind; null where it makes nothing. */
  readonly made: 'number' | 'uuid' | 'moment' | 'day' | 'false' | null;
}

const textual = (pattern: RegExp) => (value: unknown) =>
  typeof value === 'string' && pattern.test(value) ? value : undefined;

const textOnly = (value: unknown) => (typeof value === 'string' ? value : undefined);
const numberOnly = (value: unknown) => (typeof value === 'number' ? value : undefined);

/** No column holds a whole number of more digits. */
const BIG = /^-?\d{1,40}$/;

const momentOf = (value: unknown): Date | undefined => {
  const moment = new Date(typeof value === 'string' ? value : Number.NaN);
  return Number.isNaN(moment.getTime()) ? undefined : moment;
};

/** A row for every kind: one that is missing does not compile. */
const VALUE_KINDS: { readonly [K in ColumnKind]: ValueKind<K> } = {
  text: {
    name: () => 'a string',
    shown: 'text',
    accept: (value) => (typeof value === 'string' ? value : undefined),
    compare: compareOrdered,
    jsonReady: null,
    fromJson: textOnly,
    made: null,
  },
  integer: {
    name: () => 'an integer',
    shown: 'a whole number',
    accept: (value) => (Number.isInteger(value) ? value : undefined),
    compare: compareOrdered,
    jsonReady: null,
    fromJson: numberOnly,
    made: 'number',
  },
  bigint: {
    name: () => 'a bigint, a safe integer or its text',
    shown: 'a whole number as text',
    accept: wholeNumber,
    compare: compareOrdered,
    jsonReady: String,
    fromJson: (value) => (typeof value === 'string' && BIG.test(value) ? BigInt(value) : undefined),
    made: 'number',
  },
  real: {
    name: () => 'a finite number',
    shown: 'a number',
    accept: (value) => (Number.isFinite(value) ? value : undefined),
    compare: compareOrdered,
    jsonReady: null,
    fromJson: numberOnly,
    made: null,
  },
  decimal: {
    name: () => 'a decimal as text',
    shown: 'a decimal as text',
    accept: textual(DECIMAL),
    compare: compareDecimals,
    jsonReady: null,
    fromJson: textOnly,
    made: null,
  },
  bool: {
    name: () => 'true or false',
    shown: 'true or false',
    accept: (value) => (typeof value === 'boolean' ? value : undefined),
    compare: compareOrdered,
    jsonReady: null,
    fromJson: (value) => (typeof value === 'boolean' ? value : undefined),
    made: 'false',
  },
  date: {
    name: () => 'a day as YYYY-MM-DD or a Date',
    shown: 'a day',
    accept: dayText,
    compare: compareOrdered,
    jsonReady: null,
    fromJson: textOnly,
    made: 'day',
  },
  time: {
    name: () => 'a time as HH:MM:SS',
    shown: 'a time of day',
    accept: textual(CLOCK),
    compare: compareOrdered,
    jsonReady: null,
    fromJson: textOnly,
    made: null,
  },
  timestamp: {
    name: () => 'a Date',
    shown: 'a moment',
    accept: (value) => (isDate(value) && isMoment(value.getTime()) ? value : undefined),
    compare: (a: Date, b: Date) => a.getTime() - b.getTime(),
    jsonReady: (value: Date) => value.toISOString(),
    fromJson: momentOf,
    made: 'moment',
  },
  uuid: {
    name: () => 'a UUID',
    shown: 'a UUID',
    accept: textual(UUID),
    compare: compareOrdered,
    jsonReady: null,
    fromJson: textOnly,
    made: 'uuid',
  },
  json: {
    name: () => 'a JSON value',
    shown: 'any JSON',
    accept: (value) => (jsonText(value) === undefined ? undefined : value),
    compare: (a: unknown, b: unknown) => compareOrdered(JSON.stringify(a), JSON.stringify(b)),
    // A copy, so that the response shares nothing with the row and `toJSON` is called once.
    jsonReady: (value: unknown) => JSON.parse(jsonText(value) ?? 'null'),
    fromJson: () => undefined,
    made: null,
  },
  bytes: {
    name: () => 'a Uint8Array',
    shown: 'bytes as base64',
    accept: (value) => (value instanceof Uint8Array ? value : undefined),
    compare: compareBytes,
    jsonReady: base64Text,
    fromJson: () => undefined,
    made: null,
  },
  oneOf: {
    name: ({ choices }) => `one of ${choices.join(', ')}`,
    shown: 'one of a few choices',
    accept: (value, { choices }) =>
      typeof value === 'string' && choices.includes(value) ? value : undefined,
    compare: compareOrdered,
    jsonReady: null,
    fromJson: textOnly,
    made: null,
  },
};

/** What there is to know of values of a type: the row of its kind. */
export const valueKind = (type: { readonly kind: ColumnKind }): ValueKind<ColumnKind> =>
  // A row takes types of its own kind, and is found by that.
  VALUE_KINDS[type.kind] as ValueKind<ColumnKind>;

/** What JSON shows of values of a kind, in words. */
export const shownAs = (kind: ColumnKind): string => VALUE_KINDS[kind].shown;

/** What a message about a row calls a value of this type. */
export const nameOfType = (type: ColumnType): string => valueKind(type).name(type);

/** An accepted value as JSON shows it. */
export const jsonReady = (type: ColumnType, value: unknown): unknown => {
  const { jsonReady: ready } = valueKind(type);
  return ready === null ? value : ready(value as never);
};
