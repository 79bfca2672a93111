import { JSON_NUMBER } from '../../values/patterns.js';
import { codec } from '../bytes/platform.js';
import { writeNumber } from '../bytes/write-number.js';
import {
  at,
  type CopyField,
  type CopyFieldWith,
  copied,
  DASH,
  digitsEnd,
  NOT,
  POINT,
  ZERO,
} from './copy-field.js';

/*
 * What a program over packed rows may call for numbers and truths.
 */

/** The place of the first digit, where there is one. */
const firstOf = (source: Uint8Array, from: number): number => (at(source, from) === DASH ? from + 1 : from);

/** Whether there are no digits, or a zero before others, or one below zero. */
const isPadded = (source: Uint8Array, from: number, to: number): boolean => {
  const first = firstOf(source, from);
  return first === to || (at(source, first) === ZERO && to - from > 1);
};

/** A whole number of any size. */
export const large: CopyField = (target, p, source, from, to) => {
  if (isPadded(source, from, to) || digitsEnd(source, firstOf(source, from), to) < to) return NOT;
  return copied(target, p, source, from, to);
};

/** A whole number of so many digits that it is exact. */
export const whole: CopyField = (target, p, source, from, to) =>
  to - firstOf(source, from) > 15 ? NOT : large(target, p, source, from, to);

/** A number; in up to fifteen digits it is written as it is. */
export const real: CopyField = (target, p, source, from, to) => {
  const first = firstOf(source, from);
  const point = digitsEnd(source, first, to);
  if (point === to && to - from <= 16 && !isPadded(source, from, to))
    return copied(target, p, source, from, to);
  const hasOneZero = at(source, first) !== ZERO || point === first + 1;
  const isPlain =
    to - from <= 16 &&
    point > first &&
    hasOneZero &&
    at(source, point) === POINT &&
    digitsEnd(source, point + 1, to) === to &&
    point + 1 < to;
  // Neither a small one, which JavaScript writes with an exponent, nor one with zeros at its end.
  const isLarge = at(source, first) !== ZERO || to - point <= 7;
  if (isPlain && isLarge && at(source, to - 1) !== ZERO) return copied(target, p, source, from, to);
  const value = codec.read(source, to, from);
  return JSON_NUMBER.test(value) ? writeNumber(target, Number(value), p) : NOT;
};

/** A decimal with so many digits behind its point. */
export const decimal: CopyFieldWith<number> = (target, p, source, from, to, scale) => {
  const first = firstOf(source, from);
  const point = digitsEnd(source, first, to);
  if (point === first) return NOT;
  const isRight =
    scale === 0
      ? point === to
      : at(source, point) === POINT && to - point - 1 === scale && digitsEnd(source, point + 1, to) === to;
  return isRight ? copied(target, p, source, from, to) : NOT;
};

/** A truth, which is a letter. */
export const bool: CopyField = (target, p, source, from, to) => {
  const letter = to - from === 1 ? at(source, from) : 0;
  if (letter !== 116 && letter !== 102) return NOT;
  const word = letter === 116 ? 'true' : 'false';
  codec.ascii(target, word, p);
  return p + word.length;
};
