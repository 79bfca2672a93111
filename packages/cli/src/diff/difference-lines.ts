import type { Difference, Effect } from 'gribo';
import { audienceWords } from '../review/audience-words.js';
import { endpointWords } from '../review/endpoint-words.js';
import type { Screen } from '../screen/screen.js';

/** What differences do, with their titles, the worst first. */
export const EFFECTS: readonly (readonly [Effect, string])[] = [
  ['breaking', 'Breaking'],
  ['risky', 'Risky'],
  ['safe', 'Safe'],
];

/** How many endpoints are named before the others are counted. */
const NAMED = 6;

export const whereWords = ({ reach }: Difference): string => {
  const names = reach.map(({ endpoint }) => endpoint);
  const more = names.length - NAMED;
  return more <= 0 ? endpointWords(names) : `${endpointWords(names.slice(0, NAMED))} and ${more} more`;
};

export const whomWords = ({ reach }: Difference, audiences: readonly string[]): string =>
  audienceWords([...new Set(reach.flatMap((one) => one.audiences))], audiences);

export const SIDES: Readonly<Record<Difference['side'], string>> = {
  response: 'sent',
  request: 'taken',
  endpoint: 'endpoint',
};

/** Differences in lines for a terminal, by what they do. */
export const differenceLines = (
  differences: readonly Difference[],
  audiences: readonly string[],
  { colours }: Screen,
): readonly string[] => {
  const paint = { breaking: colours.red, risky: colours.yellow, safe: colours.green };
  return EFFECTS.flatMap(([effect, title]) => {
    const found = differences.filter((difference) => difference.effect === effect);
    if (found.length === 0) return [];
    const lines = found.flatMap((difference) => {
      const { side, path, message, code } = difference;
      const place = path === '' ? '' : `${colours.bold(path)}  `;
      const whom = `${whereWords(difference)}, for ${whomWords(difference, audiences)}  (${code})`;
      return [`  ${SIDES[side].padEnd(8)}  ${place}${message}`, colours.dim(`            ${whom}`)];
    });
    return [paint[effect](`${title}: ${found.length}`), ...lines, ''];
  });
};
