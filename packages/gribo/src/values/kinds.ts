import type { ColumnKind, ColumnType, OfKind } from '../plan/column-type.js';
import { base64Text } from '../util/base64.js';
import { clockText, dayText, isDate, isMoment } from './calendar.js';
import { isBytes, isDecimal, isText, isUuid } from './checks.js';
import { durationText } from './durations.js';
import { wholeNumber } from './exact.js';
import { jsonText } from './json-text.js';

/** What every room knows of the values of one kind. */
export interface ValueKind<K extends ColumnKind> {
  /** What a message about a row calls it. */
  name(type: OfKind<K>): string;
  /**
   * A value of the type in the one form that user functions are given: days as text, big whole numbers
   * as bigint; undefined where it is no value of the type.
   */
  accept(value: unknown, type: OfKind<K>): unknown;
  /** The other form in which JSON shows an accepted value; left out where that is shown as it is. */
  readonly json?: (value: never, type: OfKind<K>) => unknown;
}

/** Accepts the values that are right as they are. */
const those = (isRight: (value: unknown) => boolean) => (value: unknown) =>
  isRight(value) ? value : undefined;

/** Each of an array's values as it is accepted; undefined where one of them is not. */
const acceptAll = (value: unknown, { of }: OfKind<'array'>): readonly unknown[] | undefined => {
  if (!Array.isArray(value)) return undefined;
  const { accept } = valueKind(of);
  const accepted = value.map((each) => accept(each, of));
  return accepted.includes(undefined) ? undefined : accepted;
};

/** A row for every kind: one that is missing does not compile. */
const VALUE_KINDS: { readonly [K in ColumnKind]: ValueKind<K> } = {
  text: {
    name: () => 'a string',
    accept: those(isText),
  },
  integer: {
    name: () => 'an integer',
    accept: those(Number.isInteger),
  },
  bigint: {
    name: () => 'a bigint, a safe integer or its text',
    accept: wholeNumber,
    json: String,
  },
  real: {
    name: () => 'a finite number',
    accept: those(Number.isFinite),
  },
  decimal: {
    name: () => 'a decimal as text',
    accept: those(isDecimal),
  },
  bool: {
    name: () => 'true or false',
    accept: those((value) => typeof value === 'boolean'),
  },
  date: {
    name: () => 'a day as YYYY-MM-DD or a Date',
    accept: dayText,
  },
  time: {
    name: () => 'a time as HH:MM:SS',
    accept: clockText,
  },
  duration: {
    name: () => 'a duration such as PT6H30M',
    accept: durationText,
  },
  timestamp: {
    name: () => 'a Date',
    accept: those((value) => isDate(value) && isMoment(value.getTime())),
    json: (value: Date) => value.toISOString(),
  },
  uuid: {
    name: () => 'a UUID',
    accept: those(isUuid),
  },
  json: {
    name: () => 'a JSON value',
    accept: (value) => (jsonText(value) === undefined ? undefined : value),
    // A copy, so that the response shares nothing with the row and `toJSON` is called once.
    json: (value: unknown) => JSON.parse(jsonText(value) ?? 'null'),
  },
  bytes: {
    name: () => 'a Uint8Array',
    accept: those(isBytes),
    json: base64Text,
  },
  oneOf: {
    name: ({ choices }) => `one of ${choices.join(', ')}`,
    accept: (value, { choices }) => (isText(value) && choices.includes(value) ? value : undefined),
  },
  array: {
    name: ({ of }) => `an array, each of it ${valueKind(of).name(of)}`,
    accept: acceptAll,
    json: (values: readonly unknown[], { of }) => values.map((value) => jsonReady(of, value)),
  },
};

/** What there is to know of values of a type: the row of its kind. */
export const valueKind = (type: { readonly kind: ColumnKind }): ValueKind<ColumnKind> =>
  // A row takes types of its own kind, and is found by that.
  VALUE_KINDS[type.kind] as ValueKind<ColumnKind>;

/** What a message about a row calls a value of this type. */
export const nameOfType = (type: ColumnType): string => valueKind(type).name(type);

/**
 * A value as JSON shows it.
 *
 * @param type its type
 * @param value the value, in the form that user functions are given
 * @example
 * jsonReady({ kind: 'bigint', min: null, max: null }, 17n) // => 17
 */
export const jsonReady = (type: ColumnType, value: unknown): unknown => {
  const { json } = valueKind(type);
  return json === undefined ? value : json(value as never, type);
};
