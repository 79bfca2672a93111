import type { ContractValue } from '../contract/contract.js';
import type { ColumnKind } from '../plan/column-type.js';
import type { JsonValue } from '../plan/declared.js';
import { CLOCK, DECIMAL, WHOLE } from '../values/patterns.js';

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

/** JSON Schema counts characters where `length` counts UTF-16 units: one character may be two of them. */
const fewestCharacters = (min: number | undefined): number | undefined =>
  min === undefined || min <= 0 ? undefined : Math.ceil(min / 2);

const exactDecimal = (precision: number, scale: number): string => {
  const before = precision - scale;
  const whole = before === 0 ? '0' : `(?:0|[1-9]\\d{0,${before - 1}})`;
  return `^-?${whole}${scale === 0 ? '' : `(?:\\.\\d{1,${scale}})?`}$`;
};

const wholeWords = (min: string | undefined, max: string | undefined): string => {
  const least = min === undefined ? '' : `, ${min} or more`;
  return `A whole number as text${least}${max === undefined ? '' : `, ${max} or less`}.`;
};

/** The value of one kind, with its limits. */
type OfKind<K extends ColumnKind> = Extract<ContractValue, { readonly kind: K }>;

/** How the values of one kind are described. */
interface DescribedKind<K extends ColumnKind> {
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
    schema: ({ min, max, pattern }) => ({
      type: 'string',
      ...limits({ minLength: fewestCharacters(min), maxLength: max, pattern }),
    }),
    typeScript: string,
    holds: null,
  },
  integer: {
    schema: ({ min, max }) => ({ type: 'integer', ...limits({ minimum: min, maximum: max }) }),
    typeScript: number,
    holds: null,
  },
  real: {
    schema: ({ min, max }) => ({ type: 'number', ...limits({ minimum: min, maximum: max }) }),
    typeScript: number,
    holds: null,
  },
  bigint: {
    schema: ({ min, max }) => ({ type: 'string', pattern: WHOLE.source, description: wholeWords(min, max) }),
    typeScript: string,
    holds: 'A whole number as text.',
  },
  decimal: {
    schema: ({ precision, scale }, direction) => ({
      type: 'string',
      pattern: direction === 'request' ? exactDecimal(precision, scale) : DECIMAL.source,
      description: `A decimal as text: at most ${precision - scale} digits before the point and ${scale} after it.`,
    }),
    typeScript: string,
    holds: 'A decimal as text.',
  },
  bool: { schema: () => ({ type: 'boolean' }), typeScript: () => 'boolean', holds: null },
  date: {
    schema: () => ({ type: 'string', format: 'date' }),
    typeScript: string,
    holds: 'A day, `YYYY-MM-DD`.',
  },
  time: {
    schema: () => ({
      type: 'string',
      pattern: CLOCK.source,
      description: 'A time of day, such as 06:30:00.',
    }),
    typeScript: string,
    holds: 'A time of day, `HH:MM:SS`.',
  },
  timestamp: {
    schema: () => ({ type: 'string', format: 'date-time' }),
    typeScript: string,
    holds: 'A moment in UTC (RFC 3339).',
  },
  uuid: { schema: () => ({ type: 'string', format: 'uuid' }), typeScript: string, holds: null },
  json: { schema: () => ({}), typeScript: () => 'unknown', holds: null },
  bytes: {
    schema: ({ max }) => ({
      type: 'string',
      contentEncoding: 'base64',
      ...limits({ maxLength: max === undefined ? undefined : Math.ceil(max / 3) * 4 }),
    }),
    typeScript: string,
    holds: 'Base64.',
  },
  oneOf: {
    schema: ({ choices }) => ({ type: 'string', enum: choices }),
    typeScript: ({ choices }, quoted) => choices.map(quoted).join(' | '),
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

/** The schema of a value that is not null. */
export const valueSchema = (type: ContractValue, direction: Direction): JsonSchema =>
  describedKind(type).schema(type, direction);
