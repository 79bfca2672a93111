import { type Pair, REORDERED } from './pairs.js';
import { SENT, STORED, valueAt, valueText } from './value-text.js';

type Path = readonly (string | number)[];

const unquoted = (text: string): string => text.replace(/^"(.*)"$/, '$1');

const startsWith = (path: Path, start: Path): boolean => start.every((step, i) => path[i] === step);

/** Whether the row at this place is the one that the members came from, as far as they show it. */
const agrees = (pairs: readonly Pair[], list: Path, index: number, row: unknown, sent: unknown): boolean =>
  pairs
    .filter((pair) => pair.mark === 'kept' || pair.mark === 'renamed')
    .every((pair) => {
      const from = [...list, index, ...(pair.from ?? []).slice(list.length + 1)];
      const stored = valueText(valueAt(row, from), STORED);
      return unquoted(stored) === unquoted(valueText(valueAt(sent, pair.to ?? []), SENT));
    });

/** The place of the one row that agrees; null where none or several do. */
const placeOf = (members: readonly Pair[], list: Path, row: unknown, sent: unknown): number | null => {
  const rows = valueAt(row, list);
  const all = Array.isArray(rows) ? rows.map((_row, index) => index) : [];
  const [place, ...others] = all.filter((index) => agrees(members, list, index, row, sent));
  return place === undefined || others.length > 0 ? null : place;
};

/**
 * Finds which row of a filtered or sorted link came out first, by its values, and puts its place
 * into the paths. Where none or several agree, the place stays open.
 */
export const locate = (pairs: readonly Pair[], row: unknown, sent: unknown): readonly Pair[] => {
  const located: Pair[] = [];
  for (let at = 0; at < pairs.length; ) {
    const open = pairs[at]?.from?.indexOf(REORDERED) ?? -1;
    const list = (pairs[at]?.from ?? []).slice(0, Math.max(0, open));
    let end = at + 1;
    while (open !== -1 && end < pairs.length && startsWith(pairs[end]?.from ?? [], [...list, REORDERED]))
      end++;
    const members = pairs.slice(at, end);
    const place = open === -1 ? null : placeOf(members, list, row, sent);
    const moved = (pair: Pair): Pair =>
      place === null ? pair : { ...pair, from: [...list, place, ...(pair.from ?? []).slice(open + 1)] };
    located.push(...members.map(moved));
    at = end;
  }
  return located;
};
