import { pipeline, Readable } from 'node:stream';
import { type CastingContext, CsvError, parse } from 'csv-parse';
import { parse as parseAgain } from 'csv-parse/sync';
import { pointerPart, type Reader } from 'gribo';
import { type Cells, flatMembers } from './flat-members.js';
import { MalformedBody, type RowRead } from './format.js';

/** A record as the parser gives it: its cells, and the text that they were in. */
interface Parsed {
  readonly record: readonly string[];
  readonly raw: string;
}

/** What both ways of reading have in common. */
const GRAMMAR = { record_delimiter: ['\r\n', '\n', '\r'], relax_column_count: true };

const LINE_END = /\r\n|\n|\r/g;

async function* textsOf(body: AsyncIterable<Uint8Array>): AsyncGenerator<string> {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  const decoded = (...part: Parameters<typeof decoder.decode>): string => {
    try {
      return decoder.decode(...part);
    } catch {
      throw new MalformedBody({ name: 'utf8' });
    }
  };
  for await (const chunk of body) yield decoded(chunk, { stream: true });
  yield decoded();
}

const malformed = (error: unknown, line: number): unknown => {
  if (!(error instanceof CsvError)) return error;
  if (error.code === 'CSV_MAX_RECORD_SIZE') return new MalformedBody({ name: 'long' });
  // The parser may be ahead of what was read from it.
  const { lines = line } = error as { readonly lines?: number };
  return new MalformedBody({ name: 'csv', line: Math.max(line, lines) });
};

/** The names in the first line, each of them once. */
const namesOf = (names: readonly string[]): readonly string[] => {
  const twice = names.find((name, i) => names.indexOf(name) !== i);
  if (twice !== undefined) throw new MalformedBody({ name: 'twice' }, pointerPart(twice.slice(0, 60)));
  return names;
};

/** A cell that is not quoted, and empty, is nothing. */
const CAST = (value: string, { quoting }: CastingContext): string | null =>
  value === '' && !quoting ? null : value;

/**
 * The cells, null where there is nothing: an empty cell is that, and `""` is empty text, as they are written. Whether
 * one was quoted takes the parser much longer to tell, so that it is asked again only where it matters.
 */
const withNothing = (record: readonly string[], raw: string): readonly (string | null)[] => {
  if (!record.includes('')) return record;
  if (!raw.includes('""')) return record.map((cell) => (cell === '' ? null : cell));
  const [again] = parseAgain(raw, { ...GRAMMAR, cast: CAST }) as unknown as (string | null)[][];
  return again ?? record;
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
    ...GRAMMAR,
    bom: true,
    raw: true,
    max_record_size: reader.limits.bytes,
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
      if (record.length === 1 && record[0] === '' && names.length > 1) continue;
      if (record.length !== names.length) throw new MalformedBody({ name: 'cells', line: at });
      const cells = cellsOf(names, withNothing(record, raw), told);
      const members = flatMembers(reader.plan, cells, { limits: reader.limits, emptyIsNull: false });
      for (const name of cells.keys()) told.add(name);
      yield { result: reader.object(members), line: at };
    }
  } catch (error) {
    throw malformed(error, line);
  }
}
