import type { ColumnType } from '../../plan/column-type.js';
import type { ContractValue } from '../contract.js';

/** Leaves out what is null. */
const stated = <T extends object>(limits: T): { [K in keyof T]?: NonNullable<T[K]> } =>
  Object.fromEntries(Object.entries(limits).filter(([, limit]) => limit !== null)) as {
    [K in keyof T]?: NonNullable<T[K]>;
  };

/** Whether a pattern is one in Unicode mode too, in which JSON Schema's are read: `[\\w-.]` is none. */
const isUnicode = ({ source, flags }: RegExp): boolean => {
  try {
    return flags.includes('v') ? false : new RegExp(source, 'u').source === source;
  } catch {
    return false;
  }
};

/** The source of a pattern that JSON Schema can say: one without flags that change what it matches. */
const sourceOf = (pattern: RegExp | null): string | null =>
  pattern === null || /[ims]/.test(pattern.flags) || !isUnicode(pattern) ? null : pattern.source;

/** A type of the declaration as contracts have it. */
export const contractValue = (type: ColumnType): ContractValue => {
  switch (type.kind) {
    case 'text':
      return {
        kind: type.kind,
        ...stated({ min: type.min, max: type.max, pattern: sourceOf(type.pattern) }),
      };
    case 'integer':
    case 'real':
      return { kind: type.kind, ...stated({ min: type.min, max: type.max }) };
    case 'bigint':
      return {
        kind: type.kind,
        ...stated({ min: type.min?.toString() ?? null, max: type.max?.toString() ?? null }),
      };
    case 'decimal':
      return { kind: type.kind, precision: type.precision, scale: type.scale };
    case 'bytes':
      return { kind: type.kind, ...stated({ max: type.max }) };
    case 'oneOf':
      return { kind: type.kind, choices: type.choices };
    case 'bool':
    case 'date':
    case 'time':
    case 'timestamp':
    case 'uuid':
    case 'json':
      return { kind: type.kind };
    default:
      return type satisfies never;
  }
};
