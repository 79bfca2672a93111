import type { ColumnKind, OfKind } from '../plan/column-type.js';
import type { ColumnPlan } from '../plan/entity-plan.js';
import { compareDecimals } from '../values/compare-raw.js';
import { withPlaces } from '../values/decimals.js';
import { oneFrom, type Random, wholeBetween } from './random.js';
import { textForPattern } from './text-for-pattern.js';
import { name, textNamed } from './words.js';

/** Every sample is of about this time, whenever it is made. */
export const SAMPLE_TIME: number = Date.UTC(2026, 2, 1);
const DAY = 86_400_000;
const MINUTE = 60_000;

const fitText = (text: string, { min, max }: OfKind<'text'>): string => {
  const cut = max === null ? text : text.slice(0, max).trimEnd();
  // Half of a character must not be left at the end.
  const whole = /[\ud800-\udbff]$/.test(cut) ? cut.slice(0, -1) : cut;
  return min === null ? whole : whole.padEnd(min, 'x');
};

/** How often a text is made anew where it does not match. */
const TRIES = 40;

const textValue = (column: string, type: OfKind<'text'>, random: Random): string | null => {
  if (type.pattern === null) return fitText(textNamed(column, random), type);
  const make = textForPattern(type.pattern);
  for (let i = 0; make !== null && i < TRIES; i++) {
    const text = make(random);
    const fits = text.length >= (type.min ?? 0) && text.length <= (type.max ?? text.length);
    if (fits && new RegExp(type.pattern.source, type.pattern.flags.replace('g', '')).test(text)) return text;
  }
  return null;
};

const LIKELY: readonly (readonly [RegExp, number, number])[] = [
  [/year/i, 1985, 2025],
  [/^age$/i, 18, 90],
  [/percent|share/i, 0, 100],
  [/count|quantity|number|level|rank/i, 0, 20],
];

const likely = (column: string): readonly [number, number] => {
  const [, min, max] = LIKELY.find(([pattern]) => pattern.test(column)) ?? [null, 0, 1000];
  return [min, max];
};

/** The span of a number: what is likely for its name, within its limits. */
const spanOf = (
  column: string,
  { min, max }: { readonly min: number | null; readonly max: number | null },
): readonly [number, number] => {
  const [low, high] = likely(column);
  const least = Math.max(min ?? low, Math.min(low, max ?? low));
  const most = Math.min(max ?? high, Math.max(high, min ?? high));
  if (least <= most) return [least, most];
  return [min ?? (max ?? 0) - 1000, max ?? (min ?? 0) + 1000];
};

const decimalText = (type: OfKind<'decimal'>, random: Random): string => {
  const { scale, min, max } = type;
  const text = anyDecimal(type, random);
  if (min !== null && compareDecimals(text, min) < 0) return withPlaces(min, scale);
  return max !== null && compareDecimals(text, max) > 0 ? withPlaces(max, scale) : text;
};

const anyDecimal = ({ precision, scale }: OfKind<'decimal'>, random: Random): string => {
  const whole = wholeBetween(random, 0, 10 ** Math.min(precision - scale, 5) - 1);
  const fraction = Array.from({ length: scale }, () => wholeBetween(random, 0, 9)).join('');
  return scale === 0 ? String(whole) : `${whole}.${fraction}`;
};

const dayText = (column: string, random: Random): string => {
  const years = /birth|born/i.test(column)
    ? [-60, -20]
    : /until|expir|valid|due/i.test(column)
      ? [0, 2]
      : [-2, 0];
  const [from = 0, to = 0] = years;
  const days = wholeBetween(random, from * 365, to * 365);
  return new Date(SAMPLE_TIME + days * DAY).toISOString().slice(0, 10);
};

const uuidText = (random: Random): string => {
  const hex = (count: number): string =>
    Array.from({ length: count }, () => wholeBetween(random, 0, 15).toString(16)).join('');
  return `${hex(8)}-${hex(4)}-4${hex(3)}-${oneFrom(random, ['8', '9', 'a', 'b'])}${hex(3)}-${hex(12)}`;
};

const bytesValue = (max: number | null, random: Random): Uint8Array =>
  Uint8Array.from({ length: Math.min(max ?? 8, 8) }, () => wholeBetween(random, 0, 255));

const integerValue = (column: string, type: OfKind<'integer'>, random: Random): number => {
  const [min, max] = spanOf(column, type);
  return wholeBetween(random, Math.ceil(min), Math.floor(max));
};

const bigintValue = ({ min: least, max: most }: OfKind<'bigint'>, random: Random): bigint => {
  const min = least ?? (most === null || most > 0n ? 0n : most - 1000n);
  const max = most ?? min + 1_000_000n;
  const span = max - min > 1_000_000n ? 1_000_000 : Number(max - min);
  return min + BigInt(wholeBetween(random, 0, span));
};

const realValue = (column: string, type: OfKind<'real'>, random: Random): number => {
  const [min, max] = spanOf(column, type);
  const value = Math.round((min + random() * (max - min)) * 100) / 100;
  return Math.min(Math.max(value, type.min ?? value), type.max ?? value);
};

const clockText = (random: Random): string =>
  `${String(wholeBetween(random, 6, 21)).padStart(2, '0')}:${oneFrom(random, ['00', '15', '30', '45'])}:00`;

/** A value of one kind for a column of this name; the index is the row's place. */
type MakeValue<K extends ColumnKind> = (
  type: OfKind<K>,
  column: string,
  random: Random,
  index: number,
) => unknown;

/** A row for every kind: one that is missing does not compile. */
const SAMPLE_KINDS: { readonly [K in ColumnKind]: MakeValue<K> } = {
  text: (type, column, random) => textValue(column, type, random),
  integer: (type, column, random) => integerValue(column, type, random),
  bigint: (type, _column, random) => bigintValue(type, random),
  real: (type, column, random) => realValue(column, type, random),
  decimal: (type, _column, random) => decimalText(type, random),
  bool: (_type, _column, random) => random() < 0.6,
  date: (_type, column, random) => dayText(column, random),
  time: (_type, _column, random) => clockText(random),
  duration: (_type, _column, random) =>
    `PT${wholeBetween(random, 1, 12)}H${oneFrom(random, ['', '15M', '30M', '45M'])}`,
  timestamp: (_type, _column, random) =>
    new Date(SAMPLE_TIME + wholeBetween(random, -60 * 24 * 60, 60 * 24 * 30) * MINUTE),
  uuid: (_type, _column, random) => uuidText(random),
  json: (_type, _column, random) => ({ note: name(random) }),
  bytes: ({ max }, _column, random) => bytesValue(max, random),
  oneOf: ({ choices }, _column, _random, index) => choices[index % choices.length],
  array: ({ of, min, max }, column, random, index) => {
    const many = wholeBetween(random, min ?? 0, Math.min(max ?? 3, (min ?? 0) + 3));
    return Array.from({ length: many }, (_, i) => sampleValue({ name: column, type: of }, index + i, random));
  },
};

/** Every kind there is. */
export const SAMPLED_KINDS = Object.keys(SAMPLE_KINDS) as readonly ColumnKind[];

/**
 * A value for a column by its type, limits and name; null where no text could be found that
 * matches its pattern.
 *
 * @param index the row's place: choices come in turn, so that all of them are there
 */
export const sampleValue = (
  { name: column, type }: Pick<ColumnPlan, 'name' | 'type'>,
  index: number,
  random: Random,
): unknown =>
  // A row takes types of its own kind, and is found by that.
  (SAMPLE_KINDS[type.kind] as MakeValue<ColumnKind>)(type, column, random, index);
