import { isText } from './checks.js';
import { CLOCK, DAY } from './patterns.js';

/** The first and the last millisecond that RFC 3339 can write: the years 0000 to 9999. */
export const FIRST_MOMENT: number = Date.parse('0000-01-01T00:00:00.000Z');
export const LAST_MOMENT: number = Date.parse('9999-12-31T23:59:59.999Z');

/** A `Date` of this realm or another one (a worker's, a test runner's). */
export const isDate = (value: unknown): value is Date =>
  value instanceof Date || Object.prototype.toString.call(value) === '[object Date]';

export const isMoment = (milliseconds: number): boolean =>
  milliseconds >= FIRST_MOMENT && milliseconds <= LAST_MOMENT;

/** The day of a column value: text as it is, a `Date` in UTC; undefined for anything else. */
export const dayText = (value: unknown): string | undefined => {
  if (isText(value)) return DAY.test(value) ? value : undefined;
  if (isDate(value) && isMoment(value.getTime())) return value.toISOString().slice(0, 10);
  return undefined;
};

/**
 * A time of day in the one way that it is written: with seconds, and without zeros at the end of a fraction.
 *
 * @param value any value
 * @returns the text; undefined for what is no time of day
 * @example
 * clockText('06:30') // => 06:30:00
 */
export const clockText = (value: unknown): string | undefined => {
  if (!isText(value) || !CLOCK.test(value)) return undefined;
  if (value.length === 8) return value;
  return value.length === 5 ? `${value}:00` : value.replace(/\.?0+$/, '');
};
