import type { ColumnKind, ColumnType, OfKind } from '../../plan/column-type.js';
import { freeze } from '../../util/freeze.js';
import { compareDecimals } from '../../values/compare-raw.js';
import { Column } from './column.js';

interface Bounds {
  readonly min: number | bigint | null;
  readonly max: number | bigint | null;
}

const boundsFinding = ({ min, max }: Bounds): string | null =>
  min !== null && max !== null && min > max ? `its min ${min} is above its max ${max}` : null;

const textFinding = (type: OfKind<'text'>): string | null => {
  const isBound = type.pattern?.global || type.pattern?.sticky;
  return boundsFinding(type) ?? (isBound ? 'its pattern must not have the flags g or y' : null);
};

/** Whether a bound is a decimal with no more digits than the column has. */
const isBound = (bound: string | null, precision: number, scale: number): boolean => {
  if (bound === null) return true;
  const [, whole = '', fraction = ''] = /^-?(0|[1-9]\d*)(?:\.(\d+))?$/.exec(bound) ?? [];
  const before = whole === '0' ? 0 : whole.length;
  return whole !== '' && before <= precision - scale && fraction.length <= scale;
};

const decimalFinding = ({ precision, scale, min, max }: OfKind<'decimal'>): string | null => {
  if (!(Number.isInteger(precision) && precision > 0)) return 'its precision must be 1 or more';
  if (!(Number.isInteger(scale) && scale >= 0 && scale <= precision))
    return `its scale must be between 0 and its precision ${precision}`;
  for (const bound of [min, max])
    if (!isBound(bound, precision, scale))
      return `its bound ${JSON.stringify(bound)} must be a decimal as text, such as '0.50', with no more digits than it has`;
  return min !== null && max !== null && compareDecimals(min, max) > 0
    ? `its min ${min} is above its max ${max}`
    : null;
};

const choicesFinding = ({ choices }: OfKind<'oneOf'>): string | null => {
  if (choices.length === 0) return 'it has no choices';
  return new Set(choices).size === choices.length ? null : 'it names a choice twice';
};

/** Kinds whose values can stand in an array: those that a database tells apart by their text. */
const IN_ARRAYS: readonly ColumnKind[] = [
  'text',
  'integer',
  'bigint',
  'real',
  'decimal',
  'bool',
  'date',
  'time',
  'uuid',
  'oneOf',
];

const arrayFinding = (type: OfKind<'array'>): string | null => {
  if (!IN_ARRAYS.includes(type.of.kind)) return `an array holds no ${type.of.kind}: make it json()`;
  return boundsFinding(type) ?? (FINDINGS[type.of.kind] as (type: ColumnType) => string | null)(type.of);
};

/** What is said of an array's values is said by their type alone. */
const modifiedFinding = ({ settings }: Column<unknown, unknown>): string | null => {
  const { nullable, key, generated, defaulted, stamped, unique, sealed, via, coded } = settings;
  const isPlain = !(nullable || key || generated || defaulted || unique);
  return isPlain && [stamped, sealed, via, coded].every((each) => each === null)
    ? null
    : 'an array holds plain values: say .nullable(), .sealed() and the like of the array itself';
};

const nothing = (): null => null;

/** What may be wrong with the limits of each kind. A row for every kind: one that is missing does not compile. */
const FINDINGS: { readonly [K in ColumnKind]: (type: OfKind<K>) => string | null } = {
  text: textFinding,
  integer: boundsFinding,
  bigint: boundsFinding,
  real: boundsFinding,
  decimal: decimalFinding,
  bool: nothing,
  date: nothing,
  time: nothing,
  duration: nothing,
  timestamp: nothing,
  uuid: nothing,
  json: nothing,
  bytes: nothing,
  oneOf: choicesFinding,
  array: arrayFinding,
};

const column = <T, W>(type: ColumnType): Column<T, W> =>
  new Column({
    type: freeze(type),
    // A row takes types of its own kind, and is found by that.
    wrong: (FINDINGS[type.kind] as (type: ColumnType) => string | null)(type),
    nullable: false,
    key: false,
    generated: false,
    defaulted: false,
    stamped: null,
    unique: false,
    sealed: null,
    stored: null,
    via: null,
    coded: null,
    about: null,
    example: undefined,
  });

/**
 * A string.
 *
 * @param limits `min` and `max`: its length in characters, as databases count them: one of two UTF-16 units is one; `pattern`: what requests have to match. Rows may break them: they were stored some day
 * @example
 * text({ min: 1, max: 60, pattern: /^[A-Z]/ })
 */
export const text = (limits: { min?: number; max?: number; pattern?: RegExp } = {}): Column<string, string> =>
  column({
    kind: 'text',
    min: limits.min ?? null,
    max: limits.max ?? null,
    pattern: limits.pattern ?? null,
  });

/**
 * A whole number that JavaScript holds exactly.
 *
 * @param limits `min` and `max`: the lowest and the highest that requests may set, both included
 * @example
 * integer({ min: 1850, max: 2100 })
 */
export const integer = (limits: { min?: number; max?: number } = {}): Column<number, number> =>
  column({ kind: 'integer', min: limits.min ?? null, max: limits.max ?? null });

/**
 * A whole number of any size, written as a string. A row may hold it as a safe integer or as text.
 *
 * @param limits `min` and `max`: the lowest and the highest that requests may set, both included
 * @example
 * bigint({ min: 0n })
 */
export const bigint = (limits: { min?: bigint; max?: bigint } = {}): Column<bigint, string> =>
  column({ kind: 'bigint', min: limits.min ?? null, max: limits.max ?? null });

/**
 * A floating-point number.
 *
 * @param limits `min` and `max`: the lowest and the highest that requests may set, both included
 * @example
 * real({ min: 0 })
 */
export const real = (limits: { min?: number; max?: number } = {}): Column<number, number> =>
  column({ kind: 'real', min: limits.min ?? null, max: limits.max ?? null });

/**
 * An exact decimal, held and written as text.
 *
 * @param precision how many digits it has at most
 * @param scale how many of them stand after the point
 * @param limits `min` and `max`, as text: the lowest and the highest that requests may set, both included
 * @example
 * decimal(12, 2, { min: '0' }) // "1250.00"
 */
export const decimal = (
  precision: number,
  scale: number,
  limits: { min?: string; max?: string } = {},
): Column<string, string> =>
  column({ kind: 'decimal', precision, scale, min: limits.min ?? null, max: limits.max ?? null });

/** True or false. @example bool() */
export const bool = (): Column<boolean, boolean> => column({ kind: 'bool' });

/** A calendar day as `YYYY-MM-DD`. A row may hold a `Date` instead: it is read in UTC. @example date() */
export const date = (): Column<string, string> => column({ kind: 'date' });

/** A time of day: `HH:MM`, `HH:MM:SS` or `HH:MM:SS.fff`. @example time() */
export const time = (): Column<string, string> => column({ kind: 'time' });

/**
 * How long something takes, as ISO 8601 has it: `PT6H30M`, `P14D`, `P1Y2M`. It is written in one way, in which weeks are days and
 * 90 minutes are `PT1H30M`; lists are not sorted by it. @example duration()
 */
export const duration = (): Column<string, string> => column({ kind: 'duration' });

/** A moment: a `Date`, written in UTC with milliseconds (RFC 3339). @example timestamp().generated() */
export const timestamp = (): Column<Date, string> => column({ kind: 'timestamp' });

/** A UUID as text (RFC 9562). @example uuid().key() */
export const uuid = (): Column<string, string> => column({ kind: 'uuid' });

/** A JSON value, written as it is. Say what it holds: `json<{ colour: string }>()`. */
export const json = <T>(): Column<T, T> => column({ kind: 'json' });

/**
 * Bytes, written as base64 (RFC 4648, section 4).
 *
 * @param limits `max`: so many bytes at most
 * @example
 * bytes({ max: 4096 })
 */
export const bytes = (limits: { max?: number } = {}): Column<Uint8Array, string> =>
  column({ kind: 'bytes', max: limits.max ?? null });

/**
 * One of a few strings.
 *
 * @param choices what they are; rows may hold no other
 * @example
 * oneOf('bulk', 'tanker', 'ferry')
 */
export const oneOf = <const S extends readonly [string, ...string[]]>(
  ...choices: S
): Column<S[number], S[number]> => column({ kind: 'oneOf', choices: freeze([...choices]) });

/**
 * Any number of values of one kind, none of them null: an array of PostgreSQL, JSON in other databases.
 *
 * @param of a column that says what they are: text, numbers, truths, days, times of day, UUIDs or choices
 * @param limits `min` and `max`: how many of them requests may set, both included
 * @example
 * array(text({ max: 20 }), { max: 10 })
 */
export const array = <T, W>(
  of: Column<T, W>,
  limits: { min?: number; max?: number } = {},
): Column<readonly T[], readonly W[]> => {
  const { type, wrong } = of.settings;
  const made = column<readonly T[], readonly W[]>({
    kind: 'array',
    of: type,
    min: limits.min ?? null,
    max: limits.max ?? null,
  });
  return new Column({ ...made.settings, wrong: wrong ?? modifiedFinding(of) ?? made.settings.wrong });
};
