/** What is in quotes or in a comment, where a parenthesis means nothing. */
const ASIDE = String.raw`'(?:[^']|'')*'|"(?:[^"]|"")*"|\`[^\`]*\`|\[[^\]]*\]|--[^\n]*|/\*[\s\S]*?\*/`;

/** Where the parenthesis is closed that was opened just before a place. */
const closing = (text: string, from: number): number => {
  const piece = new RegExp(`${ASIDE}|[()]`, 'g');
  piece.lastIndex = from;
  let depth = 1;
  for (let match = piece.exec(text); match !== null; match = piece.exec(text)) {
    if (match[0] === '(') depth++;
    if (match[0] === ')') depth--;
    if (depth === 0) return piece.lastIndex;
  }
  return text.length;
};

/** The checks in the statement that made a table, as they are written. */
export const checksIn = (definition: string): readonly string[] => {
  const checks: string[] = [];
  const start = new RegExp(String.raw`${ASIDE}|\bcheck\s*\(`, 'gi');
  for (let match = start.exec(definition); match !== null; match = start.exec(definition)) {
    if (!/^check/i.test(match[0])) continue;
    const end = closing(definition, start.lastIndex);
    checks.push(definition.slice(match.index, end));
    start.lastIndex = end;
  }
  return checks;
};
