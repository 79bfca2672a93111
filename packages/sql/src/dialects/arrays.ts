import { type ColumnType, jsonReady } from 'gribo/kit';

/** The JSON text of an array. */
export const arrayText = (type: ColumnType, value: unknown): string => JSON.stringify(jsonReady(type, value));

/** An array as PostgreSQL writes it (section 8.15.6 of its manual), each value in quotes. */
export const arrayLiteral = (values: readonly unknown[]): string =>
  `{${values.map((value) => `"${String(value).replaceAll(/["\\]/g, '\\$&')}"`).join()}}`;
