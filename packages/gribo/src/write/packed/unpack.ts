import { GriboError } from '../../errors/gribo-error.js';

/** What a letter behind a backslash stands for. */
const ESCAPES: Readonly<Record<string, string>> = {
  b: '\b',
  f: '\f',
  n: '\n',
  r: '\r',
  t: '\t',
  v: '\v',
};

/** The text that a field stands for; null for none. */
export const unpackField = (field: string): string | null => {
  if (!field.includes('\\')) return field;
  if (field === '\\N') return null;
  return field.replace(/\\(.)/gs, (_all, letter: string) => ESCAPES[letter] ?? letter);
};

/** The letter that stands for a character, behind a backslash. */
const LETTERS: Readonly<Record<string, string>> = Object.fromEntries(
  Object.entries({ ...ESCAPES, '\\': '\\' }).map(([letter, character]) => [character, letter]),
);

/** A text as a field. */
export const packField = (text: string): string =>
  text.replace(/[\\\b\f\n\r\t\v]/g, (character) => `\\${LETTERS[character]}`);

/** The texts of a line's fields. */
export const unpackLine = (line: string): (string | null)[] => {
  const fields: (string | null)[] = line.split('\t');
  if (!line.includes('\\')) return fields;
  for (let i = 0; i < fields.length; i++) fields[i] = unpackField(fields[i] as string);
  return fields;
};

/** A line that does not end was cut off, and what was sent of it may look like one. */
export const checkWhole = (rest: number): void => {
  if (rest > 0) throw new GriboError('ENDED', 'rows', 'the rows ended in the middle of a line');
};

/** Lines without their ends, as texts, chunk by chunk. */
export async function* lineTexts(
  chunks: AsyncIterator<Uint8Array | string>,
): AsyncGenerator<readonly string[]> {
  const decoder = new TextDecoder('utf-8', { ignoreBOM: true });
  let rest = '';
  for (let step = await chunks.next(); step.done !== true; step = await chunks.next()) {
    const { value } = step;
    const text = typeof value === 'string' ? value : decoder.decode(value, { stream: true });
    const lines = (rest + text).split('\n');
    rest = lines.pop() ?? '';
    yield lines;
  }
  checkWhole(rest.length);
}
