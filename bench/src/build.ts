import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Contract, compare, contractOf } from 'gribo';
import { large } from './build-config.js';
import { alone, type Figure } from './figure.js';

const BIN = fileURLToPath(import.meta.resolve('@gribo/cli/package.json')).replace(
  'package.json',
  'bin/gribo.js',
);
const CONFIG = fileURLToPath(new URL('./build-config.js', import.meta.url));

const BUILD_BAR = 2;
const COMPARE_BAR = 1;

const seconds = (work: () => unknown): number => {
  const start = performance.now();
  work();
  return (performance.now() - start) / 1000;
};

/** The same contract with a member more in every shape, as it would be read from a file. */
const changed = (contract: Contract): Contract => {
  const copy = JSON.parse(JSON.stringify(contract)) as { shapes: Record<string, { members: object[] }> };
  for (const shape of Object.values(copy.shapes))
    shape.members.push({ name: 'more', type: { kind: 'text' } });
  return copy as unknown as Contract;
};

/** The command on an API of 200 entities and 600 shapes, from start to end; and two of its contracts compared. */
export const benchBuild = (): readonly Figure[] => {
  const out = mkdtempSync(join(tmpdir(), 'gribo-bench-'));
  const built = seconds(() =>
    execFileSync(process.execPath, [BIN, '--config', CONFIG, 'build', '--out', out]),
  );
  const again = seconds(() =>
    execFileSync(process.execPath, [BIN, '--config', CONFIG, 'build', '--out', out]),
  );
  const files = readdirSync(out, { recursive: true }).length;
  rmSync(out, { recursive: true, force: true });
  const contract = contractOf(large);
  const other = changed(contract);
  let found = 0;
  const compared = seconds(() => {
    found = compare(contract, other).differences.length;
  });
  if (found === 0) throw new Error('the contracts do not differ');
  return [
    alone('gribo build of 200 entities and 600 shapes', built, 's', {
      bar: BUILD_BAR,
      beside: `${files} files; unchanged ${again.toFixed(1)} s`,
    }),
    alone('two of its contracts compared', compared, 's', {
      bar: COMPARE_BAR,
      beside: `${found} differences`,
    }),
  ];
};
