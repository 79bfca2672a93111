import { stringify } from 'csv-stringify/sync';
import { type FlatColumn, flatColumns, flatValue } from './flat-columns.js';
import type { Format } from './format.js';
import { readCsv } from './read-csv.js';

export interface CsvOptions {
  /** Puts `'` before text that a spreadsheet would run as a formula: one that starts with = + - @. Default: false. */
  readonly guardFormulas?: boolean;
}

const LINE_END = /[\r\n]/;

/** A cell: text as it is, null as nothing, lists and objects as JSON text. */
const cell = (value: unknown): string | number | null => {
  if (value === null || typeof value === 'string' || typeof value === 'number') return value;
  return typeof value === 'object' ? JSON.stringify(value) : String(value);
};

/**
 * CSV (RFC 4180) with a header: one column for each member, dotted names for groups and to-one rows,
 * JSON text in one cell for to-many rows. An envelope is left away. Null is an empty cell, empty
 * text is `""`. Lists are read the same way.
 *
 * @param options `guardFormulas`
 * @example
 * csv({ guardFormulas: true })
 */
export const csv = (options: CsvOptions = {}): Format => {
  const lines = (records: readonly (readonly unknown[])[]): string =>
    stringify([...records], {
      record_delimiter: '\r\n',
      cast: {
        string: (text) => {
          // Empty text is quoted, to tell it from null.
          if (text === '') return { value: '', quoted_empty: true };
          // Either half of a line's end ends a line for some who read it (RFC 4180, section 2.6).
          return LINE_END.test(text) ? { value: text, quoted: true } : text;
        },
      },
      escape_formulas: options.guardFormulas === true,
    });
  const header = (columns: readonly FlatColumn[]): string => lines([columns.map(({ name }) => name)]);
  const rowLines = (columns: readonly FlatColumn[], rows: readonly unknown[]): string =>
    lines(rows.map((row) => columns.map(({ path }) => cell(flatValue(row, path)))));
  return {
    name: 'csv',
    mediaTypes: ['text/csv'],
    isText: true,
    onlyLists: true,
    isFlat: true,
    hasOnlyText: true,
    readsLines: true,
    readRows: readCsv,
    write: (sending) => {
      const columns = flatColumns(sending.plan.content);
      return header(columns) + rowLines(columns, sending.rows());
    },
    stream: async function* (sending) {
      const columns = flatColumns(sending.plan.content);
      yield header(columns);
      for await (const rows of sending.batches()) yield rowLines(columns, rows);
    },
  };
};
