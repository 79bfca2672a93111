import type { ColumnType } from '../../plan/column-type.js';
import { type FlatColumn, flatValue } from './flat-columns.js';

/** What cannot stand in a cell without quotes (RFC 4180, section 2.6); either half of a line's end ends a line for some. */
export const QUOTED: RegExp = /[",\r\n]/;

/** What a spreadsheet may run: text that begins with one of these, or with their wide forms. */
export const FORMULA: RegExp = /^[=+\-@\t\r\uff1d\uff0b\uff0d\uff20]/;

/** A text as a cell of CSV. Empty text is quoted, to tell it from null. */
export const cellText = (text: string, isGuarded: boolean): string => {
  if (text === '') return '""';
  const guarded = isGuarded && FORMULA.test(text) ? `'${text}` : text;
  return QUOTED.test(text) ? `"${guarded.replaceAll('"', '""')}"` : guarded;
};

/** Whether text of a type may be what a caller wrote, and not digits only. */
export const isFree = (type: ColumnType | null): boolean =>
  type?.kind !== 'decimal' && type?.kind !== 'bigint';

/** A JSON-ready value as a cell: text as it is, null as nothing, lists and objects as JSON text. */
export const valueCell = (value: unknown, isGuarded: boolean): string => {
  if (value === null) return '';
  if (typeof value === 'string') return cellText(value, isGuarded);
  return typeof value === 'object' ? cellText(JSON.stringify(value), false) : String(value);
};

/** The cells of a JSON-ready row, as one line without its end. */
export const rowCells = (columns: readonly FlatColumn[], row: unknown, isGuarded: boolean): string =>
  columns.map(({ path, type }) => valueCell(flatValue(row, path), isGuarded && isFree(type))).join();
