import type { ColumnType } from '../plan/column-type.js';
import { isMoment } from './calendar.js';
import { isText } from './checks.js';
import { valueKind } from './kinds.js';
import { BASE64 } from './patterns.js';

/** No column holds a whole number of more digits. */
const BIG = /^-?\d{1,40}$/;

/** The moment of a text, if that is how JSON shows it: dates can be made of many others. */
const momentOf = (value: unknown): Date | undefined => {
  const moment = new Date(isText(value) ? value : Number.NaN);
  return isMoment(moment.getTime()) && moment.toISOString() === value ? moment : undefined;
};

/** The accepted value of what JSON shows; undefined where it is none, or where rows are not ordered by it. */
export const fromJson = (type: ColumnType, value: unknown): unknown => {
  switch (type.kind) {
    case 'bigint':
      return isText(value) && BIG.test(value) ? BigInt(value) : undefined;
    case 'timestamp':
      return momentOf(value);
    case 'bytes':
      return isText(value) && BASE64.test(value)
        ? Uint8Array.from(atob(value), (letter) => letter.charCodeAt(0))
        : undefined;
    case 'json':
    case 'duration':
    case 'array':
      return undefined;
    default:
      return valueKind(type).accept(value, type);
  }
};
