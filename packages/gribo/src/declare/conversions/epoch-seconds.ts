import { anyWhole } from '../../plan/any-type.js';
import type { ValueOf } from '../types/member-types.js';
import { type ConversionRule, type Converted, converted, noChoices, takesNoChoices } from './conversion.js';

export const apply = (moment: Date): number => Math.floor(moment.getTime() / 1000);

const momentOf = (seconds: number): Date => new Date(seconds * 1000);

export const rule: ConversionRule = {
  name: 'epochSeconds',
  takes: ['timestamp'],
  yields: () => anyWhole,
  // From the year 0 to the end of 9999, as moments are.
  reads: () => ({ kind: 'integer', min: -62_167_219_200, max: 253_402_300_799 }),
  refuses: takesNoChoices,
  tries: noChoices,
  apply,
  invert: () => momentOf,
};

/**
 * Whole seconds since 1970-01-01T00:00:00Z; moments before it are negative.
 *
 * @param value a timestamp value
 * @returns seconds; what comes back is the moment of that second
 * @example
 * epochSeconds(c.createdAt)
 */
export const epochSeconds = <V>(
  value: ValueOf<V, Date | null, 'epochSeconds takes a timestamp'>,
): Converted<V, number> => converted(rule, value);
