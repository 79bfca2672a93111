import { WHOLE } from '../values/patterns.js';

/** Any digits, so many of them. */
const digits = (count: number): string => {
  if (count === 0) return '';
  return count === 1 ? '\\d' : `\\d{${count}}`;
};

const oneDigit = (from: number, to: number): string => {
  if (from === to) return String(from);
  return from === 0 && to === 9 ? '\\d' : `[${from}-${to}]`;
};

/** Texts of as many digits as both limits have, from the one to the other. */
const sameLength = (low: string, high: string): readonly string[] => {
  if (low === '') return [''];
  const [first, last] = [Number(low[0]), Number(high[0])];
  const rest = low.length - 1;
  if (/^0*$/.test(low.slice(1)) && /^9*$/.test(high.slice(1))) return [oneDigit(first, last) + digits(rest)];
  const behind = (digit: number, from: string, to: string): string[] =>
    sameLength(from, to).map((part) => digit + part);
  if (first === last) return behind(first, low.slice(1), high.slice(1));
  return [
    ...behind(first, low.slice(1), '9'.repeat(rest)),
    ...(last - first > 1 ? [oneDigit(first + 1, last - 1) + digits(rest)] : []),
    ...behind(last, '0'.repeat(rest), high.slice(1)),
  ];
};

/** Whole numbers without a sign, from one to another; without an upper limit where there is none. */
const unsigned = (low: bigint, high: bigint | null): readonly string[] => {
  const [from, to] = [String(low), high === null ? null : String(high)];
  if (to !== null && from.length === to.length) return sameLength(from, to);
  const shorter = sameLength(from, '9'.repeat(from.length));
  if (to === null) return [...shorter, `[1-9]\\d{${from.length},}`];
  const [fewest, most] = [from.length, to.length - 2];
  const between =
    fewest > most ? [] : [fewest === most ? `[1-9]${digits(most)}` : `[1-9]\\d{${fewest},${most}}`];
  return [...shorter, ...between, ...sameLength(`1${'0'.repeat(to.length - 1)}`, to)];
};

const most = (a: bigint, b: bigint): bigint => (a > b ? a : b);

/**
 * The pattern of whole numbers as text, from one to another, in the part of the language that JSON Schema asks
 * patterns to keep to (draft 2020-12, section 6.4).
 *
 * @param min the least of them; null: there is none
 * @param max the largest of them; null: there is none
 * @returns the source of a regular expression
 */
export const wholePattern = (min: bigint | null, max: bigint | null): string => {
  if (min === null && max === null) return WHOLE.source;
  const positive = max === null || max >= 0n ? unsigned(min === null ? 0n : most(min, 0n), max) : [];
  const isBelow = min === null || min <= 0n;
  // Minus nothing is nothing: it may be there where nothing may.
  const from = max === null || max >= 0n ? 0n : -max;
  const negative = isBelow
    ? unsigned(from, min === null ? null : most(-min, 0n)).map((part) => `-${part}`)
    : [];
  return `^(?:${[...positive, ...negative].join('|')})$`;
};
