import { anyText } from '../../plan/any-type.js';
import type { ValueOf } from '../types/member-types.js';
import { type ConversionRule, type Converted, converted, noWayBack } from './conversion.js';

/** At most `length` code points, the last one `…` where something was cut. */
export const apply = (text: string, length: number): string => {
  if (text.length <= length) return text;
  const points = Array.from(text.slice(0, 2 * length + 2));
  if (points.length <= length) return text;
  return `${points.slice(0, length - 1).join('')}…`;
};

export const rule: ConversionRule = {
  name: 'shorten',
  takes: ['text', 'oneOf', 'uuid'],
  yields: () => anyText,
  refuses: ([length]) =>
    Number.isInteger(length) && Number(length) >= 1
      ? null
      : `shorten needs a length of 1 or more, got ${length}`,
  tries: () => [[1], [5]],
  apply,
  invert: noWayBack,
};

/**
 * Keeps at most `length` characters (code points), the last one `…` where something was cut.
 *
 * @param value a text value
 * @param length 1 or more
 * @returns the converted value; there is no way back
 * @example
 * shorten(v.notes, 80)
 */
export const shorten = <V>(
  value: ValueOf<V, string | null, 'shorten takes a text'>,
  length: number,
): Converted<V, string> => converted(rule, value, length);
