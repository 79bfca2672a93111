import type { OfKind } from '../plan/column-type.js';
import { characters } from '../values/characters.js';
import { compareDecimals } from '../values/compare-raw.js';
import { ExactNumber } from '../values/exact-number.js';
import { BASE64, DECIMAL_PARTS, HALF, JSON_NUMBER, MOMENT, WHOLE } from '../values/patterns.js';
import type { IssueLimits } from './issue.js';
import { Refusal } from './refusal.js';

/** How strictly values are taken. */
export interface ValuePolicies {
  /** `lax` turns strings into numbers and true/false, for forms, queries and CSV. */
  readonly text: 'exact' | 'lax';
  /** `nameOrOrdinal` takes a choice by its place too, from 0. */
  readonly choices: 'name' | 'nameOrOrdinal';
  /** `textOrNumber` takes JSON numbers for bigints and decimals too, to the last digit. */
  readonly digits: 'text' | 'textOrNumber';
}

/** Leaves out the limits that there are not. */
export const stated = (limits: Readonly<Record<string, number | string | null>>): IssueLimits =>
  Object.fromEntries(Object.entries(limits).filter(([, limit]) => limit !== null));

export const isWithin = <N extends number | bigint>(value: N, min: N | null, max: N | null): boolean =>
  (min === null || value >= min) && (max === null || value <= max);

/** The digits of a number as it was written, or the string where strings are taken for numbers. */
const digitsOf = (value: unknown, { text }: ValuePolicies): string | undefined => {
  if (typeof value === 'number') return Object.is(value, -0) ? '0' : String(value);
  if (value instanceof ExactNumber) return value.text;
  // Other formats than JSON have whole numbers of any size.
  if (typeof value === 'bigint') return String(value);
  return text === 'lax' && typeof value === 'string' ? value.trim() : undefined;
};

/** The digits of a bigint or decimal: a string, as they go out; a number only where that is taken too. */
const exactDigitsOf = (value: unknown, policies: ValuePolicies): string | undefined => {
  if (typeof value === 'string') return value;
  return policies.digits === 'textOrNumber' ? digitsOf(value, policies) : undefined;
};

/** Whether the digits of a whole number are more than JavaScript keeps; those that it writes itself are not. */
const isRounded = (digits: string, number: number): boolean =>
  !Number.isSafeInteger(number) &&
  Number.isFinite(number) &&
  WHOLE.test(digits) &&
  String(number) !== digits &&
  BigInt(digits) !== BigInt(number);

export const readNumber = (
  type: OfKind<'integer' | 'real'>,
  value: unknown,
  policies: ValuePolicies,
): number | Refusal => {
  const { kind, min, max } = type;
  const digits = digitsOf(value, policies);
  if (digits === undefined || !JSON_NUMBER.test(digits)) return new Refusal('type', kind);
  const number = Number(digits);
  // Written as a whole number, it is one: its last digits are not for rounding.
  if (kind === 'real' && isRounded(digits, number)) return new Refusal('range', kind, stated({ min, max }));
  if (kind === 'integer' && Number.isFinite(number) && !Number.isInteger(number))
    return new Refusal('type', kind);
  const isHeld = kind === 'integer' ? Number.isSafeInteger(number) : Number.isFinite(number);
  return isHeld && isWithin(number, min, max) ? number + 0 : new Refusal('range', kind, stated({ min, max }));
};

/** No database holds a whole number of more digits. */
const MOST_DIGITS = 1000;

export const readBigint = (
  type: OfKind<'bigint'>,
  value: unknown,
  policies: ValuePolicies,
): bigint | Refusal => {
  const digits = exactDigitsOf(value, policies);
  const limits = stated({ min: type.min?.toString() ?? null, max: type.max?.toString() ?? null });
  if (digits === undefined) return new Refusal('type', 'bigint', limits);
  // Parsed already, it may have lost digits.
  if (typeof value === 'number' && Math.abs(value) > Number.MAX_SAFE_INTEGER)
    return new Refusal('range', 'bigint', limits);
  if (!WHOLE.test(digits)) return new Refusal('format', 'bigint', limits);
  if (digits.length > MOST_DIGITS) return new Refusal('range', 'bigint', limits);
  const whole = BigInt(digits);
  return isWithin(whole, type.min, type.max) ? whole : new Refusal('range', 'bigint', limits);
};

export const readDecimal = (
  { precision, scale, min, max }: OfKind<'decimal'>,
  value: unknown,
  policies: ValuePolicies,
): string | Refusal => {
  const digits = exactDigitsOf(value, policies);
  const limits = { whole: precision - scale, fraction: scale, ...stated({ min, max }) };
  if (digits === undefined) return new Refusal('type', 'decimal', limits);
  const [, sign = '', whole = '', fraction = ''] = DECIMAL_PARTS.exec(digits) ?? [];
  if (whole === '') return new Refusal('format', 'decimal', limits);
  const before = whole === '0' ? 0 : whole.length;
  if (before > precision - scale || fraction.length > scale) return new Refusal('range', 'decimal', limits);
  const isZero = !/[1-9]/.test(whole + fraction);
  const read = sign === '-' && isZero ? digits.slice(1) : digits;
  const isBelow = min !== null && compareDecimals(read, min) < 0;
  const isAbove = max !== null && compareDecimals(read, max) > 0;
  return isBelow || isAbove ? new Refusal('range', 'decimal', limits) : read;
};

/** Whether a text has as many characters as it may; no text has more of them than units. */
const isLong = (text: string, min: number | null, max: number | null): boolean =>
  ((min ?? 0) <= 0 && text.length <= (max ?? text.length)) || isWithin(characters(text), min, max);

export const readText = (type: OfKind<'text'>, value: unknown): string | Refusal => {
  if (typeof value !== 'string') return new Refusal('type', 'text');
  const { min, max, pattern } = type;
  if (!isLong(value, min, max)) return new Refusal('length', 'text', stated({ min, max }));
  if (pattern !== null && !pattern.test(value))
    return new Refusal('pattern', 'text', { pattern: pattern.source });
  return HALF.test(value) ? new Refusal('format', 'text') : value;
};

const daysIn = (year: number, month: number): number =>
  new Date(Date.UTC(2000 + (year % 400), month, 0)).getUTCDate();

/** A day of the calendar: there is no 30 February. */
export const isDay = (text: string): boolean => {
  const [, year, month, day] = /^(\d{4})-(\d\d)-(\d\d)$/.exec(text) ?? [];
  if (day === undefined) return false;
  const inYear = Number(month) >= 1 && Number(month) <= 12;
  return inYear && Number(day) >= 1 && Number(day) <= daysIn(Number(year), Number(month));
};

/** A moment with its offset (RFC 3339, section 5.6). Leap seconds are refused: databases lose them. */
export const readMoment = (value: unknown): Date | Refusal => {
  if (typeof value !== 'string') return new Refusal('type', 'timestamp');
  const [, day, clock, fraction = '', offset] = MOMENT.exec(value) ?? [];
  if (day === undefined || offset === undefined || !isDay(day)) return new Refusal('format', 'timestamp');
  const moment = new Date(`${day}T${clock}${fraction.slice(0, 4)}${offset.toUpperCase()}`);
  const year = moment.getUTCFullYear();
  return Number.isNaN(year) || year < 0 || year > 9999 ? new Refusal('range', 'timestamp') : moment;
};

export const readBytes = (max: number | null, value: unknown): Uint8Array | Refusal => {
  const limits = stated({ max });
  if (typeof value !== 'string') return new Refusal('type', 'bytes', limits);
  if (max !== null && value.length > Math.ceil(max / 3) * 4) return new Refusal('length', 'bytes', limits);
  if (value.length % 4 !== 0 || !BASE64.test(value)) return new Refusal('format', 'bytes', limits);
  const bytes = Uint8Array.from(atob(value), (letter) => letter.charCodeAt(0));
  return max !== null && bytes.length > max ? new Refusal('length', 'bytes', limits) : bytes;
};

export const readChoice = (
  choices: readonly string[],
  value: unknown,
  policies: ValuePolicies,
): string | Refusal => {
  if (typeof value === 'string' && choices.includes(value)) return value;
  if (policies.choices === 'nameOrOrdinal') {
    const digits = digitsOf(value, policies);
    const choice = digits !== undefined && /^\d{1,9}$/.test(digits) ? choices[Number(digits)] : undefined;
    if (choice !== undefined) return choice;
  }
  return new Refusal(typeof value === 'string' ? 'choice' : 'type', 'oneOf', { choices });
};

export const readBool = (value: unknown, { text }: ValuePolicies): boolean | Refusal => {
  if (typeof value === 'boolean') return value;
  if (text === 'lax' && (value === 'true' || value === 'false')) return value === 'true';
  return new Refusal('type', 'bool');
};

/** A text of one form. */
export const readForm =
  (kind: 'date' | 'time' | 'duration' | 'uuid', isOne: (text: string) => boolean) =>
  (value: unknown): string | Refusal => {
    if (typeof value !== 'string') return new Refusal('type', kind);
    return isOne(value) ? value : new Refusal('format', kind);
  };
