import type { EntityPlan, ResolvedShape } from 'gribo/kit';
import { fit, type Screen } from '../screen/screen.js';
import { locate } from './locate.js';
import { type Mark, type Pair, pairsOf } from './pairs.js';
import { pathText, SENT, STORED, valueAt, valueText } from './value-text.js';

type Colours = Screen['colours'];

/** The widest mark, `flattened`, and a space on each side. */
const MARK_CELLS = 11;

const colourOf = (colours: Colours, mark: Mark): ((text: string) => string) => {
  switch (mark) {
    case 'kept':
      return colours.green;
    case 'renamed':
    case 'flattened':
    case 'nested':
      return colours.cyan;
    case 'converted':
    case 'computed':
    case 'constant':
      return colours.magenta;
    case 'unsealed':
      return colours.red;
    case 'sealed':
      return colours.yellow;
    case 'dropped':
      return colours.dim;
    default:
      return mark satisfies never;
  }
};

/** A stored value; one that is sealed and stays so is not shown here either. */
const storedText = (pair: Pair, row: unknown): string => {
  if (pair.from === null) return '';
  if (pair.seal !== null && pair.mark !== 'unsealed') return `(sealed: ${pair.seal})`;
  return valueText(valueAt(row, pair.from), STORED);
};

const cellsFor = (texts: readonly string[], most: number): number =>
  Math.min(Math.max(8, ...texts.map((text) => text.length)), most);

/** Members inside an empty list or a missing row are on neither side. */
const isShown = (pair: Pair, row: unknown, sent: unknown): boolean =>
  pair.to === null ||
  valueAt(sent, pair.to) !== undefined ||
  (pair.from !== null && valueAt(row, pair.from) !== undefined);

/**
 * The stored row next to the response, member by member: the left half is what is stored, the
 * right half what is sent, and between them stands what became of it.
 */
export const besideLines = (
  screen: Screen,
  entity: EntityPlan,
  shape: ResolvedShape,
  row: unknown,
  sent: unknown,
): readonly string[] => {
  const { colours, width } = screen;
  const pairs = locate(pairsOf(shape, entity), row, sent).filter((pair) => isShown(pair, row, sent));
  const half = Math.floor((width - MARK_CELLS) / 2);
  const leftNames = pairs.map((pair) => (pair.from === null ? '' : pathText(pair.from)));
  const rightNames = pairs.map((pair) => (pair.to === null ? '' : pathText(pair.to)));
  const leftCells = cellsFor(leftNames, Math.floor(half * 0.5));
  const rightCells = cellsFor(rightNames, Math.floor(half * 0.5));
  const line = (left: [string, string], mark: string, right: [string, string]): string =>
    [
      fit(left[0], leftCells),
      ' ',
      fit(left[1], half - leftCells - 1),
      mark,
      fit(right[0], rightCells),
      ' ',
      fit(right[1], half - rightCells - 1),
    ].join('');
  const head = line([`stored ${entity.name}`, ''], ' '.repeat(MARK_CELLS), [`sent ${shape.name}`, '']);
  const body = pairs.map((pair, i) => {
    const paint = colourOf(colours, pair.mark);
    const value = pair.to === null ? '' : valueText(valueAt(sent, pair.to), SENT);
    const mark = paint(` ${fit(pair.mark, MARK_CELLS - 1)}`);
    const text = line([leftNames[i] ?? '', storedText(pair, row)], mark, [rightNames[i] ?? '', value]);
    return pair.to === null ? colours.dim(text.trimEnd()) : text.trimEnd();
  });
  return [colours.bold(head.trimEnd()), ...body];
};
