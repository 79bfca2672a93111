// The packages as they are published: what programs load and what types are, and nothing that only this repository uses.
import { execFileSync } from 'node:child_process';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { transformSync } from 'esbuild';

/** In the order of who needs whom. */
export const PACKAGES = ['gribo', 'http', 'sql', 'drizzle', 'testing', 'cli'];

/** The condition that leads to the sources, which are not published. */
const withoutSources = (exports) =>
  typeof exports === 'string'
    ? exports
    : Object.fromEntries(
        Object.entries(exports)
          .filter(([name]) => name !== '@gribo/source')
          .map(([name, value]) => [name, withoutSources(value)]),
      );

/** Comments stand in the declarations, where editors look for them: programs have none. */
const withoutComments = (folder) => {
  for (const file of readdirSync(folder, { recursive: true })) {
    if (!file.endsWith('.js') || file.startsWith('board-page')) continue;
    const path = join(folder, file);
    const { code } = transformSync(readFileSync(path, 'utf8'), {
      loader: 'js',
      target: 'es2023',
      charset: 'utf8',
    });
    writeFileSync(path, code);
  }
};

/**
 * Packs a package into a folder.
 *
 * @param name its folder's name, such as `http`
 * @returns the path of the tarball, and what npm tells of it
 */
export const pack = (name, into) => {
  const from = join('packages', name);
  const staged = mkdtempSync(join(tmpdir(), 'gribo-staged-'));
  const manifest = JSON.parse(readFileSync(join(from, 'package.json'), 'utf8'));
  for (const part of manifest.files.filter((file) => !file.startsWith('!')))
    cpSync(join(from, part), join(staged, part), { recursive: true });
  const { devDependencies: _ours, ...published } = manifest;
  published.exports = withoutSources(manifest.exports);
  writeFileSync(join(staged, 'package.json'), `${JSON.stringify(published, null, 2)}\n`);
  withoutComments(join(staged, 'dist'));
  const args = ['pack', '--json', '--silent', '--pack-destination', into];
  const said = execFileSync('npm', args, {
    cwd: staged,
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  rmSync(staged, { recursive: true });
  const [packed] = JSON.parse(said);
  return { ...packed, tarball: join(into, packed.filename), manifest: published };
};
