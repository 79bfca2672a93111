import type { ColumnKind, ColumnType, OfKind } from '../plan/column-type.js';
import { base64Text } from '../util/base64.js';
import { dayText, isDate, isMoment } from './calendar.js';
import { isBytes, isClock, isDecimal, isText, isUuid } from './checks.js';
import { compareBytes, compareDecimals, compareOrdered } from './compare-raw.js';
import { wholeNumber } from './exact.js';
import { jsonText } from './json-text.js';

/** The form in which JSON shows a value. */
interface JsonForm {
  ready(value: never): unknown;
  /** The accepted value of what JSON shows; undefined where it is none, or where rows are not ordered by it. */
  back(value: unknown): unknown;
}

/** What every room knows of the values of one kind. */
export interface ValueKind<K extends ColumnKind> {
  /** What a message about a row calls it. */
  name(type: OfKind<K>): string;
  /**
   * A value of the type in the one form that user functions are given: days as text, big whole numbers
   * as bigint; undefined where it is no value of the type.
   */
  accept(value: unknown, type: OfKind<K>): unknown;
  /** Below zero where `a` comes first. Text is ordered by its UTF-16 units, as JavaScript compares it. */
  compare(a: never, b: never): number;
  /** The other form in which JSON shows an accepted value; null where that is shown as it is. */
  readonly json: JsonForm | null;
  /** What a database makes for a generated column of this kind; left out where it makes nothing. */
  readonly made?: 'number' | 'uuid' | 'moment' | 'day' | 'false';
}

const nothing = (): undefined => undefined;

/** Accepts the values that are right as they are. */
const those = (isRight: (value: unknown) => boolean) => (value: unknown) =>
  isRight(value) ? value : undefined;

/** No column holds a whole number of more digits. */
const BIG = /^-?\d{1,40}$/;

/** The moment of a text, if that is how JSON shows it: dates can be made of many others. */
const momentOf = (value: unknown): Date | undefined => {
  const moment = new Date(isText(value) ? value : Number.NaN);
  return isMoment(moment.getTime()) && moment.toISOString() === value ? moment : undefined;
};

/** A row for every kind: one that is missing does not compile. */
const VALUE_KINDS: { readonly [K in ColumnKind]: ValueKind<K> } = {
  text: {
    name: () => 'a string',
    accept: those(isText),
    compare: compareOrdered,
    json: null,
  },
  integer: {
    name: () => 'an integer',
    accept: those(Number.isInteger),
    compare: compareOrdered,
    json: null,
    made: 'number',
  },
  bigint: {
    name: () => 'a bigint, a safe integer or its text',
    accept: wholeNumber,
    compare: compareOrdered,
    json: {
      ready: String,
      back: (value) => (isText(value) && BIG.test(value) ? BigInt(value) : undefined),
    },
    made: 'number',
  },
  real: {
    name: () => 'a finite number',
    accept: those(Number.isFinite),
    compare: compareOrdered,
    json: null,
  },
  decimal: {
    name: () => 'a decimal as text',
    accept: those(isDecimal),
    compare: compareDecimals,
    json: null,
  },
  bool: {
    name: () => 'true or false',
    accept: those((value) => typeof value === 'boolean'),
    compare: compareOrdered,
    json: null,
    made: 'false',
  },
  date: {
    name: () => 'a day as YYYY-MM-DD or a Date',
    accept: dayText,
    compare: compareOrdered,
    json: null,
    made: 'day',
  },
  time: {
    name: () => 'a time as HH:MM:SS',
    accept: those(isClock),
    compare: compareOrdered,
    json: null,
  },
  timestamp: {
    name: () => 'a Date',
    accept: those((value) => isDate(value) && isMoment(value.getTime())),
    compare: (a: Date, b: Date) => a.getTime() - b.getTime(),
    json: { ready: (value: Date) => value.toISOString(), back: momentOf },
    made: 'moment',
  },
  uuid: {
    name: () => 'a UUID',
    accept: those(isUuid),
    compare: compareOrdered,
    json: null,
    made: 'uuid',
  },
  json: {
    name: () => 'a JSON value',
    accept: (value) => (jsonText(value) === undefined ? undefined : value),
    compare: (a: unknown, b: unknown) => compareOrdered(JSON.stringify(a), JSON.stringify(b)),
    // A copy, so that the response shares nothing with the row and `toJSON` is called once.
    json: { ready: (value: unknown) => JSON.parse(jsonText(value) ?? 'null'), back: nothing },
  },
  bytes: {
    name: () => 'a Uint8Array',
    accept: those(isBytes),
    compare: compareBytes,
    json: { ready: base64Text, back: nothing },
  },
  oneOf: {
    name: ({ choices }) => `one of ${choices.join(', ')}`,
    accept: (value, { choices }) => (isText(value) && choices.includes(value) ? value : undefined),
    compare: compareOrdered,
    json: null,
  },
};

/** What there is to know of values of a type: the row of its kind. */
export const valueKind = (type: { readonly kind: ColumnKind }): ValueKind<ColumnKind> =>
  // A row takes types of its own kind, and is found by that.
  VALUE_KINDS[type.kind] as ValueKind<ColumnKind>;

/** What a message about a row calls a value of this type. */
export const nameOfType = (type: ColumnType): string => valueKind(type).name(type);

/** An accepted value as JSON shows it. */
export const jsonReady = (type: ColumnType, value: unknown): unknown => {
  const { json } = valueKind(type);
  return json === null ? value : json.ready(value as never);
};

/** The accepted value of what JSON shows; undefined where it is none, or where rows are not ordered by it. */
export const fromJson = (type: ColumnType, value: unknown): unknown => {
  const { json, accept } = valueKind(type);
  return json === null ? accept(value, type) : json.back(value);
};
