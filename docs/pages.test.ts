import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join, normalize, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { makeProgram } from '../packages/cli/src/program/program.js';
import { terminal } from '../packages/cli/src/screen/screen.js';
import { VERSIONS } from '../types/src/workshop.js';

const ROOT = fileURLToPath(new URL('..', import.meta.url));
const DOCS = join(ROOT, 'docs');
const read = (path: string): string => readFileSync(join(ROOT, path), 'utf8');

const pages = readdirSync(DOCS).filter((file) => file.endsWith('.md'));
const others = [
  'README.md',
  'CONTRIBUTING.md',
  'SECURITY.md',
  'CHANGELOG.md',
  ...readdirSync(join(ROOT, 'packages')).map((name) => `packages/${name}/README.md`),
  ...readdirSync(join(ROOT, 'examples')).map((name) => `examples/${name}/README.md`),
].filter((path) => existsSync(join(ROOT, path)));

/** What a heading is called in links: small letters, hyphens for spaces, no other signs. */
const anchorOf = (heading: string): string =>
  heading
    .replaceAll(/\[(.+?)\]\(.+?\)/g, '$1')
    .toLowerCase()
    .replaceAll(/[^\p{Letter}\p{Number}\s_-]/gu, '')
    .trim()
    .replaceAll(/\s+/g, '-');

const withoutCode = (text: string): string =>
  text.replaceAll(/^```.*?^```/gms, '').replaceAll(/`[^`\n]*`/g, '');

const anchorsOf = (path: string): readonly string[] =>
  [
    ...read(path)
      .replaceAll(/^```.*?^```/gms, '')
      .matchAll(/^#{1,6} (.+)$/gm),
  ].map(([, heading = '']) => anchorOf(heading));

/** The links of a page that lead to no file, or to no heading of one. */
const brokenIn = (path: string): readonly string[] =>
  [...withoutCode(read(path)).matchAll(/\]\(([^)\s]+)\)/g)]
    .map(([, target = '']) => target)
    .filter((target) => !/^(https?:|mailto:)/.test(target))
    .filter((target) => {
      const [file = '', anchor] = target.split('#');
      // Pages of the reference are made with the site, which looks at these links itself.
      if (file.startsWith('reference/')) return false;
      const at = file === '' ? path : relative(ROOT, normalize(join(ROOT, dirname(path), file)));
      if (!existsSync(join(ROOT, at))) return true;
      return anchor !== undefined && !anchorsOf(at).includes(anchor);
    });

describe('the pages of the documentation', () => {
  it('stand in the contents, each once', () => {
    const named = [...read('docs/index.md').matchAll(/^- \[.+?\]\(([\w-]+\.md)\)/gm)].map(([, file]) => file);
    expect([...named].sort()).to.deep.equal(pages.filter((page) => page !== 'index.md').sort());
  });

  for (const path of [...pages.map((page) => `docs/${page}`), ...others]) {
    it(`${path}: its links lead somewhere`, () => {
      expect(brokenIn(path)).to.deep.equal([]);
    });
  }

  it('of examples are there, and name files and scripts of theirs', () => {
    const wrong: string[] = [];
    for (const name of readdirSync(join(ROOT, 'examples'))) {
      const folder = `examples/${name}`;
      const page = read(`${folder}/README.md`);
      const { scripts } = JSON.parse(read(`${folder}/package.json`)) as { scripts: Record<string, string> };
      for (const [, path = ''] of page.matchAll(
        /`((?:src|generated|contracts|recorded)\/[^`]*|[\w.-]+\.ts)`/g,
      ))
        if (!existsSync(join(ROOT, folder, path))) wrong.push(`${folder}: ${path}`);
      for (const [, script = ''] of page.matchAll(/^npm (?:run )?(\w+)/gm))
        if (scripts[script] === undefined) wrong.push(`${folder}: npm run ${script}`);
    }
    expect(wrong).to.deep.equal([]);
  });

  it('name commands and options that there are', () => {
    const program = makeProgram(terminal());
    const known = new Map(
      program.commands.map((command) => [
        command.name(),
        [...command.options, ...program.options].map(({ long }) => long),
      ]),
    );
    // `complete` is added for those who ask for it.
    known.set('complete', []);
    const wrong: string[] = [];
    for (const path of [...pages.map((page) => `docs/${page}`), ...others]) {
      const code = [...read(path).matchAll(/```sh\n.*?```|`[^`\n]+`/gs)]
        .map(([text]) => text.replaceAll(/ #.*$/gm, ''))
        .join('\n');
      for (const [line, name = '', rest = ''] of code.matchAll(/\bgribo ([a-z]+)([^\n`#|]*)/g)) {
        const options = known.get(name);
        const strange = [...rest.matchAll(/--[a-z-]+/g)].filter(([option]) => !options?.includes(option));
        if (options === undefined || strange.length > 0) wrong.push(`${path}: ${line.trim()}`);
      }
    }
    expect(wrong).to.deep.equal([]);
  });

  it('name the versions that are tested', () => {
    const page = read('docs/support.md');
    const row = (name: string): string =>
      page.split('\n').find((line) => line.startsWith(`| ${name} |`)) ?? '';
    const runtimes: Record<string, string> = JSON.parse(read('runtimes/package.json')).dependencies;
    const nodes = Object.keys(runtimes)
      .filter((name) => /^node\d+$/.test(name))
      .map((name) => name.slice(4));
    expect(row('Node.js')).to.include(`| ${nodes.join(', ')} |`);
    const major = (range = ''): string => /\d+/.exec(range)?.[0] ?? '';
    for (const [name, dependency] of [
      ['Deno', 'deno'],
      ['Bun', 'bun'],
      ['workerd', 'workerd'],
    ] as const)
      expect(row(name)).to.include(`| ${major(runtimes[dependency])} |`);
    expect(row('TypeScript')).to.include(`| ${VERSIONS.join(', ')} |`);
    const dev: Record<string, string> = JSON.parse(read('package.json')).devDependencies;
    const foreign: Record<string, string> = JSON.parse(read('foreign/package.json')).dependencies;
    expect(row('runners of tests')).to.include(
      `Mocha ${major(dev['mocha'])}, node:test, Vitest ${major(foreign['vitest'])}, Jest ${major(foreign['jest'])}`,
    );
    const drizzle: Record<string, string> = JSON.parse(read('packages/drizzle/package.json')).devDependencies;
    expect(row('Drizzle')).to.include(`| ${drizzle['drizzle-orm']?.replace(/\.\d+$/, '')} |`);
    expect(read('.ci/run')).to.include(`better-sqlite3@${/`better-sqlite3` (\d+)/.exec(page)?.[1]}.`);
  });
});
