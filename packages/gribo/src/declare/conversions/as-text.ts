import { anyText } from '../../plan/any-type.js';
import type { ColumnKind, ColumnType } from '../../plan/column-type.js';
import type { Apply } from '../../plan/conversion.js';
import { JSON_NUMBER, WHOLE } from '../../values/patterns.js';
import type { ValueOf } from '../types/member-types.js';
import { type ConversionRule, type Converted, converted, noChoices, takesNoChoices } from './conversion.js';

/** -0 becomes "0", as in JSON. */
export const apply = (value: string | number | bigint | boolean): string => String(value);

const truthOf = (text: string): boolean | undefined => {
  if (text === 'true') return true;
  return text === 'false' ? false : undefined;
};
/** No digits are lost on the way to the number that they stand for. */
const integerOf = (text: string): number | undefined =>
  WHOLE.test(text) && Number.isSafeInteger(Number(text)) ? Number(text) : undefined;
const wholeLimit = (limit: number | null): bigint | null => (limit === null ? null : BigInt(limit));
const numberOf = (text: string): number | undefined => (JSON_NUMBER.test(text) ? Number(text) : undefined);
const wholeOf = (text: string): bigint | undefined => (WHOLE.test(text) ? BigInt(text) : undefined);
const same = (text: string): string => text;

/** The way back from text, where each text stands for one value. */
const inverse = (kind: ColumnKind): Apply => {
  if (kind === 'integer') return integerOf;
  if (kind === 'real') return numberOf;
  if (kind === 'bigint') return wholeOf;
  return kind === 'bool' ? truthOf : same;
};

/** What the text of a value says, as a type of its own: digits, with the limits of what they stand for. */
const reads = (type: ColumnType): ColumnType => {
  switch (type.kind) {
    case 'integer':
      return { kind: 'bigint', min: wholeLimit(type.min), max: wholeLimit(type.max) };
    case 'real':
      return { kind: 'text', min: null, max: null, pattern: JSON_NUMBER };
    case 'bool':
      return { kind: 'oneOf', choices: ['true', 'false'] };
    default:
      return type;
  }
};

export const rule: ConversionRule = {
  name: 'asText',
  takes: ['integer', 'real', 'bool', 'bigint', 'decimal', 'text', 'oneOf', 'uuid'],
  yields: () => anyText,
  reads,
  refuses: takesNoChoices,
  tries: noChoices,
  apply,
  invert: ({ kind }) => inverse(kind),
};

/**
 * A number, choice or true/false as a string.
 *
 * @param value an integer, real, bigint, decimal, bool or text value
 * @returns the text; what comes back is the value that it is the text of
 * @example
 * asText(v.builtYear) // "1998"
 */
export const asText = <V>(
  value: ValueOf<
    V,
    string | number | bigint | boolean | null,
    'asText takes a text, a number, a bigint, a decimal or a bool'
  >,
): Converted<V, string> => converted(rule, value);
