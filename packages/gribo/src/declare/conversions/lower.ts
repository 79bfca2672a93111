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

export const apply = (text: string): string => text.toLowerCase();

export const rule: ConversionRule = {
  name: 'lower',
  takes: ['text', 'oneOf', 'uuid'],
  yields: () => anyText,
  refuses: takesNoChoices,
  tries: noChoices,
  apply,
  invert: noWayBack,
};

/**
 * Lower case, by Unicode's rules for no language in particular.
 *
 * @param value a text value
 * @returns the converted value; there is no way back
 * @example
 * lower(o.country)
 */
export const lower = <V>(value: ValueOf<V, string | null, 'lower takes a text'>): Converted<V, string> =>
  converted(rule, value);
