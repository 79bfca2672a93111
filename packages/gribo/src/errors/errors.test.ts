import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';

const ROOT = fileURLToPath(new URL('../../../..', import.meta.url));

const sourcesOf = (folder: string): string[] =>
  readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('.ts') && !/\.test\.ts$|testing\//.test(file))
    .map((file) => join(folder, file));

const LIBRARY = [
  'packages/gribo/src',
  'packages/http/src',
  'packages/sql/src',
  'packages/drizzle/src',
].flatMap(sourcesOf);

/** Errors that are caught where they are thrown: they never reach whoever calls the library. */
const INNER = [
  'Unmakeable',
  'Misfit',
  'Halt',
  'Enough',
  'ParseFailure',
  'NoSuchRow',
  'NotUnderstood',
  'Undone',
  'TakenBack',
];

describe('the errors of the library', () => {
  it('have a code, all of them', () => {
    const bare = LIBRARY.filter((file) =>
      /throw new (?:Type|Range)?Error\(/.test(readFileSync(join(ROOT, file), 'utf8')),
    );
    expect(bare).to.deep.equal([]);
    const plain = LIBRARY.flatMap((file) =>
      [...readFileSync(join(ROOT, file), 'utf8').matchAll(/class (\w+) extends Error\b/g)].map(
        ([, name]) => name,
      ),
    ).filter((name) => name !== 'GriboError' && name !== 'ApiProblem');
    expect(plain.sort()).to.deep.equal([...INNER].sort());
  });

  it('stand in docs/errors.md, each code with what it means', () => {
    const codes = [
      ...readFileSync(join(ROOT, 'packages/gribo/src/errors/gribo-error.ts'), 'utf8').matchAll(
        /^ {2}\| '(\w+)'/gm,
      ),
    ].map(([, code]) => code);
    const page = readFileSync(join(ROOT, 'docs/errors.md'), 'utf8');
    expect(codes.length).to.be.above(10);
    expect(codes.filter((code) => !page.includes(`| \`${code}\``))).to.deep.equal([]);
  });
});
