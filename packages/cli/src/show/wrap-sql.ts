/** Breaks the long lines of a statement at commas, what follows indented, so that no name is torn apart. */
export const wrapSql = (sql: string, width: number): string =>
  sql
    .split('\n')
    .flatMap((line) => {
      const lines: string[] = [''];
      for (const part of line.split(/(?<=, )/)) {
        const last = lines.at(-1) ?? '';
        if (last !== '' && last.length + part.trimEnd().length > width) lines.push(`    ${part}`);
        else lines[lines.length - 1] = last + part;
      }
      return lines.map((each) => each.trimEnd());
    })
    .join('\n');
