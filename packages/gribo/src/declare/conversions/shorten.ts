import { shortened } from '../../values/converted.js';
import { handOutBroken } from '../references/member.js';
import type { AnyValue } from '../types/member-types.js';
import { anyText, type Converted, convert } from './convert.js';

/**
 * Keeps at most `length` characters (code points), the last one `…` where something was cut.
 *
 * @param value a text value
 * @param length 1 or more
 * @example
 * shorten(v.notes, 80)
 */
export const shorten = <V extends AnyValue<string | null>>(
  value: V,
  length: number,
): Converted<V, string> => {
  if (!(Number.isInteger(length) && length >= 1)) {
    return handOutBroken(`shorten needs a length of 1 or more, got ${length}`);
  }
  return convert(value, 'shorten', ['text', 'oneOf', 'uuid'], () => ({
    name: 'shorten',
    settings: { length },
    yields: anyText,
    apply: (text: string) => shortened(text, length),
    invert: null,
  }));
};
