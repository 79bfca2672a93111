import { jsonLines, type ReadResult } from 'gribo';
import type { Format } from './format.js';
import { linesOf } from './lines-of.js';

const SPACES = new Set([9, 10, 13, 32]);

/** What is wrong with a line's grammar is told by the line of the whole. */
const atLine = (result: ReadResult<object>, line: number): ReadResult<object> => {
  if (result.ok) return result;
  return {
    ok: false,
    issues: result.issues.map((issue) =>
      issue.reason?.line === undefined ? issue : { ...issue, reason: { ...issue.reason, line } },
    ),
  };
};

/** One JSON text a line, for long lists that are sent or read line by line. An envelope is left away. */
export const ndjson: Format = {
  name: 'ndjson',
  mediaTypes: ['application/x-ndjson', 'application/jsonl'],
  onlyLists: true,
  write: (sending) => sending.lines(jsonLines),
  stream: (sending) => sending.lines(jsonLines),
  readsLines: true,
  readRows: async function* (body, reader) {
    let line = 0;
    for await (const bytes of linesOf(body, reader.limits.bytes)) {
      line++;
      // Between two rows there may be nothing.
      if (bytes.every((byte) => SPACES.has(byte))) continue;
      yield { result: atLine(reader.json(bytes), line), line };
    }
  },
};
