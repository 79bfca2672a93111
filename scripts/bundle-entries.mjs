// Puts the modules of each package together for Node, which opens one file faster than two hundred. Bundlers of others
// take the modules as they are, and leave out what is not used.
import { existsSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';
import { PACKAGES } from './packages.mjs';

/** Whether something was compiled after the bundle was made. */
const isStale = (folder) => {
  const compiled = join(folder, 'tsconfig.tsbuildinfo');
  const made = join(folder, 'lib/index.js');
  return !existsSync(made) || statSync(compiled).mtimeMs > statSync(made).mtimeMs;
};

/** The modules behind an export: one, or all of a folder where it has a star. */
const modulesOf = (folder, path) => {
  if (!path.includes('*')) return [path];
  const [start, end] = path.split('*');
  const there = readdirSync(join(folder, start), { withFileTypes: true });
  return there.filter((file) => file.isFile() && file.name.endsWith(end)).map(({ name }) => start + name);
};

/** The modules that the package's entries for Node are made of, by their names there. */
const entriesOf = (folder) => {
  const { exports } = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'));
  const entries = Object.values(exports).filter((entry) => entry.node !== undefined);
  return Object.fromEntries(
    entries.flatMap(({ node, default: other }) =>
      modulesOf(folder, other).map((module) => {
        const [start] = other.split('*');
        const name = other.includes('*')
          ? node.replace('*', module.slice(start.length, -'.js'.length))
          : node;
        return [name.replace(/^\.\/lib\/|\.js$/g, ''), join(folder, module)];
      }),
    ),
  );
};

for (const name of PACKAGES) {
  const folder = join('packages', name);
  if (!isStale(folder)) continue;
  const outdir = join(folder, 'lib');
  rmSync(outdir, { recursive: true, force: true });
  await build({
    entryPoints: entriesOf(folder),
    outdir,
    bundle: true,
    splitting: true,
    format: 'esm',
    platform: 'node',
    target: 'node20',
    packages: 'external',
    charset: 'utf8',
    // A line is one line: where a program ends in one, that is what is printed.
    minify: false,
    legalComments: 'none',
    chunkNames: 'parts/[name]-[hash]',
    logLevel: 'warning',
  });
}
