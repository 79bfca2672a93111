import { Param, SQL, StringChunk } from 'drizzle-orm';

/** What has its own quotes, which hold no parameter; or a parameter, as each database writes it. */
const PARTS: Readonly<Record<'postgres' | 'other', RegExp>> = {
  postgres: /'(?:[^']|'')*'|"(?:[^"]|"")*"|\$(\d+)/g,
  other: /'(?:[^']|'')*'|"(?:[^"]|"")*"|`(?:[^`]|``)*`|\?/g,
};

/** A statement of Drizzle's for a text and its parameters, which stay parameters. */
export const statementOf = (text: string, parameters: readonly unknown[], isPostgres: boolean): SQL => {
  const chunks: (StringChunk | Param)[] = [];
  let from = 0;
  let place = 0;
  for (const match of text.matchAll(PARTS[isPostgres ? 'postgres' : 'other'])) {
    if (!/^[$?]/.test(match[0])) continue;
    const value = isPostgres ? parameters[Number(match[1]) - 1] : parameters[place];
    place += 1;
    chunks.push(new StringChunk(text.slice(from, match.index)), new Param(value));
    from = match.index + match[0].length;
  }
  chunks.push(new StringChunk(text.slice(from)));
  return new SQL(chunks);
};

/** Whether a statement gives rows. What is between quotes, texts and names, says nothing of that. */
export const givesRows = (text: string): boolean =>
  /^\s*(?:select|with|values|pragma|show|explain)\b/i.test(text) ||
  /\breturning\b/i.test(text.replace(PARTS.other, ''));
