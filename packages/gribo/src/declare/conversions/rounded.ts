import { anyNumber } from '../../plan/any-type.js';
import { decimalOf, digitsOf } from '../../values/decimals.js';
import type { AnyValue, ValueOf } from '../types/member-types.js';
import { type ConversionRule, type Converted, converted, noWayBack } from './conversion.js';

/** Rounds decimal text half away from zero, without going through floating point. */
const roundedDecimal = (text: string, places: number): string => {
  const isCut = (text.split('.')[1]?.[places] ?? '0') < '5';
  const away = text.startsWith('-') ? -1n : 1n;
  return decimalOf(digitsOf(text, places) + (isCut ? 0n : away), places);
};

/** Decimals, which are text, stay exact; numbers are rounded as `toFixed` rounds them. */
export const apply = (value: number | string, places: number): number | string =>
  typeof value === 'string' ? roundedDecimal(value, places) : Number(value.toFixed(places));

export const rule: ConversionRule = {
  name: 'rounded',
  takes: ['real', 'integer', 'decimal'],
  yields: (type, [places]) =>
    type.kind === 'decimal'
      ? {
          kind: 'decimal',
          precision: Math.max(type.precision, Number(places) + 1),
          scale: Number(places),
          min: null,
          max: null,
        }
      : anyNumber,
  refuses: ([places]) =>
    Number.isInteger(places) && Number(places) >= 0 && Number(places) <= 20
      ? null
      : `rounded needs 0 to 20 places, got ${places}`,
  tries: () => [[0], [2]],
  apply,
  invert: noWayBack,
};

/**
 * A number rounded to so many places after the point. Decimals stay exact text, rounded half
 * away from zero; other numbers are rounded as `toFixed` rounds them.
 *
 * @param value a real, integer or decimal value
 * @param places 0 to 20
 * @returns the rounded value; there is no way back
 * @example
 * rounded(v.lengthM, 1)
 */
export const rounded = <V>(
  value: ValueOf<V, number | string | null, 'rounded takes a number or a decimal'>,
  places = 0,
): V extends AnyValue<infer T> ? Converted<V, NonNullable<T> extends string ? string : number> : never =>
  converted(rule, value, places);
