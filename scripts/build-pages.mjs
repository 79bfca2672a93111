// Builds the pages and servers that Vite builds, each where something that it is made of changed.
import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';

/** What is built, by what it is made of besides its own folder, and what shows that it was. */
const PAGES = [
  {
    folder: 'packages/board',
    from: ['packages/gribo/src', 'packages/cli/src'],
    made: 'packages/cli/dist/board-page/index.html',
  },
  {
    folder: 'examples/harbour',
    from: ['packages/gribo/src', 'packages/http/src', 'packages/sql/src'],
    made: 'examples/harbour/build/server.js',
  },
  {
    folder: 'examples/quayside',
    from: ['packages/gribo/src', 'packages/http/src', 'examples/harbour/src', 'examples/harbour/generated'],
    made: 'examples/quayside/build/server.js',
  },
  {
    folder: 'examples/ledger',
    from: [],
    made: 'examples/ledger/build/main.js',
  },
  {
    folder: 'examples/workbench',
    from: ['packages/gribo/src', 'examples/harbour/src'],
    made: 'examples/workbench/dist/index.html',
  },
];

const LEFT_OUT = new Set(['node_modules', 'dist', 'build', '.cache', 'generated']);

/** When something in a folder was last changed. */
const lastChange = (folder) =>
  readdirSync(folder, { withFileTypes: true }).reduce((last, entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory())
      return LEFT_OUT.has(entry.name) && folder.split('/').length < 3
        ? last
        : Math.max(last, lastChange(path));
    return entry.name.endsWith('.tsbuildinfo') ? last : Math.max(last, statSync(path).mtimeMs);
  }, 0);

for (const { folder, from, made } of PAGES) {
  const changed = Math.max(...[folder, ...from].map(lastChange));
  if (existsSync(made) && statSync(made).mtimeMs > changed) continue;
  try {
    execFileSync('npm', ['run', '--silent', 'build', '-w', folder], {
      stdio: ['ignore', 'pipe', 'pipe'],
      encoding: 'utf8',
    });
  } catch (error) {
    console.error(`${folder} could not be built.\n${error.stdout}${error.stderr}`);
    process.exit(1);
  }
}
