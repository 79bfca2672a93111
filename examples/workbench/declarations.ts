import { existsSync, readFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { getLibFiles } from '@ts-morph/common';

const at = (path: string): string => fileURLToPath(new URL(path, import.meta.url));

const CORE = at('../../packages/gribo');

/** A package's declarations that its main entry leads to, under the paths that the compiler finds them by. */
const ofPackage = (): Readonly<Record<string, string>> => {
  const found = new Map<string, string>();
  const visit = (path: string): void => {
    if (found.has(path)) return;
    if (!existsSync(path))
      throw new Error(`${relative(CORE, path)} is not built: npm run build, in the project's folder`);
    const text = readFileSync(path, 'utf8').replace(/\n\/\/# sourceMappingURL=.*$/m, '');
    found.set(path, text);
    for (const [, named = ''] of text.matchAll(/(?:from|import\()\s*['"](\.[^'"]+)\.js['"]/g))
      visit(join(dirname(path), `${named}.d.ts`));
  };
  visit(join(CORE, 'dist/index.d.ts'));
  return Object.fromEntries(
    [...found].map(([path, text]) => [`/node_modules/gribo/${relative(CORE, path)}`, text]),
  );
};

/** JavaScript's own library, as the compiler has it. */
const ofLanguage = (): Readonly<Record<string, string>> => {
  const library = new Map(getLibFiles().map(({ fileName, text }) => [fileName, text]));
  const found = new Map<string, string>();
  const visit = (name: string): void => {
    if (found.has(name)) return;
    const text = library.get(name) ?? '';
    found.set(name, text);
    for (const [, lib = ''] of text.matchAll(/\/\/\/ <reference lib="([^"]+)"/g)) visit(`lib.${lib}.d.ts`);
  };
  visit('lib.es2023.d.ts');
  return Object.fromEntries([...found].map(([name, text]) => [`/${name}`, text]));
};

/** Every file that the compiler of the page knows, but for the edit. */
export const declarations = (): Readonly<Record<string, string>> => ({
  ...ofLanguage(),
  ...ofPackage(),
  '/node_modules/gribo/package.json': JSON.stringify({
    name: 'gribo',
    type: 'module',
    types: './dist/index.d.ts',
  }),
  '/model.ts': readFileSync(at('../harbour/src/model.ts'), 'utf8'),
});
