/** A word with what is behind it: what is quoted is of one word, whatever is in it. */
const WORD = /(?:"(?:[^"]|"")*"|'(?:[^']|'')*'|`(?:[^`]|``)*`|[^\s"'`])+\s*/g;

/** Words that go together: up to a comma, or up to what joins conditions. */
const parts = (words: readonly string[]): readonly (readonly string[])[] => {
  const found: string[][] = [[]];
  for (const word of words) {
    found.at(-1)?.push(word);
    if (/,\s+$|^(?:and|or)\s+$/.test(word)) found.push([]);
  }
  return found;
};

/** Breaks the long lines of a statement between parts or, where one is too long, between words: what follows is indented. */
export const wrapSql = (sql: string, width: number): string =>
  sql
    .split('\n')
    .flatMap((line) => {
      const start = /^\s*/.exec(line)?.[0] ?? '';
      const lines: string[] = [start];
      const add = (text: string): boolean => {
        const last = lines.at(-1) ?? '';
        if (last.length + text.trimEnd().length > width) return false;
        lines[lines.length - 1] = last + text;
        return true;
      };
      for (const part of parts(line.match(WORD) ?? [])) {
        if (add(part.join(''))) continue;
        const next = `${start}    `;
        if (next.length + part.join('').trimEnd().length <= width) lines.push(next + part.join(''));
        else for (const word of part) if (!add(word)) lines.push(next + word);
      }
      return lines.map((each) => each.trimEnd());
    })
    .join('\n');
