import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import Table from 'cli-table3';
import { type Figure, keyOf, median } from './figure.js';
import { shown } from './table.js';

const ROOT = fileURLToPath(new URL('../..', import.meta.url));

const run = (command: string, args: readonly string[], cwd: string): void => {
  execFileSync(command, args, { cwd, stdio: ['ignore', 'ignore', 'inherit'] });
};

/** The figures of one run of a checkout's own benchmarks. A ratio behind its bar is no failure here. */
const figuresIn = (folder: string, parts: readonly string[], file: string): readonly Figure[] => {
  try {
    run(
      process.execPath,
      [join(folder, 'bench/dist/main.js'), '--only', parts.join(','), '--json', file],
      folder,
    );
  } catch (error) {
    if ((error as { status?: number }).status !== 1) throw error;
  }
  return (JSON.parse(readFileSync(file, 'utf8')) as { figures: readonly Figure[] }).figures;
};

/** The figures of several runs, each with its times in all of them. */
const gathered = (runs: readonly (readonly Figure[])[]): ReadonlyMap<string, readonly Figure[]> => {
  const all = new Map<string, Figure[]>();
  for (const figure of runs.flat()) {
    const known = all.get(keyOf(figure));
    if (known === undefined) all.set(keyOf(figure), [figure]);
    else known.push(figure);
  }
  return all;
};

const drawn = (then: readonly (readonly Figure[])[], now: readonly (readonly Figure[])[]): string => {
  const table = new Table({
    head: ['what', 'compared with', 'then', 'now', 'as good as then'],
    style: { head: [], border: [], compact: true },
  });
  const before = gathered(then);
  for (const [key, figures] of gathered(now)) {
    const [first] = figures;
    const old = before.get(key);
    if (first === undefined || old === undefined) continue;
    const [was, is] = [median(old.map(({ ours }) => ours)), median(figures.map(({ ours }) => ours))];
    const isLess = ['ms', 's', 'MB', 'kB'].includes(first.unit);
    const change = isLess ? was / is : is / was;
    table.push([
      first.what,
      first.than ?? '',
      shown(was, first.unit),
      shown(is, first.unit),
      `${change.toFixed(2)}×${change < 0.95 ? ' LOST' : ''}`,
    ]);
  }
  return table.toString();
};

/**
 * Compares this checkout with another revision, on this machine, in turns: then, now, then, now.
 *
 * @param revision a revision of git that has benchmarks which write JSON
 * @param rounds how often each is run
 * @returns the table
 */
export const against = (revision: string, parts: readonly string[], rounds: number): string => {
  const folder = mkdtempSync(join(tmpdir(), 'gribo-against-'));
  const file = join(folder, 'figures.json');
  const other = join(folder, 'other');
  try {
    run('git', ['worktree', 'add', '--detach', other, revision], ROOT);
    run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], other);
    run('npm', ['run', '--silent', 'build'], other);
    const runs = Array.from({ length: rounds }, () => ({
      before: figuresIn(other, parts, file),
      after: figuresIn(ROOT, parts, file),
    }));
    return drawn(
      runs.map(({ before }) => before),
      runs.map(({ after }) => after),
    );
  } finally {
    run('git', ['worktree', 'remove', '--force', other], ROOT);
    rmSync(folder, { recursive: true, force: true });
  }
};
