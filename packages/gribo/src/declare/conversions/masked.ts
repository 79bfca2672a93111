import { anyText } from '../../plan/any-type.js';
import type { AnyValue, Value, ValueOf } from '../types/member-types.js';
import { type ConversionRule, converted, type KeepNull, noWayBack } from './conversion.js';

const MASK = '•••';

/** The mask, and the last characters where the value is long enough to stay unknown. */
export const apply = (text: string, showLast: number): string => {
  const points = Array.from(text);
  if (showLast === 0 || points.length < 3 * showLast) return MASK;
  return MASK + points.slice(-showLast).join('');
};

export const rule: ConversionRule = {
  name: 'masked',
  takes: ['text', 'uuid'],
  yields: () => anyText,
  refuses: ([showLast]) =>
    Number.isInteger(showLast) && Number(showLast) >= 0
      ? null
      : `showLast must be a whole number of 0 or more, got ${showLast}`,
  lifts: true,
  tries: () => [[0], [1]],
  apply,
  invert: noWayBack,
};

type Unsealed<V> = V extends AnyValue<infer T> ? Value<KeepNull<T, string>, KeepNull<T, string>> : never;

/**
 * Hides a text: `•••`, whatever its length. It is the one conversion whose result may be shown
 * where the column is sealed.
 *
 * @param value a text value, sealed or not
 * @param options `showLast`: how many characters to show at the end; they are shown only where the
 * text is at least three times as long. Default: 0
 * @returns the masked value, which is not sealed; there is no way back
 * @example
 * phone: masked(o.phone, { showLast: 2 }) // "•••47"
 */
export const masked = <V>(
  value: ValueOf<V, string | null, 'masked takes a text'>,
  options: { readonly showLast?: number } = {},
): Unsealed<V> => converted(rule, value, options.showLast ?? 0);
