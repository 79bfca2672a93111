import type { ColumnType } from '../plan/column-type.js';
import { BASE64, CLOCK, DECIMAL_PARTS, HALF, JSON_NUMBER, MOMENT, UUID, WHOLE } from '../values/patterns.js';
import { ExactNumber } from './exact-number.js';
import type { IssueCode } from './issue.js';

/** How strictly values are taken. */
export interface ValuePolicies {
  /** `lax` turns strings into numbers and true/false, for forms, queries and CSV. */
  readonly text: 'exact' | 'lax';
  /** `nameOrOrdinal` takes a choice by its place too, from 0. */
  readonly choices: 'name' | 'nameOrOrdinal';
}

/** Why a value was not taken. */
export class Refusal {
  readonly code: IssueCode;
  readonly expected: string;
  constructor(code: IssueCode, expected: string) {
    this.code = code;
    this.expected = expected;
  }
}

const bounds = (min: number | bigint | null, max: number | bigint | null): string => {
  if (min !== null && max !== null) return ` from ${min} to ${max}`;
  if (min !== null) return ` of ${min} or more`;
  return max === null ? '' : ` of ${max} or less`;
};

const isWithin = <N extends number | bigint>(value: N, min: N | null, max: N | null): boolean =>
  (min === null || value >= min) && (max === null || value <= max);

/** The digits of a number as it was written, or the string where strings are taken for numbers. */
const digitsOf = (value: unknown, { text }: ValuePolicies): string | undefined => {
  if (typeof value === 'number') return Object.is(value, -0) ? '0' : String(value);
  if (value instanceof ExactNumber) return value.text;
  return text === 'lax' && typeof value === 'string' ? value.trim() : undefined;
};

const readNumber = (
  type: Extract<ColumnType, { kind: 'integer' | 'real' }>,
  value: unknown,
  policies: ValuePolicies,
): number | Refusal => {
  const noun = type.kind === 'integer' ? 'a whole number' : 'a number';
  const digits = digitsOf(value, policies);
  if (digits === undefined || !JSON_NUMBER.test(digits)) return new Refusal('type', noun);
  const number = Number(digits);
  const expected = noun + bounds(type.min, type.max);
  if (!Number.isFinite(number)) return new Refusal('range', expected);
  if (type.kind === 'integer' && !Number.isInteger(number)) return new Refusal('type', noun);
  if (type.kind === 'integer' && !Number.isSafeInteger(number)) return new Refusal('range', expected);
  return isWithin(number, type.min, type.max) ? number + 0 : new Refusal('range', expected);
};

/** No database holds a whole number of more digits. */
const MOST_DIGITS = 1000;

const readBigint = (
  type: Extract<ColumnType, { kind: 'bigint' }>,
  value: unknown,
  policies: ValuePolicies,
) => {
  const digits = typeof value === 'string' ? value : digitsOf(value, policies);
  const expected = `a whole number${bounds(type.min, type.max)}, as a string where it is large`;
  if (digits === undefined) return new Refusal('type', expected);
  if (!WHOLE.test(digits)) return new Refusal('format', expected);
  if (digits.length > MOST_DIGITS) return new Refusal('range', expected);
  const whole = BigInt(digits);
  return isWithin(whole, type.min, type.max) ? whole : new Refusal('range', expected);
};

const readDecimal = (
  { precision, scale }: Extract<ColumnType, { kind: 'decimal' }>,
  value: unknown,
  policies: ValuePolicies,
): string | Refusal => {
  const digits = typeof value === 'string' ? value : digitsOf(value, policies);
  const expected = `a decimal of at most ${precision - scale} digits before the point and ${scale} after it`;
  if (digits === undefined) return new Refusal('type', expected);
  const [, sign = '', whole = '', fraction = ''] = DECIMAL_PARTS.exec(digits) ?? [];
  if (whole === '') return new Refusal('format', expected);
  const before = whole === '0' ? 0 : whole.length;
  if (before > precision - scale || fraction.length > scale) return new Refusal('range', expected);
  const isZero = !/[1-9]/.test(whole + fraction);
  return sign === '-' && isZero ? digits.slice(1) : digits;
};

const readText = (type: Extract<ColumnType, { kind: 'text' }>, value: unknown): string | Refusal => {
  if (typeof value !== 'string') return new Refusal('type', 'a string');
  const { min, max, pattern } = type;
  if (!isWithin(value.length, min, max))
    return new Refusal('length', `a string with a length${bounds(min, max)}`);
  if (pattern !== null && !pattern.test(value))
    return new Refusal('pattern', `a string that matches ${pattern.source}`);
  return HALF.test(value) ? new Refusal('format', 'text of whole characters') : value;
};

const daysIn = (year: number, month: number): number =>
  new Date(Date.UTC(2000 + (year % 400), month, 0)).getUTCDate();

/** A day of the calendar: there is no 30 February. */
const isDay = (text: string): boolean => {
  const [, year, month, day] = /^(\d{4})-(\d\d)-(\d\d)$/.exec(text) ?? [];
  if (day === undefined) return false;
  const inYear = Number(month) >= 1 && Number(month) <= 12;
  return inYear && Number(day) >= 1 && Number(day) <= daysIn(Number(year), Number(month));
};

/** A moment with its offset (RFC 3339, section 5.6). Leap seconds are refused: databases lose them. */
const readMoment = (value: unknown): Date | Refusal => {
  const expected = 'a date and time with its offset, such as 2026-03-01T06:30:00Z';
  if (typeof value !== 'string') return new Refusal('type', expected);
  const [, day, clock, fraction = '', offset] = MOMENT.exec(value) ?? [];
  if (day === undefined || offset === undefined || !isDay(day)) return new Refusal('format', expected);
  const moment = new Date(`${day}T${clock}${fraction.slice(0, 4)}${offset.toUpperCase()}`);
  const year = moment.getUTCFullYear();
  return Number.isNaN(year) || year < 0 || year > 9999 ? new Refusal('range', expected) : moment;
};

const readBytes = (max: number | null, value: unknown): Uint8Array | Refusal => {
  const expected = max === null ? 'base64' : `base64 of at most ${max} bytes`;
  if (typeof value !== 'string') return new Refusal('type', expected);
  if (max !== null && value.length > Math.ceil(max / 3) * 4) return new Refusal('length', expected);
  if (value.length % 4 !== 0 || !BASE64.test(value)) return new Refusal('format', expected);
  const bytes = Uint8Array.from(atob(value), (letter) => letter.charCodeAt(0));
  return max !== null && bytes.length > max ? new Refusal('length', expected) : bytes;
};

const readChoice = (
  choices: readonly string[],
  value: unknown,
  policies: ValuePolicies,
): string | Refusal => {
  const expected = `one of ${choices.join(', ')}`;
  if (typeof value === 'string' && choices.includes(value)) return value;
  if (policies.choices === 'nameOrOrdinal') {
    const digits = digitsOf(value, policies);
    const choice = digits !== undefined && /^\d{1,9}$/.test(digits) ? choices[Number(digits)] : undefined;
    if (choice !== undefined) return choice;
  }
  return new Refusal(typeof value === 'string' ? 'choice' : 'type', expected);
};

const readBool = (value: unknown, { text }: ValuePolicies): boolean | Refusal => {
  if (typeof value === 'boolean') return value;
  if (text === 'lax' && (value === 'true' || value === 'false')) return value === 'true';
  return new Refusal('type', 'true or false');
};

/** A value for a JSON column may be so deep, however it was parsed. */
const MOST_LEVELS = 256;

/**
 * A JSON value as JavaScript holds it: digits that were kept become numbers, objects plain ones.
 * Undefined where it is too deep to be walked.
 */
const plainJson = (value: unknown, levels = MOST_LEVELS): unknown => {
  if (value instanceof ExactNumber) return Number(value.text);
  if (typeof value !== 'object' || value === null) return value;
  if (levels === 0) return undefined;
  const inner = (member: unknown): unknown => plainJson(member, levels - 1);
  if (Array.isArray(value)) {
    const made = value.map(inner);
    return made.includes(undefined) ? undefined : made;
  }
  const made = Object.entries(value).map(([name, member]) => [name, inner(member)] as const);
  return made.some(([, member]) => member === undefined) ? undefined : Object.fromEntries(made);
};

/** Reads a value that is not null as a column's type, within its limits. */
export const readTyped = (type: ColumnType, value: unknown, policies: ValuePolicies): unknown => {
  switch (type.kind) {
    case 'text':
      return readText(type, value);
    case 'integer':
    case 'real':
      return readNumber(type, value, policies);
    case 'bigint':
      return readBigint(type, value, policies);
    case 'decimal':
      return readDecimal(type, value, policies);
    case 'bool':
      return readBool(value, policies);
    case 'date':
      if (typeof value !== 'string') return new Refusal('type', 'a day as YYYY-MM-DD');
      return isDay(value) ? value : new Refusal('format', 'a day as YYYY-MM-DD');
    case 'time':
      if (typeof value !== 'string') return new Refusal('type', 'a time as HH:MM:SS');
      return CLOCK.test(value) ? value : new Refusal('format', 'a time as HH:MM:SS');
    case 'timestamp':
      return readMoment(value);
    case 'uuid':
      if (typeof value !== 'string') return new Refusal('type', 'a UUID');
      return UUID.test(value) ? value.toLowerCase() : new Refusal('format', 'a UUID');
    case 'bytes':
      return readBytes(type.max, value);
    case 'oneOf':
      return readChoice(type.choices, value, policies);
    case 'json': {
      const plain = plainJson(value);
      return plain === undefined
        ? new Refusal('limit', `A JSON value may be at most ${MOST_LEVELS} levels deep`)
        : plain;
    }
    default:
      return type satisfies never;
  }
};
