import type { ColumnType } from '../plan/column-type.js';
import { jsonReady, valueKind } from './kinds.js';

/** The JSON text of an array of values; undefined where it is none of its type. */
export const listText = (type: ColumnType, value: unknown): string | undefined => {
  const accepted = valueKind(type).accept(value, type);
  return accepted === undefined ? undefined : JSON.stringify(jsonReady(type, accepted));
};
