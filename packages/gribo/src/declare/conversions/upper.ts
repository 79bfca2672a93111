import { anyText } from '../../plan/any-type.js';
import type { ValueOf } from '../types/member-types.js';
import {
  type ConversionRule,
  type Converted,
  converted,
  noChoices,
  noWayBack,
  takesNoChoices,
} from './conversion.js';

export const apply = (text: string): string => text.toUpperCase();

export const rule: ConversionRule = {
  name: 'upper',
  takes: ['text', 'oneOf', 'uuid'],
  yields: () => anyText,
  refuses: takesNoChoices,
  tries: noChoices,
  apply,
  invert: noWayBack,
};

/**
 * Upper case, by Unicode's rules for no language in particular.
 *
 * @param value a text value
 * @returns the converted value; there is no way back
 * @example
 * upper(v.callSign)
 */
export const upper = <V>(value: ValueOf<V, string | null, 'upper takes a text'>): Converted<V, string> =>
  converted(rule, value);
