import { statSync } from 'node:fs';
import { type Contract, type ContractComparison, compare, contractOf, type Difference } from 'gribo';
import { editionNames, inAskedEdition } from '../asked/asked-edition.js';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';
import { printJson } from '../screen/print-json.js';
import type { Screen } from '../screen/screen.js';
import { differenceLines, EFFECTS, SIDES, whereWords, whomWords } from './difference-lines.js';
import { notes } from './notes.js';
import { readContract } from './read-contract.js';

export interface DiffOptions {
  readonly json?: boolean;
  readonly markdown?: boolean;
  readonly notes?: boolean;
}

/** What `gribo diff --json` prints. */
export type DiffJson = ContractComparison;

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

const versionWords = ({ before, after, step, suggested, announced }: Compared): string => {
  if (step === null) return `Nothing differs. Version ${before.version} to ${after.version}.`;
  const wanted = suggested ?? 'another version';
  const asks = `A ${step} step from ${before.version}: it asks for ${wanted}`;
  return announced
    ? `${asks}, and the API says ${after.version}.`
    : `${asks}; the API still says ${after.version}.`;
};

const printText = (compared: Compared, closing: string, screen: Screen): void => {
  for (const line of differenceLines(compared.differences, compared.audiences, screen)) screen.print(line);
  screen.print(closing);
};

/** What is said of two editions: each of them stays what it is, so no version has to say anything. */
const editionWords = (before: string, after: string, count: number): string =>
  count === 0
    ? `Nothing differs between ${before} and ${after}.`
    : `Whoever stays in ${before} is answered as before; gribo diff ${before} ${after} --notes says what has to be changed to leave it.`;

/** Text in a cell of a Markdown table. */
const cell = (text: string): string => text.replaceAll('|', '\\|').replaceAll('\n', ' ');

const markdown = (compared: Compared, closing: string): string => {
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
  return [`## ${after.title}: ${before.version} → ${after.version}`, '', ...tables, closing].join('\n');
};

/** A contract that was named: by its file, or by the edition that it is of. */
interface Named {
  readonly contract: Contract;
  /** Null: it is of a file. */
  readonly edition: string | null;
}

/** What looks like a path is one, even where nothing is at it; a folder may be called as an edition is. */
const isFile = (name: string): boolean =>
  /[/\\]|\.json$/.test(name) || statSync(name, { throwIfNoEntry: false })?.isFile() === true;

const named = async (config: () => Promise<GriboConfig>, name: string | undefined): Promise<Named> => {
  if (name !== undefined && isFile(name)) return { contract: readContract(name), edition: null };
  const loaded = await config();
  const edition = name ?? editionNames(loaded).at(-1) ?? null;
  if (edition === null) return { contract: contractOf(loaded.api), edition };
  return { contract: contractOf(inAskedEdition(loaded, { edition }).api), edition };
};

/**
 * Prints what differs between two contracts, from the side of clients.
 *
 * @param config gives the API, where an edition is named or nothing
 * @param places files of contracts, or names of editions
 * @throws {Mistake} with exit code 1 where something breaks clients and neither the version nor another edition says so
 */
export const diff = async (
  config: () => Promise<GriboConfig>,
  places: readonly [string, string | undefined],
  options: DiffOptions,
  screen: Screen,
): Promise<void> => {
  const [was, is] = [await named(config, places[0]), await named(config, places[1])];
  const [before, after] = [was.contract, is.contract];
  const comparison = compare(before, after);
  const audiences = [...new Set([...before.audiences, ...after.audiences])];
  const compared: Compared = { before, after, audiences, ...comparison };
  if (options.notes === true) return printNotes(config, was, is, comparison.differences, screen);
  // Whoever stays in the one edition is not broken by the other.
  const isOther = was.edition !== null && is.edition !== null && was.edition !== is.edition;
  const closing = isOther
    ? editionWords(was.edition, is.edition, comparison.differences.length)
    : versionWords(compared);
  if (options.json === true) printJson<DiffJson>(screen, comparison);
  else if (options.markdown === true) screen.print(markdown(compared, closing));
  else printText(compared, closing, screen);
  const breaking = comparison.differences.filter(({ effect }) => effect === 'breaking').length;
  if (breaking > 0 && !comparison.announced && !isOther) {
    throw new Mistake(
      `${breaking === 1 ? 'One difference breaks' : `${breaking} differences break`} clients.`,
      1,
    );
  }
};

const printNotes = async (
  config: () => Promise<GriboConfig>,
  was: Named,
  is: Named,
  differences: readonly Difference[],
  screen: Screen,
): Promise<void> => {
  if (was.edition === null || is.edition === null)
    throw new Mistake('Notes lead from one edition to another: gribo diff 2025-11 2026-05 --notes');
  screen.print(notes(await config(), [was.edition, is.edition], differences));
};
