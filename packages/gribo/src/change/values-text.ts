import type { Values } from './change-plan.js';

const plain = (value: unknown): unknown => {
  if (typeof value === 'bigint') return { whole: `${value}` };
  if (value instanceof Date) return { moment: value.getTime() };
  return value instanceof Uint8Array ? { bytes: [...value] } : value;
};

/** Values as a text: the same for those that are equal. */
export const valuesText = (values: Values): string => JSON.stringify(Object.values(values).map(plain));
