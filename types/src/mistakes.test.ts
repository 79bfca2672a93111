import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { expect } from 'chai';
import { expectGolden } from './golden.js';
import { HEAD, MISTAKES } from './mistakes.js';
import { compile, copyHarbour, emptyFolder, installPacked } from './workshop.js';

/** What came of a mistake: who refused it, and in which words. */
interface Outcome {
  readonly title: string;
  readonly code: string;
  readonly by: 'TypeScript' | 'the run time' | 'nobody';
  /** The first line of what was said, and the last. */
  readonly first: string;
  readonly last: string;
}

/** What the compiler says of each file, by the file's name: whole messages. */
const saidOf = (said: string): ReadonlyMap<string, readonly string[]> => {
  const messages = new Map<string, string[]>();
  for (const message of said.split(/\n(?=\S)/)) {
    const [, file = '', text = ''] = /^(\w+\.ts)\(\d+,\d+\): error TS\d+: (.*)$/s.exec(message) ?? [];
    messages.set(file, [...(messages.get(file) ?? []), text]);
  }
  return messages;
};

const linesOf = (text: string): { readonly first: string; readonly last: string } => {
  const lines = text
    .trim()
    .split('\n')
    .map((line) => line.trim());
  return { first: lines[0] ?? '', last: lines.at(-1) ?? '' };
};

/** What a program throws when it runs; null where it says nothing. */
const thrownBy = async (file: string): Promise<string | null> => {
  try {
    await import(pathToFileURL(file).href);
    return null;
  } catch (error) {
    return (error as Error).message;
  }
};

describe('mistakes', () => {
  const outcomes: Outcome[] = [];
  let sections: readonly (readonly [section: string, outcomes: readonly Outcome[]])[] = [];

  before(async () => {
    installPacked();
    const folder = emptyFolder('mistakes');
    const declared = copyHarbour(folder);
    const all = Object.values(MISTAKES).flat();
    const files = all.map((_, i) => `m${i}.ts`);
    for (const [i, [, code]] of all.entries()) writeFileSync(join(folder, `m${i}.ts`), `${HEAD}${code}\n`);
    const said = saidOf(compile(folder, [...declared, ...files]).said);
    for (const [i, [title, code]] of all.entries()) {
      const [message] = said.get(`m${i}.ts`) ?? [];
      const thrown = message === undefined ? await thrownBy(join(folder, `m${i}.ts`)) : null;
      const text = message ?? thrown;
      const by = message !== undefined ? 'TypeScript' : thrown !== null ? 'the run time' : 'nobody';
      outcomes.push({ title, code, by, ...linesOf(text ?? '') });
    }
    // What is said of anything else would hide what is said of the mistakes.
    expect([...said.keys()].filter((file) => !files.includes(file))).to.deep.equal([]);
    sections = Object.entries(MISTAKES).map(([section, some]) => {
      const titles = some.map(([title]) => title);
      return [section, outcomes.filter(({ title }) => titles.includes(title))];
    });
  });

  it('are all told, most of them by TypeScript', () => {
    const count = (who: Outcome['by']): number => outcomes.filter(({ by }) => by === who).length;
    console.log(
      `      ${outcomes.length} mistakes: ${count('TypeScript')} refused by TypeScript, ${count('the run time')} when they run, ${count('nobody')} silent`,
    );
    expect(outcomes.filter(({ by }) => by === 'nobody').map(({ title }) => title)).to.deep.equal([]);
    expect(outcomes.length).to.be.above(100);
    expect(count('TypeScript')).to.be.above(90);
  });

  it('are told in the words of the golden file', () => {
    const lines = sections.flatMap(([section, some]) => [
      `## ${section}`,
      '',
      ...some.flatMap(({ title, code, by, first, last }) => [
        `### ${title}`,
        '',
        '```ts',
        code,
        '```',
        '',
        `Refused by ${by}:`,
        '',
        `> ${first}`,
        ...(last === first ? [] : ['>', `> … ${last}`]),
        '',
      ]),
    ]);
    expectGolden('mistakes.md', ['# Mistakes, and what is said of them', '', ...lines].join('\n'));
  });
});
