import { spawnSync } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';

const ROOT = fileURLToPath(new URL('..', import.meta.url));

/** A block of the page: where it belongs, and what it says. */
interface Block {
  readonly file: string;
  /** `file`: the whole of it; else where in the file it goes. */
  readonly part: 'file' | 'row' | 'line' | 'import';
  readonly text: string;
}

const blocksOf = (section: string): readonly Block[] => {
  const page = readFileSync(join(ROOT, 'CONTRIBUTING.md'), 'utf8');
  const [, text = ''] = page.split(`### ${section}\n`);
  const [own = ''] = text.split('\n### ');
  return [...own.matchAll(/```\w+\n\/\/ (\S+)(?: \((?:a|an) (\w+)\))?\n(.*?)```/gs)].map(
    ([, file = '', part = 'file', block = '']) => ({ file, part: part as Block['part'], text: block }),
  );
};

/** A copy of what the recipes touch, where the repository's packages are found. */
const copy = (): string => {
  const folder = mkdtempSync(join(ROOT, '.copy-'));
  for (const part of ['packages/gribo', 'docs']) {
    cpSync(join(ROOT, part), join(folder, part), {
      recursive: true,
      filter: (path) => !/\/(?:node_modules|dist|screenshots)(?:\/|$)/.test(path.slice(ROOT.length)),
    });
  }
  return folder;
};

/** Does what a block says. */
const follow = (folder: string, { file, part, text }: Block): void => {
  const path = join(folder, file);
  if (part === 'file') return writeFileSync(path, text);
  const before = readFileSync(path, 'utf8');
  if (part === 'import') return writeFileSync(path, text + before);
  if (part === 'line') return writeFileSync(path, before.replace(/\n\| `/, `\n${text}| \``));
  // Rows of a list stand before its end, exports at the end of the file.
  const end = before.lastIndexOf(']);');
  writeFileSync(path, end === -1 ? before + text : before.slice(0, end) + text + before.slice(end));
};

const mocha = (folder: string, specs: readonly string[]): { readonly code: number; readonly out: string } => {
  const flags = [
    '--no-config',
    '--node-option',
    'import=tsx/esm',
    '--node-option',
    'conditions=@gribo/source',
  ];
  const { status, stdout, stderr } = spawnSync(
    join(ROOT, 'node_modules/.bin/mocha'),
    [...flags, '--timeout', '900000', '--reporter', 'dot', ...specs.map((spec) => join(folder, spec))],
    { cwd: folder, encoding: 'utf8', env: { ...process.env, FORCE_COLOR: '0' } },
  );
  return { code: status ?? -1, out: stdout + stderr };
};

/** What a script prints that runs in the copy. */
const printed = (folder: string, script: string): string => {
  const file = join(folder, 'packages/gribo/src/script.ts');
  writeFileSync(file, script);
  const { stdout, stderr } = spawnSync(process.execPath, ['--import', 'tsx/esm', file], {
    cwd: ROOT,
    encoding: 'utf8',
    env: { ...process.env, FORCE_COLOR: '0' },
  });
  rmSync(file);
  expect(stderr).to.equal('');
  return stdout.trim();
};

const GRIBO = 'packages/gribo/src';
const LAWS = [
  `${GRIBO}/declare/conversions/law.test.ts`,
  `${GRIBO}/write/law.test.ts`,
  `${GRIBO}/describe/law.test.ts`,
];

describe('the recipes of CONTRIBUTING', () => {
  let folder = '';
  before(() => {
    folder = copy();
  });
  after(() => rmSync(folder, { recursive: true, force: true }));

  it('add a conversion by one file, one row and a line: the laws cover it', () => {
    const blocks = blocksOf('A conversion');
    expect(blocks.map(({ part }) => part)).to.deep.equal(['file', 'row', 'line']);
    for (const block of blocks) follow(folder, block);
    const shown = printed(
      folder,
      `import * as gribo from './index.js';
      const db = gribo.model({ one: gribo.entity('one', { id: gribo.integer().key(), name: gribo.text() }) }, {});
      const S = gribo.shape(db.one, (o) => ({ name: gribo.starred(o.name, 2) }));
      console.log(gribo.writer(S).json({ name: 'A' }), gribo.serializerSource(S).includes('gribo/conversions/starred'));`,
    );
    expect(shown).to.equal('{"name":"**A"} true');
    expect(readFileSync(join(folder, 'docs/shapes.md'), 'utf8')).to.match(/\bstarred\b/);
    const { code, out } = mocha(folder, LAWS);
    expect(code, out).to.equal(0);
  });

  it('are held by laws: a wrong source for stand-alone serializers fails, and so does a wrong value', () => {
    const path = join(folder, GRIBO, 'declare/conversions/starred.ts');
    const right = readFileSync(path, 'utf8');
    const wrongs = [
      // What the file exports is not what the rule does.
      right
        .replace('export const apply =', 'export const apply = (text: string): string => text;\nconst own =')
        .replace('  apply,\n', '  apply: own,\n'),
      // What it yields is not what it says that it yields.
      right.replace('yields: () => anyText', "yields: () => ({ kind: 'bool' })"),
    ];
    for (const wrong of wrongs) {
      expect(wrong).not.to.equal(right);
      writeFileSync(path, wrong);
      expect(mocha(folder, LAWS.slice(0, 1)).code, wrong).to.be.above(0);
    }
    writeFileSync(path, right);
  });

  it('add a finding by one file, one row and a line: reviews, and what shows their rules, know it', () => {
    const blocks = blocksOf('A finding');
    expect(blocks.map(({ part }) => part)).to.deep.equal(['file', 'import', 'row', 'line']);
    for (const block of blocks) follow(folder, block);
    const shown = printed(
      folder,
      `import { api, endpoint, entity, integer, model, review, shape } from './index.js';
      import { reviewRules } from './kit.js';
      const db = model({ one: entity('one', { id: integer().key() }) }, {});
      const One = shape(db.one, ({ id }) => ({ id }));
      const long = 'aNameThatNobodyWouldWantToWriteAgain';
      const made = api({ title: 'A', version: '1.0.0', endpoints: { [long]: endpoint('GET /one/{id}', { from: db.one, returns: One }) } });
      console.log(review(made).findings.map(({ code, place }) => code + ' ' + place).join(), reviewRules().some(({ code }) => code === 'long-name'));`,
    );
    expect(shown).to.equal('long-name aNameThatNobodyWouldWantToWriteAgain true');
    const { code, out } = mocha(folder, [`${GRIBO}/review/review.test.ts`, `${GRIBO}/layout.test.ts`]);
    expect(code, out).to.equal(0);
  });
});
