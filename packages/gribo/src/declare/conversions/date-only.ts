import type { ValueOf } from '../types/member-types.js';
import {
  type ConversionRule,
  type Converted,
  converted,
  noChoices,
  noWayBack,
  takesNoChoices,
} from './conversion.js';

export const apply = (moment: Date): string => moment.toISOString().slice(0, 10);

export const rule: ConversionRule = {
  name: 'dateOnly',
  takes: ['timestamp'],
  yields: () => ({ kind: 'date' }),
  refuses: takesNoChoices,
  tries: noChoices,
  apply,
  invert: noWayBack,
};

/**
 * The day of a moment, in UTC: `YYYY-MM-DD`.
 *
 * @param value a timestamp value
 * @returns the day; there is no way back
 * @example
 * dateOnly(c.eta)
 */
export const dateOnly = <V>(
  value: ValueOf<V, Date | null, 'dateOnly takes a timestamp'>,
): Converted<V, string> => converted(rule, value);
