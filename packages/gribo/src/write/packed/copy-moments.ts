import { at, type CopyField, copied, DASH, digitsEnd, isDigit, NOT, POINT, ZERO } from './copy-field.js';

/*
 * What a program over packed rows may call for days, times, moments and UUIDs: digits at fixed places.
 */

const COLON = 58;
const BLANK = 32;
const T = 84;
const Z = 90;

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
export const day: CopyField = (target, p, source, from, to) =>
  to - from === 10 && isDay(source, from) ? copied(target, p, source, from, to) : NOT;

/** A time of day without a fraction. */
export const clock: CopyField = (target, p, source, from, to) =>
  to - from === 8 && isClock(source, from) ? copied(target, p, source, from, to) : NOT;

/** A moment in UTC without its zone, a blank between day and time; to the millisecond, which is over or not. */
export const moment: CopyField = (target, p, source, from, to) => {
  const length = to - from;
  if (length < 19 || !isDay(source, from) || at(source, from + 10) !== BLANK || !isClock(source, from + 11))
    return NOT;
  const fraction = from + 20;
  const hasFraction =
    length > 20 && at(source, from + 19) === POINT && digitsEnd(source, fraction, to) === to;
  if (length > 19 && !hasFraction) return NOT;
  copied(target, p, source, from, from + 19);
  target[p + 10] = T;
  target[p + 19] = POINT;
  for (let i = 0; i < 3; i++) target[p + 20 + i] = fraction + i < to ? at(source, fraction + i) : ZERO;
  target[p + 23] = Z;
  return p + 24;
};

/** 1 for each digit of a UUID. */
const UUID_DIGIT: Uint8Array = Uint8Array.from({ length: 256 }, (_, code) =>
  /[\da-f]/i.test(String.fromCharCode(code)) ? 1 : 0,
);

const isUuidDash = (place: number): boolean => place === 8 || place === 13 || place === 18 || place === 23;

export const uuid: CopyField = (target, p, source, from, to) => {
  if (to - from !== 36) return NOT;
  for (let i = 0; i < 36; i++) {
    const code = at(source, from + i);
    if (isUuidDash(i) ? code !== DASH : UUID_DIGIT[code] !== 1) return NOT;
    target[p + i] = code;
  }
  return p + 36;
};
