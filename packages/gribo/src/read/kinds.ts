import type { SourceWriter } from '../codegen/source-writer.js';
import type { ColumnKind, ColumnType, OfKind } from '../plan/column-type.js';
import { clockText } from '../values/calendar.js';
import { durationText } from '../values/durations.js';
import { CLOCK, UUID } from '../values/patterns.js';
import type { IssueLimits } from './issue.js';
import { MOST_LEVELS, nothingSeen, plainJson } from './plain-json.js';
import {
  isDay,
  isWithin,
  readBigint,
  readBool,
  readBytes,
  readChoice,
  readDecimal,
  readForm,
  readMoment,
  readNumber,
  readText,
  stated,
  type ValuePolicies,
} from './read-values.js';
import { Refusal } from './refusal.js';

/** The code that reads a value in place, where it is right at first sight: `return` where it is not. */
type ReadInPlace<K extends ColumnKind> = (
  type: OfKind<K>,
  value: string,
  target: string,
  out: SourceWriter,
) => string;

/** What reading knows of the values of one kind. */
export interface ReadKind<K extends ColumnKind> {
  /** Reads a value that is not null, within its limits. */
  read(type: OfKind<K>, value: unknown, policies: ValuePolicies): unknown;
  /** The type without the limits of what may be stored: any value of it can be compared with. */
  unlimited(type: OfKind<K>): ColumnType;
  /** What is wanted, in English. */
  words(limits: IssueLimits): string;
  /** For the commonest kinds; null: a program calls `read`. */
  inPlace: ReadInPlace<K> | null;
  /** Whether what was written as a number may have lost digits by now, so that only strings are read at first sight. */
  readonly isExact: boolean;
}

const bounds = ({ min, max }: IssueLimits): string => {
  if (min !== undefined && max !== undefined) return ` from ${min} to ${max}`;
  if (min !== undefined) return ` of ${min} or more`;
  return max === undefined ? '' : ` of ${max} or less`;
};

const textWords = (limits: IssueLimits): string => {
  if (limits.pattern !== undefined) return `a string that matches ${limits.pattern}`;
  const length = bounds(limits);
  return length === '' ? 'a string' : `a string with a length${length}`;
};

// Longer in units than in characters is told by what looks closer.
const textInPlace: ReadInPlace<'text'> = ({ min, max, pattern }, value, target, out) => {
  const checks = [
    `typeof ${value}!=="string"`,
    ...(min === null ? [] : [min > 1 ? `characters(${value})<${min}` : `${value}.length<${min}`]),
    ...(max === null ? [] : [`${value}.length>${max}`]),
    ...(pattern === null ? [] : [`!${out.constants.name(pattern)}.test(${value})`]),
    `!isWhole(${value})`,
  ];
  return `if(${checks.join('||')})return;${target}=${value};`;
};

const integerInPlace: ReadInPlace<'integer'> = ({ min, max }, value, target) => {
  const above = max === null ? '' : `||${value}>${max}`;
  const below = min === null ? '' : `||${value}<${min}`;
  return `if(!Number.isSafeInteger(${value})${above}${below})return;${target}=${value}+0;`;
};

const choiceInPlace: ReadInPlace<'oneOf'> = ({ choices }, value, target, out) => {
  const differs = choices.map((choice) => `${value}!==${out.quoted(choice)}`);
  return `if(${differs.join('&&')})return;${target}=${value};`;
};

const readDay = readForm('date', isDay);
const readAnyClock = readForm('time', (text) => CLOCK.test(text));

const readClock = (value: unknown): string | Refusal => {
  const clock = readAnyClock(value);
  return typeof clock === 'string' ? (clockText(clock) ?? clock) : clock;
};

const readAnyDuration = readForm('duration', (text) => durationText(text) !== undefined);

const readDuration = (value: unknown): string | Refusal => {
  const duration = readAnyDuration(value);
  return typeof duration === 'string' ? (durationText(duration) ?? duration) : duration;
};

const readUuid = readForm('uuid', (text) => UUID.test(text));

const readJson = (value: unknown): unknown => {
  const seen = nothingSeen();
  const plain = plainJson(value, seen);
  if (plain !== undefined) return plain;
  return seen.wrong === null
    ? new Refusal('limit', 'json', { depth: MOST_LEVELS })
    : new Refusal(seen.wrong, 'json');
};

const readArray = (type: OfKind<'array'>, value: unknown, policies: ValuePolicies): unknown => {
  const { of, min, max } = type;
  if (!Array.isArray(value)) return new Refusal('type', 'array');
  if (!isWithin(value.length, min, max)) return new Refusal('length', 'array', stated({ min, max }));
  const read: unknown[] = [];
  for (const [i, each] of value.entries()) {
    const one = readTyped(of, each, policies);
    if (!(one instanceof Refusal)) read.push(one);
    else return new Refusal(one.code, one.wanted, one.limits, { at: `/${i}`, value: each });
  }
  return read;
};

/** Most types limit nothing but what may be stored, or nothing at all. */
const asItIs = <T extends ColumnType>(type: T): T => type;

/** A row for every kind: one that is missing does not compile. */
const READ_KINDS: { readonly [K in ColumnKind]: ReadKind<K> } = {
  text: {
    read: readText,
    unlimited: (type) => ({ ...type, min: null, max: null, pattern: null }),
    words: textWords,
    inPlace: textInPlace,
    isExact: false,
  },
  integer: {
    read: readNumber,
    unlimited: (type) => ({ ...type, min: null, max: null }),
    words: (limits) => `a whole number${bounds(limits)}`,
    inPlace: integerInPlace,
    isExact: false,
  },
  bigint: {
    read: readBigint,
    unlimited: (type) => ({ ...type, min: null, max: null }),
    words: (limits) => `a whole number${bounds(limits)}, as a string`,
    inPlace: null,
    isExact: true,
  },
  real: {
    read: readNumber,
    unlimited: (type) => ({ ...type, min: null, max: null }),
    words: (limits) => `a number${bounds(limits)}`,
    inPlace: null,
    isExact: false,
  },
  decimal: {
    read: readDecimal,
    unlimited: (type) => ({ ...type, min: null, max: null }),
    words: ({ whole, fraction, ...limits }) =>
      `a decimal${bounds(limits)} as a string, of at most ${whole} digits before the point and ${fraction} after it`,
    inPlace: null,
    isExact: true,
  },
  bool: {
    read: (_type, value, policies) => readBool(value, policies),
    unlimited: asItIs,
    words: () => 'true or false',
    inPlace: (_type, value, target) => `if(${value}!==true&&${value}!==false)return;${target}=${value};`,
    isExact: false,
  },
  date: {
    read: (_type, value) => readDay(value),
    unlimited: asItIs,
    words: () => 'a day as YYYY-MM-DD',
    inPlace: null,
    isExact: false,
  },
  time: {
    read: (_type, value) => readClock(value),
    unlimited: asItIs,
    words: () => 'a time as HH:MM:SS',
    inPlace: null,
    isExact: false,
  },
  duration: {
    read: (_type, value) => readDuration(value),
    unlimited: asItIs,
    words: () => 'a duration such as PT6H30M',
    inPlace: null,
    isExact: false,
  },
  timestamp: {
    read: (_type, value) => readMoment(value),
    unlimited: asItIs,
    words: () => 'a date and time with its offset, such as 2026-03-01T06:30:00Z',
    inPlace: (type, value, target, out) =>
      `${target}=quickMoment(${value})??typed(${out.constants.name(type)},${value});if(${target}===undefined)return;`,
    isExact: false,
  },
  uuid: {
    read: (_type, value) => {
      const read = readUuid(value);
      return typeof read === 'string' ? read.toLowerCase() : read;
    },
    unlimited: asItIs,
    words: () => 'a UUID',
    inPlace: null,
    isExact: false,
  },
  json: {
    read: (_type, value) => readJson(value),
    unlimited: asItIs,
    words: ({ depth }) => (depth === undefined ? 'a JSON value' : `a JSON value of at most ${depth} levels`),
    inPlace: (_type, value, target) => `${target}=plainJson(${value},s);if(${target}===undefined)return;`,
    isExact: false,
  },
  bytes: {
    read: ({ max }, value) => readBytes(max, value),
    unlimited: (type) => ({ ...type, max: null }),
    words: ({ max }) => (max === undefined ? 'base64' : `base64 of at most ${max} bytes`),
    inPlace: null,
    isExact: false,
  },
  oneOf: {
    read: ({ choices }, value, policies) => readChoice(choices, value, policies),
    unlimited: asItIs,
    words: ({ choices = [] }) => `one of ${choices.join(', ')}`,
    inPlace: choiceInPlace,
    isExact: false,
  },
  array: {
    read: readArray,
    unlimited: (type) => ({ ...type, of: readKind(type.of).unlimited(type.of), min: null, max: null }),
    words: (limits) =>
      bounds(limits) === '' ? 'an array' : `an array with a number of values${bounds(limits)}`,
    inPlace: null,
    isExact: true,
  },
};

/** What reading knows of values of a type: the row of its kind. */
export const readKind = (type: { readonly kind: ColumnKind }): ReadKind<ColumnKind> =>
  // A row takes types of its own kind, and is found by that.
  READ_KINDS[type.kind] as ReadKind<ColumnKind>;

/** What is wanted where a value of a kind is, in English. */
export const wordsOfKind = (kind: ColumnKind, limits: IssueLimits): string => READ_KINDS[kind].words(limits);

/** Reads a value that is not null as a column's type, within its limits. */
export const readTyped = (type: ColumnType, value: unknown, policies: ValuePolicies): unknown =>
  readKind(type).read(type, value, policies);
