// Checks the packages as they would be published, in a project of their own, and reports how large the core is in a browser.
import { execFileSync, spawnSync } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { gzipSync } from 'node:zlib';
import { build } from 'esbuild';
import { PACKAGES, pack } from './packages.mjs';

/** An import that only writes, minified and gzipped: what we aim at, and what it must not exceed. */
const AIM = 12_000;
const MOST = 15_550;

/** The most bytes of `gribo` in a project, and of any other package. */
const UNPACKED = 3_000_000;

/** The most characters that a mistake in a declaration prints where a program ends with it. */
const SCREEN = 2000;

const must = (is, sentence) => {
  if (!is) throw new Error(sentence);
};

const run = (command, args, cwd = '.') =>
  execFileSync(command, args, { cwd, stdio: ['ignore', 'pipe', 'inherit'], encoding: 'utf8' });

const folder = mkdtempSync(join(tmpdir(), 'gribo-pack-'));
const packed = PACKAGES.map((name) => pack(name, folder));

/** What is wrong with a package by itself. */
const checkPacked = ({ name, tarball, filename, files, unpackedSize, manifest }) => {
  run('npx', ['publint', 'run', tarball, '--strict']);
  run('npx', ['attw', tarball, '--profile', 'esm-only']);
  const paths = files.map(({ path }) => path);
  const strays = paths.filter((path) => /\.(?:test|types)\.|testing\/|\.map$|^src\//.test(path));
  must(strays.length === 0, `${name} would publish ${strays.join(', ')}`);
  must(unpackedSize < UNPACKED, `${name} would unpack to ${unpackedSize} bytes: at most ${UNPACKED}`);
  const programs = paths.filter((path) => /\.js$/.test(path) && !path.includes('board-page'));
  const source = programs
    .map((path) => readFileSync(join('packages', folderOf(name), path), 'utf8'))
    .join('\n');
  for (const [dependency, range] of Object.entries(manifest.dependencies ?? {})) {
    must(/^\^/.test(range), `${name} wants ${dependency} in the version ${range}: name a range`);
    must(
      source.includes(`'${dependency}`) || source.includes(`"${dependency}`),
      `${name} lists ${dependency}, and imports it nowhere`,
    );
  }
  const size = (unpackedSize / 1e6).toFixed(2);
  console.log(`${filename}: ${files.length} files, ${size} MB unpacked; publint and attw find nothing`);
};

const folderOf = (name) => name.replace('@gribo/', '');
for (const one of packed) checkPacked(one);

/** Two cores in one process would not know each other's models: `gribo` is the installer's, and its range is one. */
const others = packed.slice(1).map(({ manifest }) => manifest);
for (const { name, dependencies, peerDependencies } of others)
  must(
    !dependencies?.gribo && peerDependencies?.gribo,
    `${name} must have gribo as a peer, and as nothing else`,
  );
const ranges = new Set(others.map(({ peerDependencies }) => peerDependencies.gribo));
must(ranges.size === 1, `gribo is wanted in ${ranges.size} ranges: ${[...ranges]}`);

/** A project that has all that ours need already, in the oldest version that they take. */
const project = join(folder, 'project');
mkdirSync(project);
const wanted = Object.assign({}, ...packed.map(({ manifest }) => manifest.dependencies ?? {}), {
  kysely: '^0.28.0',
});
const own = Object.entries(wanted).filter(([name]) => !name.startsWith('@gribo/'));
const oldest = Object.fromEntries(own.map(([name, range]) => [name, range.replace('^', '')]));
writeFileSync(join(project, 'package.json'), JSON.stringify({ private: true, dependencies: oldest }));
const tarballs = packed.map(({ tarball }) => tarball);
run(
  'npm',
  ['install', '--no-audit', '--no-fund', '--silent', '--ignore-scripts', ...tarballs, 'drizzle-orm@0.45'],
  project,
);
for (const { name } of packed) {
  const nested = join(project, 'node_modules', name, 'node_modules');
  must(
    !existsSync(nested),
    `${name} brings a second ${existsSync(nested) ? readdirSync(nested) : ''} into a project that has one`,
  );
}

/** Whatever is imported of the core beside it is of the same copy. */
writeFileSync(
  join(project, 'one-copy.mjs'),
  `import * as gribo from 'gribo';
import * as kit from 'gribo/kit';
import { shorten } from 'gribo/conversions/shorten';
if (shorten !== gribo.shorten) throw new Error('gribo/conversions/shorten is of a second copy');
const shared = Object.keys(kit).filter((name) => name in gribo && kit[name] !== gribo[name]);
if (shared.length > 0) throw new Error('gribo/kit is of a second copy: ' + shared);
const db = gribo.model({ vessel: gribo.entity('vessel', { id: gribo.integer().key(), name: gribo.text() }) }, {});
const Card = gribo.shape(db.vessel, (v) => ({ id: v.id, name: shorten(v.name, 3) }));
if (gribo.writer(Card).json({ id: 1, name: 'Anselma' }) !== '{"id":1,"name":"An…"}') throw new Error('it is written otherwise');
`,
);
run('node', ['one-copy.mjs'], project);

/** A program with a misspelt column ends with a screen, not a wall: its message, and the line to mend. */
const DECLARED = `const db = model({ vessel: entity('vessel', { id: integer().key(), name: text() }) }, {});
shape(db.vessel, (v) => ({ id: v.id, name: v.nmae }));
`;
const NAMES = '{ entity, integer, model, shape, text }';
writeFileSync(join(project, 'wrong.mjs'), `import ${NAMES} from 'gribo';\n${DECLARED}`);
writeFileSync(join(project, 'wrong.cjs'), `const ${NAMES} = require('gribo');\n${DECLARED}`);
const nodes = [
  process.execPath,
  // Those that `npm run test:runtimes` has installed, where it has.
  ...[20, 22, 24, 26].map((version) => resolve(`runtimes/node_modules/node${version}/bin/node`)),
];
for (const node of nodes.filter((path) => existsSync(path)))
  for (const file of ['wrong.mjs', 'wrong.cjs']) {
    const { stderr } = spawnSync(node, [file], { cwd: project, encoding: 'utf8' });
    const [said = ''] = stderr.split('\n\nNode.js v');
    const last =
      /one thing is wrong\n {2}vessel\.nmae.*|one thing is wrong\n.*"nmae".*\n {4}at .*wrong\.[mc]js:\d+:\d+\)?$/;
    must(
      last.test(said.trimEnd()),
      `${node} ${file} does not end with its message and line:\n${stderr.slice(-SCREEN)}`,
    );
    must(stderr.length < SCREEN, `${node} ${file} prints ${stderr.length} characters`);
    console.log(
      `a misspelt column in ${file}: ${stderr.length} characters on ${stderr.trim().split('\n').at(-1)}`,
    );
  }
rmSync(folder, { recursive: true });

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
