import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { CONFIG_NAME, findConfig, loadConfig } from '../config/load-config.js';
import { findingWords } from '../review/finding-words.js';
import { printJson } from '../screen/print-json.js';
import type { Screen } from '../screen/screen.js';
import { sunsetWords } from '../screen/sunset-words.js';
import { type HereData, type HereJson, hereData, type NextStep } from './here-data.js';

export interface HereOptions {
  readonly json?: boolean;
}

/** How a project begins. */
const BEGIN: readonly NextStep[] = [
  {
    what: 'gribo init',
    why: 'a model, a first API and a configuration, from what this project has',
  },
  {
    what: 'gribo scan postgres://… --start',
    why: 'a model, a first API and a configuration from a live database',
  },
  { what: `write ${CONFIG_NAME}`, why: 'export default { api, store } of what you declare by hand' },
];

/** Whether there is a configuration here or above. */
const isConfigured = (named: string | undefined): boolean => {
  if (named !== undefined) return true;
  for (let folder = process.cwd(); ; folder = dirname(folder)) {
    if (existsSync(join(folder, CONFIG_NAME))) return true;
    if (dirname(folder) === folder) return false;
  }
};

const printNext = (next: readonly NextStep[], screen: Screen): void => {
  const { colours } = screen;
  const width = Math.max(...next.map(({ what }) => what.length));
  screen.print(`\n${colours.bold('Next')}`);
  for (const { what, why } of next) screen.print(`  ${colours.cyan(what.padEnd(width))}  ${why}`);
};

const printHere = (data: HereData, screen: Screen): void => {
  const { colours } = screen;
  const { title, version, config, endpoints, audiences, editions, entities } = data;
  const { findings, withoutHandler, build } = data;
  const rows: readonly (readonly [string, string])[] = [
    ['endpoints', String(endpoints)],
    ['audiences', audiences.length === 0 ? 'none: everybody is answered alike' : audiences.join(', ')],
    ...(editions.length === 0
      ? []
      : [['editions', editions.map(({ name, sunset }) => sunsetWords(name, sunset)).join(', ')] as const]),
    ['entities', entities === null ? 'the configuration names no model' : String(entities)],
    ['findings', findingWords(findings)],
    ...(withoutHandler.length === 0 ? [] : [['handlers', `none for ${withoutHandler.join(', ')}`] as const]),
    ['build', build.isThere ? build.folder : `not built yet: ${build.folder}`],
  ];
  screen.print(`${colours.bold(`${title} ${version}`)}  ${colours.dim(config)}\n`);
  for (const [name, words] of rows) screen.print(`  ${name.padEnd(10)} ${words}`);
  printNext(data.next, screen);
};

/** Shows what a project has, and what to do next; where there is none, how one begins. */
export const here = async (
  named: string | undefined,
  options: HereOptions,
  screen: Screen,
): Promise<void> => {
  if (!isConfigured(named)) {
    if (options.json === true) return printJson<HereJson>(screen, { config: null, next: BEGIN });
    screen.print(`There is no ${CONFIG_NAME} here or above.`);
    printNext(BEGIN, screen);
    screen.print(screen.colours.dim('\ngribo --help lists the commands.'));
    return;
  }
  const path = findConfig(named);
  const data = hereData(await loadConfig(path), path);
  if (options.json === true) return printJson<HereJson>(screen, data);
  printHere(data, screen);
};
