import type { ColumnKind } from '../../plan/column-type.js';
import type { AnyValue } from '../types/member-types.js';
import { anyText, type Converted, convert } from './convert.js';

const KINDS: readonly ColumnKind[] = [
  'integer',
  'real',
  'bool',
  'bigint',
  'decimal',
  'text',
  'oneOf',
  'uuid',
];

const NUMBER = /^-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?$/;

const truthOf = (text: string): boolean | undefined => {
  if (text === 'true') return true;
  return text === 'false' ? false : undefined;
};

/** The way back from text, where each text stands for one value; undefined where it stands for none. */
const inverse = (kind: ColumnKind): ((text: string) => unknown) => {
  if (kind === 'integer' || kind === 'real') return (text) => (NUMBER.test(text) ? Number(text) : undefined);
  if (kind === 'bigint') return (text) => (/^-?\d+$/.test(text) ? BigInt(text) : undefined);
  return kind === 'bool' ? truthOf : (text) => text;
};

/**
 * A number, choice or true/false as a string.
 *
 * @param value an integer, real, bigint, decimal, bool or text value
 * @example
 * asText(v.builtYear) // "1998"
 */
export const asText = <V extends AnyValue<string | number | bigint | boolean | null>>(
  value: V,
): Converted<V, string> =>
  convert(value, 'asText', KINDS, (type) => ({
    name: 'asText',
    yields: anyText,
    // -0 becomes "0", as in JSON.
    apply: (any: never) => String(any),
    invert: inverse(type.kind),
  }));
