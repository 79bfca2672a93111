import { dirname, join, relative, resolve } from 'node:path';
import type { Finding } from 'gribo';
import { didYouMean } from 'gribo/kit';
import { editionFolder, editionNames, inAskedEdition } from '../asked/asked-edition.js';
import type { GriboConfig } from '../config/config.js';
import { counted } from '../screen/counted.js';
import { Mistake } from '../screen/mistake.js';
import { printJson } from '../screen/print-json.js';
import { withProgress } from '../screen/progress.js';
import type { Screen } from '../screen/screen.js';
import { type Output, PARTS, type Part } from './output.js';
import { outputsOf } from './outputs.js';
import { serializers } from './serializers.js';
import { apply, changesTo, type FileChanges } from './write-outputs.js';

export interface BuildOptions {
  readonly only?: readonly string[];
  readonly out?: string;
  readonly check?: boolean;
  readonly json?: boolean;
}

const partsOf = (names: readonly string[] | undefined): readonly Part[] => {
  if (names === undefined) return PARTS;
  const unknown = names.find((name) => !PARTS.some((part) => part === name));
  if (unknown === undefined) return PARTS.filter((part) => names.includes(part));
  const close = didYouMean(unknown, PARTS);
  throw new Mistake(
    `There is no part "${unknown}".${close === '' ? ` There are: ${PARTS.join(', ')}.` : close}`,
  );
};

/** What `gribo build --json` prints: what became of the files in the folder. */
export interface BuildJson {
  /** Seen from where the command ran. */
  readonly folder: string;
  /** Written, or with `--check` to be written: their paths in the folder. */
  readonly written: readonly string[];
  /** How many are as they were. */
  readonly unchanged: number;
  /** Removed, or with `--check` to be removed. */
  readonly removed: readonly string[];
}

interface Built {
  readonly outputs: readonly Output[];
  readonly findings: readonly Finding[];
}

/** Everything that a build writes, and what keeps serializers from being written. */
const builtOne = async (
  config: GriboConfig,
  parts: readonly Part[],
  home: string,
  out: string,
): Promise<Built> => {
  const outputs: Output[] = [];
  const findings: Finding[] = [];
  for (const part of parts) {
    if (part !== 'serializers') outputs.push(...outputsOf(part, config));
    else {
      const made = await serializers(config, home, out);
      outputs.push(...made.outputs);
      findings.push(...made.findings);
    }
  }
  return { outputs, findings };
};

/** The newest edition is built where the only one would be; each before it in a folder of its name. */
const built = async (
  config: GriboConfig,
  parts: readonly Part[],
  home: string,
  out: string,
): Promise<Built> => {
  const newest = await builtOne(config, parts, home, out);
  const all = [newest];
  const names = editionNames(config);
  for (const name of names.slice(0, -1)) {
    const folder = editionFolder(name, names);
    const one = await builtOne(inAskedEdition(config, { edition: name }), parts, home, join(out, folder));
    const outputs = one.outputs.map(({ path, text }) => ({ path: folder + path, text }));
    all.push({ outputs, findings: one.findings });
  }
  // A function that no module exports is one in all editions.
  const findings = new Map(all.flatMap((one) => one.findings.map((finding) => [finding.path, finding])));
  return { outputs: all.flatMap((one) => one.outputs), findings: [...findings.values()] };
};

/** The folders that a build has to itself: what is left over in them is removed. */
const ownFolders = (config: GriboConfig, parts: readonly Part[]): readonly string[] => {
  const folders = parts.filter((part) => part === 'schemas' || part === 'serializers');
  const names = editionNames(config);
  const homes = names.length === 0 ? [''] : names.map((name) => editionFolder(name, names));
  return homes.flatMap((home) => folders.map((folder) => home + folder));
};

const summary = ({ written, unchanged, removed }: FileChanges, where: string, isCheck: boolean): string => {
  const done = isCheck ? 'to be written' : 'written';
  const gone = removed.length === 0 ? '' : `, ${removed.length} ${isCheck ? 'to be removed' : 'removed'}`;
  return `${where}: ${counted(written.length, 'file')} ${done}, ${unchanged} unchanged${gone}`;
};

const missing = (findings: readonly Finding[], configured: boolean): string => {
  const first = configured
    ? 'no module in the configuration’s `functions` exports'
    : 'the configuration names no module for, as `functions`';
  return [
    `${counted(findings.length, 'member')} ${findings.length === 1 ? 'calls' : 'call'} a function that ${first}; what they are in was not written as a serializer:`,
    ...findings.map(({ path }) => `  ${path}`),
  ].join('\n');
};

/**
 * Writes the API's descriptions and modules into a folder: what changed, and nothing else.
 *
 * @throws {Mistake} with exit code 1 where `--check` finds something stale, or a serializer could not be written
 */
export const buildOutputs = async (
  config: GriboConfig,
  configPath: string,
  options: BuildOptions,
  screen: Screen,
): Promise<void> => {
  const parts = partsOf(options.only);
  const home = dirname(configPath);
  const folder = options.out ?? config.out ?? 'generated';
  const out = resolve(home, folder);
  const where = relative(process.cwd(), out) || '.';
  const { outputs, findings } = await withProgress('Building', () => built(config, parts, home, out));
  const changes = await changesTo(out, outputs, ownFolders(config, parts));
  const isCheck = options.check === true;
  if (!isCheck) await apply(out, changes);
  const { colours } = screen;
  if (options.json === true) {
    const { written, unchanged, removed } = changes;
    const paths = written.map(({ path }) => path);
    printJson<BuildJson>(screen, { folder: where, written: paths, unchanged, removed });
  } else {
    const shown = changes.written.slice(0, 12);
    for (const { path } of shown) screen.print(`${colours.green('+')} ${path}`);
    if (changes.written.length > shown.length)
      screen.print(colours.dim(`  and ${changes.written.length - shown.length} more`));
    for (const path of changes.removed) screen.print(`${colours.red('-')} ${path}`);
    screen.print(summary(changes, where, isCheck));
  }
  if (findings.length > 0) throw new Mistake(missing(findings, config.functions !== undefined), 1);
  const isStale = changes.written.length + changes.removed.length > 0;
  if (isCheck && isStale) throw new Mistake('The build is stale: run gribo build.', 1);
};
