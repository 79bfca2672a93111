import type { ColumnType } from '../plan/column-type.js';
import { isDate } from './calendar.js';
import { nameOfType, valueKind } from './kinds.js';
import { Misfit } from './misfit.js';

/** A valid `Date` that RFC 3339 cannot write deserves its own words. */
const misfit = (type: ColumnType, value: unknown): Misfit =>
  isDate(value) && !Number.isNaN(value.getTime()) && (type.kind === 'timestamp' || type.kind === 'date')
    ? new Misfit(
        'ROW_RANGE',
        'a Date in the years 0000 to 9999',
        value,
        ` in the year ${value.getUTCFullYear()}`,
      )
    : new Misfit('ROW_TYPE', nameOfType(type), value);

/** Gives a value back in the form that user functions are given; throws a {@link Misfit} where it does not fit. */
export type Accept = (value: unknown) => unknown;

/**
 * Accepts values of a type, in the one form that user functions are given: days as text, big whole
 * numbers as bigint. What is known of the type is looked up once.
 */
export const accepting = (type: ColumnType): Accept => {
  const { accept } = valueKind(type);
  return (value) => {
    const accepted = accept(value, type);
    if (accepted === undefined) throw misfit(type, value);
    return accepted;
  };
};
