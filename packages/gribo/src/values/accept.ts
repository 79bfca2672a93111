import type { ColumnType } from '../plan/column-type.js';
import { isDate } from './calendar.js';
import { valueKind } from './kinds.js';
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
    : new Misfit('ROW_TYPE', valueKind(type).name(type), value);

/**
 * A value that is of the type, in the one form that user functions are given: days as text,
 * big whole numbers as bigint.
 * @throws {Misfit} where it is not
 */
export const accept = (type: ColumnType, value: unknown): unknown => {
  const accepted = valueKind(type).accept(value, type);
  if (accepted === undefined) throw misfit(type, value);
  return accepted;
};
