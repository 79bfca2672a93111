import { jsonText } from '../../values/json-text.js';
import { JSON_NUMBER } from '../../values/patterns.js';
import { codec } from '../bytes/platform.js';
import { writeNumber } from '../bytes/write-number.js';
import { cellText, FORMULA, valueCell } from '../lines/cell-text.js';
import { unpackField } from './unpack.js';

/*
 * What a program over packed rows may call. Each takes the field between two positions of the line's bytes, appends what
 * it stands for, and returns the position after it; below zero where the field is none that it takes: such a row is made
 * into values. The caller has reserved six bytes for each of the field, and 26 more.
 */

const NOT = -1;
const QUOTE = 34;
const COMMA = 44;
const DASH = 45;
const POINT = 46;
const ZERO = 48;
const COLON = 58;
const BACKSLASH = 92;

/** Whether a field stands for null. */
export const isNull = (source: Uint8Array, from: number, to: number): boolean =>
  to - from === 2 && source[from] === BACKSLASH && source[from + 1] === 78;

const at = (source: Uint8Array, position: number): number => source[position] ?? 0;

const isDigit = (code: number): boolean => code >= ZERO && code <= 57;

/** Copies the field as it is. */
const copied = (target: Uint8Array, p: number, source: Uint8Array, from: number, to: number): number => {
  let end = p;
  for (let i = from; i < to; i++) target[end++] = at(source, i);
  return end;
};

/** The end of the digits that start at a position. */
const digitsEnd = (source: Uint8Array, from: number, to: number): number => {
  let i = from;
  while (i < to && isDigit(at(source, i))) i++;
  return i;
};

/** 1 for each byte that stands in JSON text as it is. */
const PLAIN: Uint8Array = Uint8Array.from({ length: 256 }, (_, code) =>
  code >= 32 && code !== QUOTE && code !== BACKSLASH ? 1 : 0,
);

/** 1 for each letter behind a backslash that JSON escapes by the same one. */
const SAME: Uint8Array = Uint8Array.from({ length: 256 }, (_, code) =>
  '\\bfnrt'.includes(String.fromCharCode(code)) ? 1 : 0,
);

/** The bytes of each control character, as JSON escapes it. */
const CONTROLS: readonly Uint8Array[] = Array.from({ length: 32 }, (_, code) =>
  new TextEncoder().encode(JSON.stringify(String.fromCharCode(code)).slice(1, -1)),
);

const control = (target: Uint8Array, position: number, code: number): number => {
  const escaped = CONTROLS[code] as Uint8Array;
  return copied(target, position, escaped, 0, escaped.length);
};

/** Text, as a string of JSON. */
export const text = (target: Uint8Array, p: number, source: Uint8Array, from: number, to: number): number => {
  let end = p;
  target[end++] = QUOTE;
  for (let i = from; i < to; i++) {
    const code = at(source, i);
    if (PLAIN[code] === 1) {
      target[end++] = code;
      continue;
    }
    if (code === BACKSLASH) {
      const letter = at(source, ++i);
      if (SAME[letter] === 1) {
        target[end++] = BACKSLASH;
        target[end++] = letter;
      } else if (letter === 118) end = control(target, end, 11);
      else return NOT;
    } else if (code === QUOTE) {
      target[end++] = BACKSLASH;
      target[end++] = QUOTE;
    } else end = control(target, end, code);
  }
  target[end++] = QUOTE;
  return end;
};

/** A field's text, where it has escapes or what a cell quotes. */
const anyCell = (
  target: Uint8Array,
  p: number,
  source: Uint8Array,
  from: number,
  to: number,
  isGuarded: boolean,
): number => {
  const value = unpackField(codec.read(source, to, from));
  return value === null ? NOT : p + codec.utf8(target, cellText(value, isGuarded), p);
};

/** Text, as a cell of CSV. */
export const cell = (target: Uint8Array, p: number, source: Uint8Array, from: number, to: number): number => {
  if (from === to) return anyCell(target, p, source, from, to, false);
  let end = p;
  for (let i = from; i < to; i++) {
    const code = at(source, i);
    if (code === QUOTE || code === COMMA || code === BACKSLASH || code === 13)
      return anyCell(target, p, source, from, to, false);
    target[end++] = code;
  }
  return end;
};

/** 1 for each byte that text may begin with which a spreadsheet runs, and for escapes and wide forms, which are looked at. */
const MAY_RUN: Uint8Array = Uint8Array.from({ length: 256 }, (_, code) =>
  FORMULA.test(String.fromCharCode(code)) || code === BACKSLASH || code === 0xef ? 1 : 0,
);

/** Text, as a cell of CSV that a spreadsheet must not run. */
export const guardedCell = (
  target: Uint8Array,
  p: number,
  source: Uint8Array,
  from: number,
  to: number,
): number =>
  from < to && MAY_RUN[at(source, from)] === 1
    ? anyCell(target, p, source, from, to, true)
    : cell(target, p, source, from, to);

/** Whether there are no digits, or a zero before others, or one below zero. */
const isPadded = (source: Uint8Array, from: number, to: number): boolean => {
  const first = at(source, from) === DASH ? from + 1 : from;
  return first === to || (at(source, first) === ZERO && to - from > 1);
};

/** A whole number of so many digits that it is exact. */
export const whole = (
  target: Uint8Array,
  p: number,
  source: Uint8Array,
  from: number,
  to: number,
): number => {
  const first = at(source, from) === DASH ? from + 1 : from;
  if (isPadded(source, from, to) || to - first > 15 || digitsEnd(source, first, to) < to) return NOT;
  return copied(target, p, source, from, to);
};

/** A whole number of any size. */
export const large = (
  target: Uint8Array,
  p: number,
  source: Uint8Array,
  from: number,
  to: number,
): number => {
  const first = at(source, from) === DASH ? from + 1 : from;
  if (isPadded(source, from, to) || digitsEnd(source, first, to) < to) return NOT;
  return copied(target, p, source, from, to);
};

/** A number; in up to fifteen digits it is written as it is. */
export const real = (target: Uint8Array, p: number, source: Uint8Array, from: number, to: number): number => {
  const first = at(source, from) === DASH ? from + 1 : from;
  const point = digitsEnd(source, first, to);
  const isShort = to - from <= 16 && point > first;
  if (isShort && point === to && (first === from || at(source, first) !== ZERO))
    return copied(target, p, source, from, to);
  const isPlain =
    isShort && at(source, point) === POINT && digitsEnd(source, point + 1, to) === to && point + 1 < to;
  // Neither a small one, which JavaScript writes with an exponent, nor one with zeros at its end.
  const isLarge = at(source, first) !== ZERO || to - point <= 7;
  if (isPlain && isLarge && at(source, to - 1) !== ZERO) return copied(target, p, source, from, to);
  const value = codec.read(source, to, from);
  return JSON_NUMBER.test(value) ? writeNumber(target, Number(value), p) : NOT;
};

/** A decimal with so many digits behind its point. */
export const decimal = (
  target: Uint8Array,
  p: number,
  source: Uint8Array,
  from: number,
  to: number,
  scale: number,
): number => {
  const first = at(source, from) === DASH ? from + 1 : from;
  const point = digitsEnd(source, first, to);
  if (point === first) return NOT;
  const isRight =
    scale === 0
      ? point === to
      : at(source, point) === POINT && to - point - 1 === scale && digitsEnd(source, point + 1, to) === to;
  return isRight ? copied(target, p, source, from, to) : NOT;
};

/** A truth, which is a letter. */
export const bool = (target: Uint8Array, p: number, source: Uint8Array, from: number, to: number): number => {
  const letter = to - from === 1 ? at(source, from) : 0;
  if (letter !== 116 && letter !== 102) return NOT;
  const word = letter === 116 ? 'true' : 'false';
  codec.ascii(target, word, p);
  return p + word.length;
};

/** The value of two digits; more than any two have where there are none. */
const two = (source: Uint8Array, position: number): number => {
  const tens = at(source, position);
  const ones = at(source, position + 1);
  return isDigit(tens) && isDigit(ones) ? (tens - ZERO) * 10 + ones - ZERO : 100;
};

const isDay = (source: Uint8Array, from: number): boolean => {
  if (at(source, from + 4) !== DASH || at(source, from + 7) !== DASH) return false;
  const month = two(source, from + 5);
  const day = two(source, from + 8);
  const isYear = two(source, from) < 100 && two(source, from + 2) < 100;
  return isYear && month >= 1 && month <= 12 && day >= 1 && day <= 31;
};

const isClock = (source: Uint8Array, from: number): boolean =>
  at(source, from + 2) === COLON &&
  at(source, from + 5) === COLON &&
  two(source, from) < 24 &&
  two(source, from + 3) < 60 &&
  two(source, from + 6) < 60;

/** A day of a year with four digits. */
export const day = (target: Uint8Array, p: number, source: Uint8Array, from: number, to: number): number =>
  to - from === 10 && isDay(source, from) ? copied(target, p, source, from, to) : NOT;

/** A time of day without a fraction. */
export const clock = (target: Uint8Array, p: number, source: Uint8Array, from: number, to: number): number =>
  to - from === 8 && isClock(source, from) ? copied(target, p, source, from, to) : NOT;

/** A moment in UTC without its zone, a blank between day and time; to the millisecond, which is over or not. */
export const moment = (
  target: Uint8Array,
  p: number,
  source: Uint8Array,
  from: number,
  to: number,
): number => {
  const length = to - from;
  if (length < 19 || !isDay(source, from) || at(source, from + 10) !== 32 || !isClock(source, from + 11))
    return NOT;
  const fraction = from + 20;
  const hasFraction =
    length > 20 && at(source, from + 19) === POINT && digitsEnd(source, fraction, to) === to;
  if (length > 19 && !hasFraction) return NOT;
  copied(target, p, source, from, from + 19);
  target[p + 10] = 84;
  target[p + 19] = POINT;
  for (let i = 0; i < 3; i++) target[p + 20 + i] = fraction + i < to ? at(source, fraction + i) : ZERO;
  target[p + 23] = 90;
  return p + 24;
};

/** 1 for each digit of a UUID. */
const UUID_DIGIT: Uint8Array = Uint8Array.from({ length: 256 }, (_, code) =>
  /[\da-f]/i.test(String.fromCharCode(code)) ? 1 : 0,
);

const isUuidDash = (place: number): boolean => place === 8 || place === 13 || place === 18 || place === 23;

export const uuid = (target: Uint8Array, p: number, source: Uint8Array, from: number, to: number): number => {
  if (to - from !== 36) return NOT;
  for (let i = 0; i < 36; i++) {
    const code = at(source, from + i);
    if (isUuidDash(i) ? code !== DASH : UUID_DIGIT[code] !== 1) return NOT;
    target[p + i] = code;
  }
  return p + 36;
};

/** JSON, written as JavaScript does. */
export const json = (target: Uint8Array, p: number, source: Uint8Array, from: number, to: number): number => {
  const field = unpackField(codec.read(source, to, from));
  if (field === null) return NOT;
  try {
    return p + codec.utf8(target, jsonText(JSON.parse(field)) ?? '', p);
  } catch {
    return NOT;
  }
};

/** JSON, as a cell of CSV. */
export const jsonCell = (
  target: Uint8Array,
  p: number,
  source: Uint8Array,
  from: number,
  to: number,
  isGuarded: boolean,
): number => {
  const field = unpackField(codec.read(source, to, from));
  if (field === null) return NOT;
  try {
    return p + codec.utf8(target, valueCell(JSON.parse(field), isGuarded), p);
  } catch {
    return NOT;
  }
};

/** What is written for each of a column's choices, by the bytes of its field. */
export interface PackedChoice {
  readonly field: Uint8Array;
  readonly written: Uint8Array;
}

const isSame = (choice: Uint8Array, source: Uint8Array, from: number): boolean => {
  for (let i = 0; i < choice.length; i++) if (choice[i] !== source[from + i]) return false;
  return true;
};

/** One of some texts. */
export const choice = (
  target: Uint8Array,
  p: number,
  source: Uint8Array,
  from: number,
  to: number,
  choices: readonly PackedChoice[],
): number => {
  for (const { field, written } of choices) {
    if (field.length === to - from && isSame(field, source, from))
      return copied(target, p, written, 0, written.length);
  }
  return NOT;
};
