import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';

const SOURCE = dirname(fileURLToPath(import.meta.url));

const filesIn = (folder: string): string[] =>
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .map((file) => join(folder, file))
    .filter(
      (file) => file.endsWith('.ts') && !/\.(test|types)\.ts$/.test(file) && !file.includes('/testing/'),
    );

/** The room of a file: the first folder of its path, or `top` for the files that join the rooms. */
const roomOf = (file: string): string => {
  const path = relative(SOURCE, file).split('/');
  return path.length === 1 ? 'top' : (path[0] ?? 'top');
};

const importsOf = (file: string): string[] =>
  [...readFileSync(file, 'utf8').matchAll(/(?:import|export)[^;']*?from '([^']+)'/g)].map(
    ([, from]) => from ?? '',
  );

/** Which rooms may look into which others. Emitters never look into each other. */
const MAY_IMPORT: Readonly<Record<string, readonly string[]>> = {
  util: [],
  errors: ['util'],
  plan: ['util'],
  declare: ['plan', 'errors', 'util'],
  write: ['plan', 'errors', 'util'],
  load: ['plan', 'util'],
  read: ['plan', 'util'],
  store: ['load', 'plan', 'errors', 'util'],
  describe: ['plan', 'util'],
  review: ['plan', 'util'],
  sample: ['plan', 'errors', 'util'],
  top: [
    'declare',
    'plan',
    'write',
    'load',
    'read',
    'store',
    'describe',
    'review',
    'sample',
    'errors',
    'util',
  ],
};

describe('the layout of the core', () => {
  const files = filesIn(SOURCE);

  it('has no room that nobody described', () => {
    expect([...new Set(files.map(roomOf))].sort()).to.deep.equal(Object.keys(MAY_IMPORT).sort());
    expect(files.length).to.be.above(60);
  });

  it('imports no package', () => {
    const foreign = files.flatMap((file) => importsOf(file).filter((from) => !from.startsWith('.')));
    expect(foreign).to.deep.equal([]);
  });

  it('goes one way: declare → plan → emitters', () => {
    const wrong = files.flatMap((file) => {
      const room = roomOf(file);
      const targets = importsOf(file).map((from) => roomOf(resolve(dirname(file), from)));
      return targets
        .filter((target) => target !== room && !MAY_IMPORT[room]?.includes(target))
        .map((target) => `${relative(SOURCE, file)} → ${target}`);
    });
    expect(wrong).to.deep.equal([]);
  });
});
