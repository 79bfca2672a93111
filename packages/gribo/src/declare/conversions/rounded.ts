import { handOutBroken } from '../member.js';
import type { AnyValue } from '../member-types.js';
import { type Converted, convert } from './convert.js';

const roundedNumber = (value: number, places: number): number => {
  const text = value.toFixed(places);
  return Number(text);
};

/** Rounds decimal text half away from zero, without going through floating point. */
export const roundedDecimal = (text: string, places: number): string => {
  const negative = text.startsWith('-');
  const [whole = '', fraction = ''] = (negative ? text.slice(1) : text).split('.');
  const digits = BigInt(whole + fraction.slice(0, places).padEnd(places, '0'));
  const up = (fraction[places] ?? '0') >= '5' ? 1n : 0n;
  const all = String(digits + up).padStart(places + 1, '0');
  const point = all.length - places;
  const result = places === 0 ? all : `${all.slice(0, point)}.${all.slice(point)}`;
  return negative && digits + up !== 0n ? `-${result}` : result;
};

/**
 * A number rounded to so many places after the point. Decimals stay exact text, rounded half
 * away from zero; other numbers are rounded as `toFixed` rounds them.
 *
 * @param value a real, integer or decimal value
 * @param places 0 to 20
 * @example
 * rounded(v.lengthM, 1)
 */
export const rounded = <V extends AnyValue<number | null> | AnyValue<string | null>>(
  value: V,
  places = 0,
): V extends AnyValue<infer T> ? Converted<V, NonNullable<T> extends string ? string : number> : never => {
  if (!(Number.isInteger(places) && places >= 0 && places <= 20)) {
    return handOutBroken(`rounded needs 0 to 20 places, got ${places}`);
  }
  return convert(value, 'rounded', ['real', 'integer', 'decimal'], (type) => ({
    name: 'rounded',
    settings: { places },
    yields:
      type.kind === 'decimal'
        ? { kind: 'decimal', precision: Math.max(type.precision, places + 1), scale: places }
        : { kind: 'real', min: null, max: null },
    apply: (number: never) =>
      type.kind === 'decimal' ? roundedDecimal(number, places) : roundedNumber(number, places),
    invert: null,
  }));
};
