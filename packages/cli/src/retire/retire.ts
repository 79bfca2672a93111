import { editionNames } from '../asked/asked-edition.js';
import type { GriboConfig } from '../config/config.js';
import { sourcesOf } from '../config/sources.js';
import { counted } from '../screen/counted.js';
import { Mistake } from '../screen/mistake.js';
import { printJson } from '../screen/print-json.js';
import type { Screen } from '../screen/screen.js';
import { type Retiring, retiringIn } from './retiring.js';

/** What `gribo retire --json` prints: the conditions that an edition alone needs, by file and line. */
export type RetireJson = readonly Retiring[];

export interface RetireOptions {
  readonly json?: boolean;
}

const GROUPS: readonly (readonly [holds: boolean | null, title: string])[] = [
  [false, 'Never holds then: drop what is given, or keep what stands in its place'],
  [true, 'Holds always then: keep what is given, without given, and drop what stands in its place'],
  [null, 'Not said here which edition it is about: look whether it is this one or the next'],
];

/**
 * The conditions that an edition alone needs, once it is the oldest and goes.
 *
 * @throws {Mistake} where it is not the oldest, or the only one
 */
export const retiringFor = async (
  config: GriboConfig,
  configPath: string,
  edition: string,
): Promise<readonly Retiring[]> => {
  const [oldest, next] = editionNames(config);
  if (oldest !== edition || next === undefined) {
    const there = editionNames(config).join(', ') || 'none';
    throw new Mistake(
      next === undefined
        ? `There is no edition after ${edition}, so it cannot go. There are: ${there}.`
        : `Editions go oldest first: gribo retire ${oldest}. There are: ${there}.`,
    );
  }
  return retiringIn(await sourcesOf(configPath), edition, next);
};

/** Prints the lines of the source that an edition alone needs. */
export const retire = async (
  config: GriboConfig,
  configPath: string,
  edition: string,
  options: RetireOptions,
  screen: Screen,
): Promise<void> => {
  const found = await retiringFor(config, configPath, edition);
  if (options.json === true) {
    printJson<RetireJson>(screen, found);
    return;
  }
  const { colours } = screen;
  const widest = Math.max(0, ...found.map(({ uri, line }) => `${uri}:${line}`.length));
  for (const [holds, title] of GROUPS) {
    const own = found.filter((one) => one.holds === holds);
    if (own.length === 0) continue;
    screen.print(colours.bold(title));
    for (const { uri, line, text } of own) screen.print(`  ${`${uri}:${line}`.padEnd(widest)}  ${text}`);
    screen.print('');
  }
  const sure = found.filter(({ holds }) => holds !== null);
  screen.print(
    `${counted(sure.length, 'condition')} of ${edition}; then take it off \`editions\`, and its file from the published contracts.`,
  );
};
