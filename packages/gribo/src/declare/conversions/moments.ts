import type { AnyValue } from '../types/member-types.js';
import { type Converted, convert } from './convert.js';

/** The day of a moment, in UTC: `YYYY-MM-DD`. @example dateOnly(c.eta) */
export const dateOnly = <V extends AnyValue<Date | null>>(value: V): Converted<V, string> =>
  convert(value, 'dateOnly', ['timestamp'], () => ({
    name: 'dateOnly',
    yields: { kind: 'date' },
    apply: (moment: Date) => moment.toISOString().slice(0, 10),
    invert: null,
  }));

/**
 * Whole seconds since 1970-01-01T00:00:00Z; moments before it are negative.
 * @example epochSeconds(c.createdAt)
 */
export const epochSeconds = <V extends AnyValue<Date | null>>(value: V): Converted<V, number> =>
  convert(value, 'epochSeconds', ['timestamp'], () => ({
    name: 'epochSeconds',
    yields: { kind: 'integer', min: null, max: null },
    apply: (moment: Date) => Math.floor(moment.getTime() / 1000),
    invert: (seconds: number) => new Date(seconds * 1000),
  }));
