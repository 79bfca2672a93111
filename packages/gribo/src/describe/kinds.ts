import type { ContractValue } from '../contract/contract.js';
import type { ColumnKind } from '../plan/column-type.js';
import type { JsonValue } from '../plan/condition.js';
import { BASE64, CLOCK, DECIMAL, DURATION, MOMENT, WHOLE } from '../values/patterns.js';
import { wholePattern } from './whole-pattern.js';

/** A JSON Schema, or a part of one (draft 2020-12). */
export interface JsonSchema {
  readonly [keyword: string]: JsonValue;
}

/** Whether a value is sent or taken: what is sent was stored some day, maybe under other limits. */
export type Direction = 'response' | 'request';

/** Keywords for limits, leaving out those that there are not. */
const limits = (keywords: Readonly<Record<string, JsonValue | undefined>>): JsonSchema =>
  Object.fromEntries(
    Object.entries(keywords).filter((entry): entry is [string, JsonValue] => entry[1] !== undefined),
  );

/** Of the bounds, a pattern says whether there is anything below zero; zero itself may be written with its sign. */
const exactDecimal = (precision: number, scale: number, min: string | undefined): string => {
  const before = precision - scale;
  const whole = before === 0 ? '0' : `(?:0|[1-9]\\d{0,${before - 1}})`;
  const sign = min === undefined || min.startsWith('-') ? '-?' : '(?:-(?=0(?:\\.0+)?$))?';
  return `^${sign}${whole}${scale === 0 ? '' : `(?:\\.\\d{1,${scale}})?`}$`;
};

const whole = (limit: string | undefined): bigint | null => (limit === undefined ? null : BigInt(limit));

const base64Length = (bytes: number): number => Math.ceil(bytes / 3) * 4;

/** The longest base64 ends with as much padding as the last bytes leave: less would be a byte too many. */
const lastLetters = (bytes: number): JsonSchema => {
  const padding = '='.repeat((3 - (bytes % 3)) % 3);
  if (padding === '') return {};
  return { anyOf: [{ maxLength: base64Length(bytes) - 4 }, { pattern: `${padding}$` }] };
};

const boundWords = (min: string | undefined, max: string | undefined): string =>
  `${min === undefined ? '' : `, ${min} or more`}${max === undefined ? '' : `, ${max} or less`}`;

const wholeWords = (min: string | undefined, max: string | undefined): string =>
  `A whole number as text${boundWords(min, max)}.`;

/** The value of one kind, with its limits. */
type OfKind<K extends ColumnKind> = Extract<ContractValue, { readonly kind: K }>;

/** How the values of one kind are described. */
interface DescribedKind<K extends ColumnKind> {
  /** What JSON shows, in a few words. */
  readonly shown: string;
  /** The schema of a value that is not null. */
  schema(type: OfKind<K>, direction: Direction): JsonSchema;
  /** Its TypeScript type; `quoted` makes a string literal. */
  typeScript(type: OfKind<K>, quoted: (text: string) => string): string;
  /** What a string holds that is not any text, in a sentence; null where the type says it all. */
  readonly holds: string | null;
}

const string = (): string => 'string';
const number = (): string => 'number';

/** A row for every kind: one that is missing does not compile. */
const DESCRIBED_KINDS: { readonly [K in ColumnKind]: DescribedKind<K> } = {
  text: {
    shown: 'text',
    schema: ({ min, max, pattern }) => ({
      type: 'string',
      ...limits({ minLength: min === undefined || min <= 0 ? undefined : min, maxLength: max, pattern }),
    }),
    typeScript: string,
    holds: null,
  },
  integer: {
    shown: 'a whole number',
    schema: ({ min, max }) => ({ type: 'integer', ...limits({ minimum: min, maximum: max }) }),
    typeScript: number,
    holds: null,
  },
  real: {
    shown: 'a number',
    schema: ({ min, max }) => ({ type: 'number', ...limits({ minimum: min, maximum: max }) }),
    typeScript: number,
    holds: null,
  },
  bigint: {
    shown: 'a whole number as text',
    schema: ({ min, max }, direction) => ({
      type: 'string',
      pattern: direction === 'request' ? wholePattern(whole(min), whole(max)) : WHOLE.source,
      description: wholeWords(min, max),
    }),
    typeScript: string,
    holds: 'A whole number as text.',
  },
  decimal: {
    shown: 'a decimal as text',
    schema: ({ precision, scale, min, max }, direction) => ({
      type: 'string',
      pattern: direction === 'request' ? exactDecimal(precision, scale, min) : DECIMAL.source,
      description: `A decimal as text${boundWords(min, max)}: at most ${precision - scale} digits before the point and ${scale} after it.`,
    }),
    typeScript: string,
    holds: 'A decimal as text.',
  },
  bool: {
    shown: 'true or false',
    schema: () => ({ type: 'boolean' }),
    typeScript: () => 'boolean',
    holds: null,
  },
  date: {
    shown: 'a day',
    schema: () => ({ type: 'string', format: 'date' }),
    typeScript: string,
    holds: 'A day, `YYYY-MM-DD`.',
  },
  time: {
    shown: 'a time of day',
    schema: () => ({
      type: 'string',
      pattern: CLOCK.source,
      description: 'A time of day, such as 06:30:00.',
    }),
    typeScript: string,
    holds: 'A time of day, `HH:MM:SS`.',
  },
  duration: {
    shown: 'a duration',
    // The format of that name has no fractions and nothing below zero.
    schema: () => ({
      type: 'string',
      pattern: DURATION.source,
      description: 'A duration (ISO 8601), such as PT6H30M.',
    }),
    typeScript: string,
    holds: 'A duration (ISO 8601), such as `PT6H30M`.',
  },
  timestamp: {
    shown: 'a moment',
    schema: (_type, direction) => ({
      type: 'string',
      format: 'date-time',
      // A leap second is one of RFC 3339's moments, and none of ours.
      ...(direction === 'request' ? { pattern: MOMENT.source } : {}),
    }),
    typeScript: string,
    holds: 'A moment in UTC (RFC 3339).',
  },
  uuid: {
    shown: 'a UUID',
    schema: () => ({ type: 'string', format: 'uuid' }),
    typeScript: string,
    holds: null,
  },
  json: { shown: 'any JSON', schema: () => ({}), typeScript: () => 'unknown', holds: null },
  bytes: {
    shown: 'bytes as base64',
    schema: ({ max }, direction) => ({
      type: 'string',
      contentEncoding: 'base64',
      ...(direction === 'request' ? { pattern: BASE64.source } : {}),
      ...limits({ maxLength: max === undefined ? undefined : base64Length(max) }),
      ...(direction === 'request' && max !== undefined ? lastLetters(max) : {}),
    }),
    typeScript: string,
    holds: 'Base64.',
  },
  oneOf: {
    shown: 'one of a few choices',
    schema: ({ choices }) => ({ type: 'string', enum: choices }),
    typeScript: ({ choices }, quoted) => choices.map(quoted).join(' | '),
    holds: null,
  },
  array: {
    shown: 'an array',
    schema: ({ of, min, max }, direction) => ({
      type: 'array',
      items: valueSchema(of, direction),
      ...(direction === 'request' ? limits({ minItems: min, maxItems: max }) : {}),
    }),
    typeScript: ({ of }, quoted) => {
      const each = describedKind(of).typeScript(of, quoted);
      return `readonly ${each.includes('|') ? `(${each})` : each}[]`;
    },
    holds: null,
  },
};

/** How values of a type are described: the row of its kind. */
export const describedKind = (type: { readonly kind: ColumnKind }): DescribedKind<ColumnKind> =>
  // A row takes types of its own kind, and is found by that.
  DESCRIBED_KINDS[type.kind] as DescribedKind<ColumnKind>;

/** What a string of a kind holds that is not any text, in a sentence; null for everything else. */
export const holdsOf = (kind: string): string | null =>
  Object.hasOwn(DESCRIBED_KINDS, kind) ? DESCRIBED_KINDS[kind as ColumnKind].holds : null;

/** What JSON shows of values of a kind, in a few words. */
export const shownAs = (kind: ColumnKind): string => DESCRIBED_KINDS[kind].shown;

/** The schema of a value that is not null. */
export const valueSchema = (type: ContractValue, direction: Direction): JsonSchema =>
  describedKind(type).schema(type, direction);
