import { isText } from './checks.js';
import { WHOLE } from './patterns.js';

/** A whole number as a row may hold it: a bigint, a safe integer, or its text; undefined for anything else. */
export const wholeNumber = (value: unknown): bigint | undefined => {
  if (typeof value === 'bigint') return value;
  if (typeof value === 'number') return Number.isSafeInteger(value) ? BigInt(value) : undefined;
  return isText(value) && WHOLE.test(value) ? BigInt(value) : undefined;
};
