import type { AnyValue } from '../types/member-types.js';
import { anyText, type Converted, convert } from './convert.js';

/** Upper case, by Unicode's rules for no language in particular. @example upper(v.callSign) */
export const upper = <V extends AnyValue<string | null>>(value: V): Converted<V, string> =>
  convert(value, 'upper', ['text', 'oneOf', 'uuid'], () => ({
    name: 'upper',
    yields: anyText,
    apply: (text: string) => text.toUpperCase(),
    invert: null,
  }));

/** Lower case, by Unicode's rules for no language in particular. @example lower(o.country) */
export const lower = <V extends AnyValue<string | null>>(value: V): Converted<V, string> =>
  convert(value, 'lower', ['text', 'oneOf', 'uuid'], () => ({
    name: 'lower',
    yields: anyText,
    apply: (text: string) => text.toLowerCase(),
    invert: null,
  }));
