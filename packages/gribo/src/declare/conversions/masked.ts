import { maskedText } from '../../values/converted.js';
import { handOutBroken } from '../references/member.js';
import type { AnyValue, Value } from '../types/member-types.js';
import { anyText, convert, type KeepNull } from './convert.js';

type Unsealed<V> = V extends AnyValue<infer T> ? Value<KeepNull<T, string>, KeepNull<T, string>> : never;

/**
 * Hides a text: `•••`, whatever its length. It is the one conversion whose result may be shown
 * where the column is sealed.
 *
 * @param value a text value, sealed or not
 * @param options `showLast`: how many characters to show at the end; they are shown only where the
 * text is at least three times as long. Default: 0
 * @example
 * phone: masked(o.phone, { showLast: 2 }) // "•••47"
 */
export const masked = <V extends AnyValue<string | null>>(
  value: V,
  options: { readonly showLast?: number } = {},
): Unsealed<V> => {
  const showLast = options.showLast ?? 0;
  if (!(Number.isInteger(showLast) && showLast >= 0)) {
    return handOutBroken(`showLast must be a whole number of 0 or more, got ${showLast}`);
  }
  return convert(
    value,
    'masked',
    ['text', 'uuid'],
    () => ({
      name: 'masked',
      settings: { showLast },
      yields: anyText,
      apply: (text: string) => maskedText(text, showLast),
      invert: null,
    }),
    true,
  );
};
