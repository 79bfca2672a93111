import type { ColumnType } from '../plan/column-type.js';
import { dayText, isDate, isMoment } from './calendar.js';
import { wholeNumber } from './exact.js';
import { jsonText } from './json-text.js';
import { Misfit } from './misfit.js';
import { CLOCK, DECIMAL, UUID } from './patterns.js';

/** What a message calls a value of this type. */
export const nameOfType = (type: ColumnType): string => {
  switch (type.kind) {
    case 'text':
      return 'a string';
    case 'integer':
      return 'an integer';
    case 'real':
      return 'a finite number';
    case 'bigint':
      return 'a bigint, a safe integer or its text';
    case 'decimal':
      return 'a decimal as text';
    case 'bool':
      return 'true or false';
    case 'date':
      return 'a day as YYYY-MM-DD or a Date';
    case 'time':
      return 'a time as HH:MM:SS';
    case 'timestamp':
      return 'a Date';
    case 'uuid':
      return 'a UUID';
    case 'json':
      return 'a JSON value';
    case 'bytes':
      return 'a Uint8Array';
    case 'oneOf':
      return `one of ${type.choices.join(', ')}`;
    default:
      return type satisfies never;
  }
};

const fits = (type: ColumnType, value: unknown): boolean => {
  switch (type.kind) {
    case 'text':
      return typeof value === 'string';
    case 'integer':
      return Number.isInteger(value);
    case 'real':
      return Number.isFinite(value);
    case 'bool':
      return typeof value === 'boolean';
    case 'decimal':
      return typeof value === 'string' && DECIMAL.test(value);
    case 'time':
      return typeof value === 'string' && CLOCK.test(value);
    case 'uuid':
      return typeof value === 'string' && UUID.test(value);
    case 'timestamp':
      return isDate(value) && isMoment(value.getTime());
    case 'bytes':
      return value instanceof Uint8Array;
    case 'oneOf':
      return typeof value === 'string' && type.choices.includes(value);
    case 'json':
      return jsonText(value) !== undefined;
    case 'date':
    case 'bigint':
      return false;
    default:
      return type satisfies never;
  }
};

/** A valid `Date` that RFC 3339 cannot write deserves its own words. */
const misfit = (type: ColumnType, value: unknown): Misfit =>
  isDate(value) && !Number.isNaN(value.getTime()) && (type.kind === 'timestamp' || type.kind === 'date')
    ? new Misfit(
        'ROW_RANGE',
        'a Date in the years 0000 to 9999',
        value,
        ` in the year ${value.getUTCFullYear()}`,
      )
    : new Misfit('ROW_TYPE', nameOfType(type), value);

/**
 * A value that is of the type, in the one form that user functions are given: days as text,
 * big whole numbers as bigint.
 * @throws {Misfit} where it is not
 */
export const accept = (type: ColumnType, value: unknown): unknown => {
  if (type.kind === 'date') {
    const day = dayText(value);
    if (day !== undefined) return day;
  }
  if (type.kind === 'bigint') {
    const whole = wholeNumber(value);
    if (whole !== undefined) return whole;
  }
  if (fits(type, value)) return value;
  throw misfit(type, value);
};
