import type { ColumnType } from '../../plan/column-type.js';
import type { ContractValue } from '../contract.js';

/** Whether a pattern is one in Unicode mode too, in which JSON Schema's are read: `[\\w-.]` is none. */
const isUnicode = ({ source, flags }: RegExp): boolean => {
  try {
    return flags.includes('v') ? false : new RegExp(source, 'u').source === source;
  } catch {
    return false;
  }
};

/** The source of a pattern that JSON Schema can say: one without flags that change what it matches. */
const sourceOf = (pattern: RegExp): string | null =>
  /[ims]/.test(pattern.flags) || !isUnicode(pattern) ? null : pattern.source;

/** Of all that a type has, only the type of what is in an array has a kind. */
const isType = (limit: unknown): limit is ColumnType =>
  typeof limit === 'object' && limit !== null && 'kind' in limit;

const jsonLimit = (limit: unknown): unknown => {
  if (limit instanceof RegExp) return sourceOf(limit);
  if (isType(limit)) return contractValue(limit);
  return typeof limit === 'bigint' ? String(limit) : limit;
};

/** A type of the declaration as contracts have it: what limits nothing, or cannot be said, is left out. */
export const contractValue = (type: ColumnType): ContractValue => {
  const limits = Object.entries(type)
    .map(([name, limit]) => [name, jsonLimit(limit)] as const)
    .filter(([, limit]) => limit !== null);
  // Limit by limit this is what the type of contracts says of the type of columns.
  return Object.fromEntries(limits) as unknown as ContractValue;
};
