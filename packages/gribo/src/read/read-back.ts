import type { ColumnType } from '../plan/column-type.js';
import { type ConversionPlan, convertBack } from '../plan/conversion.js';
import { readTyped } from './kinds.js';
import type { ValuePolicies } from './read-values.js';
import { Refusal } from './refusal.js';
import { wantedBy } from './wanted-by.js';

const isNothing = (value: unknown): boolean =>
  value === undefined || Number.isNaN(value) || (value instanceof Date && Number.isNaN(value.getTime()));

/** A stored value as a body would have it, to be held to the column's limits. */
const asBody = (value: unknown): unknown => {
  if (value instanceof Date) return value.toISOString();
  return typeof value === 'bigint' ? String(value) : value;
};

/** Reads a value that is not null, and checks each form of it on its way back to the stored one. */
export const readBack = (
  type: ColumnType,
  conversions: readonly ConversionPlan[],
  value: unknown,
  policies: ValuePolicies,
): unknown => {
  const [outermost] = conversions;
  if (outermost === undefined) return readTyped(type, value, policies);
  // What is wanted is what a body holds, and not what is stored.
  const told = (refusal: Refusal): Refusal => {
    const wanted = wantedBy(outermost.reads);
    return wanted === null
      ? refusal
      : new Refusal(refusal.code, wanted.wanted, { ...refusal.limits, ...wanted.limits });
  };
  let at = value;
  for (const conversion of conversions) {
    const read = readTyped(conversion.yields, at, policies);
    if (read instanceof Refusal) return told(read);
    at = convertBack(conversion, read);
    if (isNothing(at)) return told(new Refusal('format', conversion.yields.kind));
  }
  const read = readTyped(type, asBody(at), policies);
  return read instanceof Refusal ? told(read) : read;
};
