// Checks the packages as they would be published, and reports how large the core is in a browser.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { build } from 'esbuild';

const PACKAGES = [
  'packages/gribo',
  'packages/http',
  'packages/sql',
  'packages/drizzle',
  'packages/testing',
  'packages/cli',
];

/** An import that only writes, minified and gzipped: what we aim at, and what it must not exceed. */
const AIM = 12_000;
const MOST = 15_550;

/** Two cores in one process would not know each other's models: `gribo` is the installer's, and its range is one. */
const ranges = new Set();
for (const folder of PACKAGES.slice(1)) {
  const { name, dependencies, peerDependencies } = JSON.parse(
    readFileSync(join(folder, 'package.json'), 'utf8'),
  );
  if (dependencies?.gribo || !peerDependencies?.gribo)
    throw new Error(`${name} must have gribo as a peer, and as nothing else`);
  ranges.add(peerDependencies.gribo);
}
if (ranges.size > 1) throw new Error(`gribo is wanted in ${ranges.size} ranges: ${[...ranges]}`);

const run = (command, args, cwd = '.') =>
  execFileSync(command, args, { cwd, stdio: ['ignore', 'pipe', 'inherit'], encoding: 'utf8' });

for (const folder of PACKAGES) {
  const packed = mkdtempSync(join(tmpdir(), 'gribo-pack-'));
  const [{ filename, files }] = JSON.parse(
    run('npm', ['pack', '--json', '--silent', '--pack-destination', packed], folder),
  );
  const tarball = join(packed, filename);
  run('npx', ['publint', 'run', tarball, '--strict']);
  run('npx', ['attw', tarball, '--profile', 'esm-only']);
  const strays = files.filter(({ path }) => /\.(test|types)\.|testing\//.test(path));
  if (strays.length > 0)
    throw new Error(`${folder} would publish ${strays.map(({ path }) => path).join(', ')}`);
  console.log(`${filename}: ${files.length} files, publint and attw find nothing`);
  rmSync(packed, { recursive: true });
}

const bundled = async (names) => {
  const { outputFiles } = await build({
    stdin: { contents: `export { ${names.join(', ')} } from 'gribo';`, resolveDir: '.' },
    bundle: true,
    minify: true,
    write: false,
    format: 'esm',
    target: 'es2022',
  });
  return gzipSync(outputFiles[0].contents).length;
};

const writing = await bundled(['writer', 'list']);
const declaring = ['shape', 'model', 'entity', 'toOne', 'toMany', 'integer', 'text', 'timestamp'];
const both = await bundled(['writer', 'list', ...declaring]);
console.log(
  `minified and gzipped: an import that only writes ${writing} bytes (aim: ${AIM}, at most ${MOST}), with declaring ${both}`,
);
if (writing > MOST) process.exitCode = 1;

/** The board's page: what a browser loads of it, gzipped. */
const BOARD = 'packages/cli/dist/board-page/assets';
const BOARD_MOST = 400_000;
const board = readdirSync(BOARD).reduce(
  (sum, file) => sum + gzipSync(readFileSync(join(BOARD, file))).length,
  0,
);
console.log(`the board, gzipped: ${board} bytes (at most ${BOARD_MOST})`);
if (board > BOARD_MOST) process.exitCode = 1;
