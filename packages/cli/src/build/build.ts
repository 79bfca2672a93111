import { dirname, relative, resolve } from 'node:path';
import type { Finding } from 'gribo';
import { didYouMean } from 'gribo/kit';
import type { GriboConfig } from '../config/config.js';
import { Mistake } from '../screen/mistake.js';
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

/** Everything that a build writes, and what keeps serializers from being written. */
const built = async (
  config: GriboConfig,
  parts: readonly Part[],
  home: string,
  out: string,
): Promise<{ readonly outputs: readonly Output[]; readonly findings: readonly Finding[] }> => {
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

const counted = (count: number, what: string): string => `${count} ${what}${count === 1 ? '' : 's'}`;

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
  const folders = parts.filter((part) => part === 'schemas' || part === 'serializers');
  const changes = await changesTo(out, outputs, folders);
  const isCheck = options.check === true;
  if (!isCheck) await apply(out, changes);
  const { colours } = screen;
  if (options.json === true) {
    const { written, unchanged, removed } = changes;
    screen.print(
      JSON.stringify(
        { folder: where, written: written.map(({ path }) => path), unchanged, removed },
        null,
        2,
      ),
    );
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
