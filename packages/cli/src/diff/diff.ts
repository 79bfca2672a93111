import { readFileSync } from 'node:fs';
import { CONTRACT_LAYOUT, type Contract, compare, contractOf, type Difference, type Effect } from 'gribo';
import type { GriboConfig } from '../config/config.js';
import { audienceWords } from '../review/audience-words.js';
import { endpointWords } from '../review/endpoint-words.js';
import { Mistake } from '../screen/mistake.js';
import type { Screen } from '../screen/screen.js';

export interface DiffOptions {
  readonly json?: boolean;
  readonly markdown?: boolean;
}

const isContract = (value: unknown): value is Contract =>
  typeof value === 'object' && value !== null && (value as { layout?: unknown }).layout === CONTRACT_LAYOUT;

/** The contract in a file. @throws {Mistake} where there is none */
export const readContract = (path: string): Contract => {
  let value: unknown;
  try {
    value = JSON.parse(readFileSync(path, 'utf8'));
  } catch (error) {
    throw new Mistake(`${path} could not be read: ${error instanceof Error ? error.message : String(error)}`);
  }
  if (isContract(value)) return value;
  throw new Mistake(
    `${path} is no contract of this version of Gribo: gribo build writes one, as contract.json.`,
  );
};

/** A comparison with the contracts that it is about. */
interface Compared {
  readonly before: Contract;
  readonly after: Contract;
  readonly differences: readonly Difference[];
  readonly audiences: readonly string[];
  readonly step: ReturnType<typeof compare>['step'];
  readonly suggested: string | null;
  readonly announced: boolean;
}

const EFFECTS: readonly (readonly [Effect, string])[] = [
  ['breaking', 'Breaking'],
  ['risky', 'Risky'],
  ['safe', 'Safe'],
];

/** How many endpoints are named before the others are counted. */
const NAMED = 6;

const whereWords = ({ reach }: Difference): string => {
  const names = reach.map(({ endpoint }) => endpoint);
  const more = names.length - NAMED;
  return more <= 0 ? endpointWords(names) : `${endpointWords(names.slice(0, NAMED))} and ${more} more`;
};

const whomWords = ({ reach }: Difference, audiences: readonly string[]): string =>
  audienceWords([...new Set(reach.flatMap((one) => one.audiences))], audiences);

const SIDES: Readonly<Record<Difference['side'], string>> = {
  response: 'sent',
  request: 'taken',
  endpoint: 'endpoint',
};

const versionWords = ({ before, after, step, suggested, announced }: Compared): string => {
  if (step === null) return `Nothing differs. Version ${before.version} to ${after.version}.`;
  const wanted = suggested ?? 'another version';
  const asks = `A ${step} step from ${before.version}: it asks for ${wanted}`;
  return announced
    ? `${asks}, and the API says ${after.version}.`
    : `${asks}; the API still says ${after.version}.`;
};

const printText = (compared: Compared, screen: Screen): void => {
  const { colours } = screen;
  const paint = { breaking: colours.red, risky: colours.yellow, safe: colours.green };
  const { differences, audiences } = compared;
  for (const [effect, title] of EFFECTS) {
    const found = differences.filter((difference) => difference.effect === effect);
    if (found.length === 0) continue;
    screen.print(paint[effect](`${title}: ${found.length}`));
    for (const difference of found) {
      const { side, path, message, code } = difference;
      const place = path === '' ? '' : `${colours.bold(path)}  `;
      screen.print(`  ${SIDES[side].padEnd(8)}  ${place}${message}`);
      screen.print(
        colours.dim(
          `            ${whereWords(difference)}, for ${whomWords(difference, audiences)}  (${code})`,
        ),
      );
    }
    screen.print('');
  }
  screen.print(versionWords(compared));
};

/** Text in a cell of a Markdown table. */
const cell = (text: string): string => text.replaceAll('|', '\\|').replaceAll('\n', ' ');

const markdown = (compared: Compared): string => {
  const { before, after, differences, audiences } = compared;
  const tables = EFFECTS.flatMap(([effect, title]) => {
    const found = differences.filter((difference) => difference.effect === effect);
    if (found.length === 0) return [];
    const rows = found.map((difference) => {
      const { side, path, message } = difference;
      const place = path === '' ? '' : `\`${path}\``;
      return `| ${SIDES[side]} | ${place} | ${cell(message)} | ${whereWords(difference)} | ${whomWords(difference, audiences)} |`;
    });
    return [
      `### ${title} (${found.length})`,
      '',
      '| | member | | endpoints | for |',
      '|---|---|---|---|---|',
      ...rows,
      '',
    ];
  });
  return [
    `## ${after.title}: ${before.version} → ${after.version}`,
    '',
    ...tables,
    versionWords(compared),
  ].join('\n');
};

/**
 * Prints what differs between two contracts, from the side of clients.
 *
 * @param config gives the later contract where no file is named
 * @throws {Mistake} with exit code 1 where something breaks clients and the version does not say so
 */
export const diff = async (
  config: () => Promise<GriboConfig>,
  files: readonly [string, string | undefined],
  options: DiffOptions,
  screen: Screen,
): Promise<void> => {
  const before = readContract(files[0]);
  const after = files[1] === undefined ? contractOf((await config()).api) : readContract(files[1]);
  const comparison = compare(before, after);
  const audiences = [...new Set([...before.audiences, ...after.audiences])];
  const compared: Compared = { before, after, audiences, ...comparison };
  if (options.json === true) screen.print(JSON.stringify(comparison, null, 2));
  else if (options.markdown === true) screen.print(markdown(compared));
  else printText(compared, screen);
  const breaking = comparison.differences.filter(({ effect }) => effect === 'breaking').length;
  if (breaking > 0 && !comparison.announced) {
    throw new Mistake(
      `${breaking === 1 ? 'One difference breaks' : `${breaking} differences break`} clients.`,
      1,
    );
  }
};
