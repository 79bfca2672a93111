/** Decimal text: digits, with a sign and a fraction where there is one. */
export const DECIMAL: RegExp = /^-?\d+(?:\.\d+)?$/;

const WHOLE = /^-?(?:0|[1-9]\d*)$/;

/** A whole number as a row may hold it: a bigint, a safe integer, or its text; undefined for anything else. */
export const wholeNumber = (value: unknown): bigint | undefined => {
  if (typeof value === 'bigint') return value;
  if (typeof value === 'number') return Number.isSafeInteger(value) ? BigInt(value) : undefined;
  return typeof value === 'string' && WHOLE.test(value) ? BigInt(value) : undefined;
};

export const UUID: RegExp = /^[\da-f]{8}-[\da-f]{4}-[\da-f]{4}-[\da-f]{4}-[\da-f]{12}$/i;
