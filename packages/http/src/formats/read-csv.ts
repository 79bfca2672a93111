import { pipeline, Readable } from 'node:stream';
import { CsvError, type Info, parse } from 'csv-parse';
import { pointerPart, type Reader } from 'gribo';
import { type Cells, flatMembers } from './flat-members.js';
import { MalformedBody, type RowRead } from './format.js';

/** A record as the parser gives it: its cells, and the text that they were in. */
interface Parsed {
  readonly record: readonly (string | null)[];
  readonly raw: string;
  readonly info: Info;
}

const LINE_END = /\r\n|\n|\r/g;

async function* textsOf(body: AsyncIterable<Uint8Array>): AsyncGenerator<string> {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  try {
    for await (const chunk of body) yield decoder.decode(chunk, { stream: true });
    yield decoder.decode();
  } catch (error) {
    throw error instanceof TypeError ? new MalformedBody({ name: 'utf8' }) : error;
  }
}

const malformed = (error: unknown, line: number): unknown => {
  if (!(error instanceof CsvError)) return error;
  if (error.code === 'CSV_MAX_RECORD_SIZE') return new MalformedBody({ name: 'long' });
  // The parser may be ahead of what was read from it.
  const { lines = line } = error as { readonly lines?: number };
  return new MalformedBody({ name: 'csv', line: Math.max(line, lines) });
};

/** The names in the first line, each of them once. */
const namesOf = (record: readonly (string | null)[]): readonly string[] => {
  const names = record.map((name) => name ?? '');
  const twice = names.find((name, i) => names.indexOf(name) !== i);
  if (twice !== undefined) throw new MalformedBody({ name: 'twice' }, pointerPart(twice.slice(0, 60)));
  return names;
};

const cellsOf = (
  names: readonly string[],
  record: readonly (string | null)[],
  told: ReadonlySet<string>,
): Cells => new Map(names.flatMap((name, i) => (told.has(name) ? [] : [[name, record[i] ?? null] as const])));

/**
 * The rows of a CSV with a header (RFC 4180), while it arrives.
 *
 * @throws {MalformedBody} with the line where it is none
 */
export async function* readCsv(
  body: AsyncIterable<Uint8Array>,
  reader: Reader<object>,
): AsyncGenerator<RowRead> {
  const parser = parse({
    bom: true,
    info: true,
    raw: true,
    record_delimiter: ['\r\n', '\n', '\r'],
    relax_column_count: true,
    max_record_size: reader.limits.bytes,
    // An empty cell is nothing, and `""` is empty text: that is how they are written.
    cast: (value, { quoting }) => (value === '' && !quoting ? null : value),
  });
  // What goes wrong with either is thrown where the parser is read.
  pipeline(Readable.from(textsOf(body)), parser, () => undefined);
  let names: readonly string[] | null = null;
  let line = 1;
  // A name that is unknown is told once, not in every row.
  const told = new Set<string>();
  try {
    for await (const { record, raw } of parser as AsyncIterable<Parsed>) {
      const at = line;
      line += raw.match(LINE_END)?.length ?? 0;
      if (names === null) {
        names = namesOf(record);
        continue;
      }
      if (record.length === 1 && record[0] === null && names.length > 1) continue;
      if (record.length !== names.length) throw new MalformedBody({ name: 'cells', line: at });
      const cells = cellsOf(names, record, told);
      const members = flatMembers(reader.plan, cells, reader.limits);
      for (const name of cells.keys()) told.add(name);
      yield { result: reader.object(members), line: at };
    }
  } catch (error) {
    throw malformed(error, line);
  }
}
