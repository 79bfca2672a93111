// The pages as a site wants them: those of docs/, every public name from its docstring, and the files that pages link to.
import { execFileSync } from 'node:child_process';
import { cpSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const ROOT = fileURLToPath(new URL('..', import.meta.url));
const PAGES = `${ROOT}site/pages`;
const EXAMPLES = readdirSync(`${ROOT}examples`);

/** The problem of the workbench that a page ends with: something to try at once. */
const TRIED = {
  'start.md': 'card-and-detail',
  'shapes.md': 'computed',
  'hiding.md': 'for-some',
  'short-and-long.md': 'short-and-long',
  'entities.md': 'own-model',
  'recipes.md': 'totals',
  'rows.md': 'own-rows',
};

const workbench = (page) => {
  const problem = TRIED[page];
  if (problem === undefined) return '';
  return `\n## Try this\n\nChange it: the response follows. [On a page of its own](/workbench/index.html#problem=${problem}){target="_self"}\n\n<iframe class="workbench" src="/workbench/index.html#problem=${problem}" title="The workbench, with an edit to try" loading="lazy"></iframe>\n`;
};

const read = (path) => readFileSync(`${ROOT}${path}`, 'utf8');
const write = (path, text) => writeFileSync(`${PAGES}/${path}`, text);

/** Links to files outside of docs/ lead to the pages that are made of those files. */
const linked = (text) =>
  text
    .replaceAll(/\]\(examples\/(\w+)\.ts\)/g, '](files/$1.md)')
    .replaceAll(/\]\(\.\.\/examples\/(\w+)\/README\.md\)/g, '](files/$1.md)')
    .replaceAll(/\]\(\.\.\/packages\/cli\/schemas\/(\w+)\.json\)/g, '](files/schema-$1.md)')
    .replaceAll('](../CHANGELOG.md)', '](files/changelog.md)');

rmSync(PAGES, { recursive: true, force: true });
mkdirSync(`${PAGES}/files`, { recursive: true });
execFileSync('npx', ['typedoc', '--logLevel', 'Warn'], { cwd: `${ROOT}site`, stdio: 'inherit' });

for (const file of readdirSync(`${ROOT}docs`)) {
  if (file.endsWith('.md')) write(file, linked(read(`docs/${file}`)) + workbench(file));
  if (file.endsWith('.svg')) write(file, read(`docs/${file}`));
}
cpSync(`${ROOT}docs/screenshots`, `${PAGES}/screenshots`, { recursive: true });

for (const file of readdirSync(`${ROOT}docs/examples`)) {
  const title = `# ${file}\n\nWhat several pages use.\n`;
  write(
    `files/${file.replace(/\.ts$/, '.md')}`,
    `${title}\n\`\`\`ts\n${read(`docs/examples/${file}`)}\`\`\`\n`,
  );
}
for (const name of EXAMPLES)
  write(`files/${name}.md`, read(`examples/${name}/README.md`).replaceAll('](../../docs/', '](../'));
write('files/changelog.md', read('CHANGELOG.md'));
for (const file of readdirSync(`${ROOT}packages/cli/schemas`)) {
  const name = file.replace(/\.json$/, '');
  const text = read(`packages/cli/schemas/${file}`);
  const { description } = JSON.parse(text);
  write(`files/schema-${name}.md`, `# ${file}\n\n${description}\n\n\`\`\`json\n${text}\`\`\`\n`);
}

mkdirSync(`${PAGES}/public`);
write('public/icon.svg', read('site/icon.svg'));
