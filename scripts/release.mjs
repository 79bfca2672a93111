// Checks the packages as they would be published, and publishes them: npm run release -- --dry-run stops before that.
import { execFileSync } from 'node:child_process';
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
import { join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { transformSync } from 'esbuild';
import { PACKAGES, pack } from './packages.mjs';

const ROOT = fileURLToPath(new URL('..', import.meta.url));
/** Licences that ask for nothing but to be named. */
const LICENCES = new Set([
  'MIT',
  'ISC',
  'BSD-2-Clause',
  'BSD-3-Clause',
  'Apache-2.0',
  '0BSD',
  'BlueOak-1.0.0',
  'CC0-1.0',
  'Python-2.0',
  'PSF-2.0',
  'Unlicense',
]);

const isDry = process.argv.includes('--dry-run');
const folder = mkdtempSync(join(tmpdir(), 'gribo-release-'));

const run = (command, args, cwd = ROOT, env = {}) =>
  execFileSync(command, args, {
    cwd,
    encoding: 'utf8',
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
    maxBuffer: 1 << 26,
  });
const show = (command, args) => execFileSync(command, args, { cwd: ROOT, stdio: 'inherit' });
const read = (path) => JSON.parse(readFileSync(path, 'utf8'));
const head = (text) => console.log(`\n== ${text}`);

/** What is not so ends it: nothing is published that was only nearly right. */
const must = (is, sentence) => {
  if (!is) throw new Error(sentence);
};

/** What the notes in .changeset ask of the next versions. */
const versions = () => {
  head('versions');
  const noted = readdirSync(join(ROOT, '.changeset')).filter(
    (file) => file.endsWith('.md') && file !== 'README.md',
  );
  if (noted.length === 0) return console.log('  as they stand in package.json: nothing waits in .changeset');
  const file = join(folder, 'plan.json');
  run(join(ROOT, 'release/node_modules/.bin/changeset'), ['status', '--output', relative(ROOT, file)]);
  for (const { name, oldVersion, newVersion, type } of read(file).releases)
    if (type !== 'none') console.log(`  ${name.padEnd(16)} ${oldVersion} -> ${newVersion}  (${type})`);
  must(isDry, 'raise the versions first: release/node_modules/.bin/changeset version');
};

const packAll = () => {
  head('packages');
  return PACKAGES.map((name) => {
    const packed = pack(name, folder);
    const files = packed.files.map(({ path }) => path);
    for (const needed of ['README.md', 'LICENSE', 'dist/index.d.ts', 'lib/index.js'])
      must(files.includes(needed), `${packed.name} would be published without ${needed}`);
    const kilobytes = (bytes) => `${(bytes / 1000).toFixed(0)} kB`.padStart(8);
    console.log(
      `  ${packed.name.padEnd(16)} ${packed.version}  ${kilobytes(packed.size)} packed ${kilobytes(packed.unpackedSize)} unpacked, ${files.length} files`,
    );
    return packed.tarball;
  });
};

/** The packages, installed from what was packed, into a folder that has nothing. */
const installed = (tarballs) => {
  head('installed into an empty folder');
  const project = join(folder, 'project');
  mkdirSync(project);
  writeFileSync(join(project, 'package.json'), '{ "private": true, "type": "module" }');
  run('npm', ['install', '--no-audit', '--no-fund', ...tarballs, 'drizzle-orm@0.45', 'kysely@0.28'], project);
  console.log(`  ${readdirSync(join(project, 'node_modules')).length} folders of packages`);
  return project;
};

const licences = (project) => {
  head('licences of what comes along');
  const counts = new Map();
  const look = (modules) => {
    for (const name of readdirSync(modules)) {
      const at = join(modules, name);
      if (name.startsWith('.')) continue;
      if (name.startsWith('@')) {
        look(at);
        continue;
      }
      if (!existsSync(join(at, 'package.json'))) continue;
      const { license = 'none', name: called } = read(join(at, 'package.json'));
      const said = typeof license === 'string' ? license : license.type;
      const any = said.replace(/^\(|\)$/g, '').split(' OR ');
      must(
        any.some((one) => LICENCES.has(one)),
        `${called} has the licence ${said}: look at it, and put it on the list`,
      );
      counts.set(said, (counts.get(said) ?? 0) + 1);
      if (existsSync(join(at, 'node_modules'))) look(join(at, 'node_modules'));
    }
  };
  look(join(project, 'node_modules'));
  console.log(`  ${[...counts].map(([name, count]) => `${count} ${name}`).join(', ')}`);
};

/** The README's program, and what the start page says, on what was packed. */
const tried = (project) => {
  head('tried');
  const blocks = [...readFileSync(join(ROOT, 'README.md'), 'utf8').matchAll(/```ts\n(.*?)```/gs)]
    .map(([, code]) => code)
    .join('\n');
  const asked = blocks.replace(
    /^(?!\/\/)(.+?); \/\/ => (.+)$/gm,
    (_line, expression, wanted) => `told.push([${expression}, ${JSON.stringify(wanted)}]);`,
  );
  const compared = `for (const [is, wanted] of told) {
    const text = typeof is === 'string' ? is.replaceAll('\\n', '\\\\n') : JSON.stringify(is);
    if (text !== wanted) throw new Error(text + ' is not ' + wanted);
  }`;
  const program = `const told = [];\n${asked}\n${compared}`;
  const { code } = transformSync(program, { loader: 'ts', format: 'esm', target: 'node20' });
  writeFileSync(join(project, 'readme.mjs'), code);
  run('node', ['readme.mjs'], project);
  console.log("  the README's program runs");
  for (const command of [
    ['init', '--from', 'nothing'],
    ['here'],
    ['table', 'note'],
    ['build'],
    ['check', '--no-drift'],
  ]) {
    const out = run('npx', ['gribo', ...command], project, { NO_COLOR: '1' });
    must(out.trim() !== '', `gribo ${command.join(' ')} said nothing`);
    console.log(`  gribo ${command.join(' ')}: ${out.trim().split('\n')[0]}`);
  }
};

const publish = (tarballs) => {
  head(isDry ? 'what would be published' : 'published');
  for (const tarball of tarballs) {
    const args = [
      'publish',
      tarball,
      '--access',
      'public',
      ...(isDry ? ['--dry-run', '--provenance=false'] : ['--provenance']),
    ];
    const out = run('npm', [...args, '--json'], ROOT);
    const said = JSON.parse(out);
    // One package is told by itself, or under its name, as the version of npm has it.
    const { id, integrity } = said.id === undefined ? Object.values(said)[0] : said;
    console.log(`  ${id}  ${integrity.slice(0, 24)}…`);
  }
};

try {
  const dirty = run('git', ['status', '--porcelain']).trim();
  if (dirty !== '') {
    must(isDry, `commit first:\n${dirty}`);
    console.log('There are changes that are not committed: a release would stop here.');
  }
  show('npm', ['run', '--silent', 'build']);
  show('npm', ['run', '--silent', 'check:packages']);
  versions();
  const tarballs = packAll();
  const project = installed(tarballs);
  licences(project);
  tried(project);
  publish(tarballs);
  if (isDry) console.log('\nNothing was published.');
} finally {
  rmSync(folder, { recursive: true, force: true });
}
