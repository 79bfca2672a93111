import type { AnswerLine, AnswerMark } from './answer-line.js';

const SIGNS: Readonly<Record<AnswerMark, string>> = { right: ' ', missing: '-', unknown: '+', wrong: '!' };

const TELLS: Readonly<Record<AnswerMark, string>> = {
  right: '',
  missing: ', did not come',
  unknown: '',
  wrong: '',
};

const pathText = (path: AnswerLine['path']): string =>
  path.reduce<string>((text, part) => {
    if (typeof part === 'number') return `${text}[${part}]`;
    return text === '' ? part : `${text}.${part}`;
  }, '') || '(all of it)';

/** The row that a member is in, as text: lines of rows that are right are left out. */
const rowOf = ({ path }: AnswerLine): string => {
  const last = path.findLastIndex((part) => typeof part === 'number');
  return pathText(path.slice(0, last + 1));
};

/** The most lines that are shown: a list of a thousand wrong rows is told by its first. */
const MOST = 60;

/**
 * A comparison in words: what came beside what is declared, a sign before what is not so.
 *
 * @returns lines of text
 */
export const sayAnswer = (lines: readonly AnswerLine[]): string => {
  const wrongRows = new Set(lines.filter(({ mark }) => mark !== 'right').map(rowOf));
  const shown = lines.filter((line) => wrongRows.has(rowOf(line)));
  const cells = shown
    .slice(0, MOST)
    .map(
      (line) => [SIGNS[line.mark], pathText(line.path), line.came, line.declared + TELLS[line.mark]] as const,
    );
  const widest = (column: 1 | 2): number => Math.max(...cells.map((cell) => cell[column].length));
  const [first, second] = [widest(1), widest(2)];
  const table = cells.map(([sign, path, came, declared]) =>
    `${sign} ${path.padEnd(first)}  ${came.padEnd(second)}  ${declared}`.trimEnd(),
  );
  const more = shown.length > MOST ? [`  … and ${shown.length - MOST} lines more`] : [];
  return [...table, ...more].join('\n');
};
