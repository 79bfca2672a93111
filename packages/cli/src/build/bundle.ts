import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build, type Plugin, type ResolveResult } from 'esbuild';
import { MADE_BY, type Output } from './output.js';

/** A module before what it imports of the library is put into it. */
export interface LooseModule {
  /** Its path from the folder that is built to. */
  readonly path: string;
  readonly source: string;
}

/** What stand-alone modules import of the library, a line for each module that they take it from. */
const IMPORTS = /^import(\{.*\}from"gribo\/(?:runtime|conversions\/[\w-]+)";)$/gm;
/** What a bundle exports, all of it at its end. */
const EXPORTS = /\nexport \{([^}]*)\};\n*$/;
/** The bundler names each module after the place in memory that it came from. */
const PLACES = /^\s*\/\/ .*\n/gm;
/** Where the library is looked for. */
const HERE = dirname(fileURLToPath(import.meta.url));
const SPACE = 'gribo-modules';

/** Gives the bundler modules that are no files. */
const given = (modules: readonly string[]): Plugin => ({
  name: SPACE,
  setup: (bundler) => {
    const known = new Map<string, Promise<ResolveResult>>();
    // As bundlers take it: module by module, so that what is not used is left out.
    const ofLibrary = (path: string): Promise<ResolveResult> => {
      const found = known.get(path) ?? bundler.resolve(path, { resolveDir: HERE, kind: 'import-statement' });
      known.set(path, found);
      return found;
    };
    bundler.onResolve({ filter: /.*/ }, async ({ path, kind, namespace }) => {
      if (kind === 'entry-point') return { path, namespace: SPACE };
      if (namespace !== SPACE) return undefined;
      return { path: (await ofLibrary(path)).path, sideEffects: false };
    });
    bundler.onLoad({ filter: /.*/, namespace: SPACE }, ({ path }) => ({
      contents: modules[Number(path)] ?? '',
    }));
  },
});

/** `a, b2 as b` as the members of an object. */
const membersOf = (exported: string): string =>
  exported
    .split(',')
    .map((one) => one.trim().split(' as '))
    .map(([inside = '', outside]) => (outside === undefined ? inside : `${outside}: ${inside}`))
    .join(', ');

/** A bundle as an expression: the object of what it exports. */
const asExpression = (bundle: string): string => {
  const body = bundle.replaceAll(PLACES, '').replace(EXPORTS, (_all, exported: string) => {
    return `\nreturn { ${membersOf(exported)} };\n`;
  });
  return `(() => {\n${body}})()`;
};

/** The part of the library that each set of imports takes, as an expression. */
const libraryParts = async (sets: readonly string[]): Promise<ReadonlyMap<string, string>> => {
  const { outputFiles } = await build({
    entryPoints: sets.map((_set, i) => ({ in: String(i), out: String(i) })),
    plugins: [given(sets.map((set) => set.replaceAll(IMPORTS, 'export$1')))],
    bundle: true,
    write: false,
    outdir: '/',
    format: 'esm',
    platform: 'neutral',
    target: 'es2022',
    charset: 'utf8',
    legalComments: 'none',
    logLevel: 'silent',
  });
  return new Map(sets.map((set, i) => [set, asExpression(outputFiles[i]?.text ?? '')]));
};

/** What a module imports of the library. */
const importsOf = ({ source }: LooseModule): string => (source.match(IMPORTS) ?? []).join('\n');

/** The names that imports give, as a pattern that takes them out of an object. */
const namesIn = (imports: string): string =>
  [...imports.matchAll(IMPORTS)]
    .flatMap(([line]) => line.slice(line.indexOf('{') + 1, line.indexOf('}')).split(','))
    .map((one) => one.split(' as ').at(-1))
    .join(', ');

/**
 * Puts what modules import of the library into them, so that they stand alone. Most import the same of it: that is
 * put together once.
 */
export const bundle = async (modules: readonly LooseModule[]): Promise<readonly Output[]> => {
  const parts = await libraryParts([...new Set(modules.map(importsOf))]);
  return modules.map((module) => {
    const imports = importsOf(module);
    const own = module.source.replaceAll(IMPORTS, '').trimStart();
    const library = `const { ${namesIn(imports)} } = ${parts.get(imports)};`;
    return { path: module.path, text: `// ${MADE_BY}\n${library}\n${own}` };
  });
};
