import type { Format } from './format.js';

/** One JSON text a line, for long lists that are read line by line. An envelope is left away. */
export const ndjson: Format = {
  name: 'ndjson',
  mediaTypes: ['application/x-ndjson', 'application/jsonl'],
  onlyLists: true,
  write: (sending) =>
    sending
      .rows()
      .map((row) => `${JSON.stringify(row)}\n`)
      .join(''),
  stream: async function* (sending) {
    for await (const texts of sending.texts()) yield `${texts.join('\n')}\n`;
  },
};
