import { anyNumber, anyWhole } from '../../plan/any-type.js';
import type { ValueOf } from '../types/member-types.js';
import { type ConversionRule, type Converted, converted, noChoices, takesNoChoices } from './conversion.js';

/** A bigint that no number holds exactly becomes NaN, which the writer refuses as out of range. */
export const apply = (exact: bigint | string): number => {
  const number = Number(exact);
  return typeof exact === 'bigint' && !Number.isSafeInteger(number) ? Number.NaN : number;
};

/** A limit that a number can be held to; null where each number is within it. */
const safe = (limit: bigint | null): number | null => {
  const number = Number(limit ?? Number.NaN);
  return Number.isSafeInteger(number) ? number : null;
};

export const rule: ConversionRule = {
  name: 'asNumber',
  takes: ['decimal', 'bigint'],
  yields: ({ kind }) => (kind === 'bigint' ? anyWhole : anyNumber),
  reads: (type) =>
    type.kind === 'bigint'
      ? { ...type, kind: 'integer', min: safe(type.min), max: safe(type.max) }
      : anyNumber,
  partial: ['bigint'],
  refuses: takesNoChoices,
  tries: noChoices,
  apply,
  // A decimal cannot come back: 0.1 + 0.2 says enough.
  invert: ({ kind }) => (kind === 'bigint' ? BigInt : null),
};

/**
 * A decimal or bigint as a JSON number. A decimal becomes the nearest number there is; a bigint
 * that no number holds exactly is a `RowError`.
 *
 * @param value a decimal or bigint value
 * @returns the number; there is a way back for bigints
 * @throws {RowError} while writing: `ROW_RANGE` where no number holds a bigint exactly
 * @example
 * asNumber(v.grossTonnage)
 */
export const asNumber = <V>(
  value: ValueOf<V, string | bigint | null, 'asNumber takes a decimal or a bigint'>,
): Converted<V, number> => converted(rule, value);
