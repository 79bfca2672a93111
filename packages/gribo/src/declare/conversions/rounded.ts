import { roundedDecimal, roundedNumber } from '../../values/converted.js';
import { handOutBroken } from '../references/member.js';
import type { AnyValue } from '../types/member-types.js';
import { type Converted, convert } from './convert.js';

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
