import { type CsvOptions, csvLines } from 'gribo';
import type { Format } from './format.js';

/**
 * CSV (RFC 4180) with a header: one column for each member, dotted names for groups and to-one rows,
 * JSON text in one cell for to-many rows. An envelope is left away. Null is an empty cell, empty
 * text is `""`. Lists are read the same way.
 *
 * @param options `guardFormulas`
 * @example
 * csv({ guardFormulas: true })
 */
export const csv = (options: Pick<CsvOptions, 'guardFormulas'> = {}): Format => ({
  name: 'csv',
  mediaTypes: ['text/csv'],
  isText: true,
  onlyLists: true,
  isFlat: true,
  hasOnlyText: true,
  readsLines: true,
  readRows: async function* (body, reader) {
    const { readCsv } = await import('./read-csv.js');
    yield* readCsv(body, reader);
  },
  write: (sending) => sending.lines((body, situation) => csvLines(body, situation, options)),
  stream: (sending) => sending.lines((body, situation) => csvLines(body, situation, options)),
});
