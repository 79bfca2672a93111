import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { alone, type Figure, median } from './figure.js';

const ROUNDS = 9;
const HERE = fileURLToPath(new URL('.', import.meta.url));
const BIN = fileURLToPath(import.meta.resolve('@gribo/cli/package.json')).replace(
  'package.json',
  'bin/gribo.js',
);

const importing = (name: string): string[] => ['--input-type=module', '-e', `import '${name}'`];

/** What is started in a process of its own: what it is called, its arguments, and the most milliseconds more than Node alone. */
const STARTED: readonly (readonly [string, readonly string[], number | null])[] = [
  ["import 'gribo'", importing('gribo'), 25],
  ["import '@gribo/http'", importing('@gribo/http'), 50],
  ["import 'kysely'", importing('kysely'), null],
  ["import '@gribo/sql'", importing('@gribo/sql'), null],
  ['gribo --help', [BIN, '--help'], 250],
];

const timeOf = (args: readonly string[]): number => {
  const start = performance.now();
  execFileSync(process.execPath, args, { cwd: HERE, stdio: 'ignore' });
  return performance.now() - start;
};

/** Cold starts in fresh processes, in turns: how much longer each takes than Node with nothing to do. */
export const benchStart = (): readonly Figure[] => {
  const bare: number[] = [];
  const times = STARTED.map((): number[] => []);
  for (let round = 0; round < ROUNDS; round++) {
    bare.push(timeOf(['--input-type=module', '-e', '']));
    for (const [i, [, args]] of STARTED.entries()) times[i]?.push(timeOf(args));
  }
  const nothing = median(bare);
  return STARTED.map(([what, , bar], i) =>
    alone(what, median(times[i] ?? []) - nothing, 'ms', {
      bar,
      beside: `more than Node alone, ${nothing.toFixed(0)} ms`,
    }),
  );
};
