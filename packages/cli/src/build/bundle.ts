import { dirname, posix } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build, type Plugin, type ResolveResult } from 'esbuild';
import { MADE_BY, type Output } from './output.js';

/** A module before what it imports of the library is put into it. */
export interface LooseModule {
  /** Its path from the folder that is built to. */
  readonly path: string;
  readonly source: string;
}

/** What stand-alone modules import of the library. */
const LIBRARY = /^gribo\/(?:runtime$|conversions\/)/;
/** Where the library is looked for. */
const HERE = dirname(fileURLToPath(import.meta.url));
const SPACE = 'gribo-modules';

/** How many modules are bundled at once: enough to be quick, few enough to show how far it is. */
const BATCH = 40;

/** Gives the bundler modules that are no files, and leaves the user's own imports as they are. */
const given = (modules: ReadonlyMap<string, string>): Plugin => ({
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
      if (!LIBRARY.test(path)) return { path, external: true };
      return { path: (await ofLibrary(path)).path, sideEffects: false };
    });
    bundler.onLoad({ filter: /.*/, namespace: SPACE }, ({ path }) => ({ contents: modules.get(path) ?? '' }));
  },
});

const bundled = async (modules: readonly LooseModule[]): Promise<readonly Output[]> => {
  const sources = new Map(modules.map(({ path, source }) => [path, source]));
  const { outputFiles } = await build({
    entryPoints: modules.map(({ path }) => ({ in: path, out: path.replace(/\.js$/, '') })),
    plugins: [given(sources)],
    bundle: true,
    write: false,
    outdir: '/',
    format: 'esm',
    platform: 'neutral',
    target: 'es2022',
    charset: 'utf8',
    legalComments: 'none',
    logLevel: 'silent',
    banner: { js: `// ${MADE_BY}` },
  });
  // The bundler names each file after the place in memory that it came from.
  const clean = (text: string): string => text.replaceAll(/^\/\/ (?!Made by).*\n/gm, '');
  return outputFiles.map(({ path, text }) => ({ path: posix.relative('/', path), text: clean(text) }));
};

/**
 * Puts what modules import of the library into them, so that they stand alone.
 *
 * @param done is told how many modules are done
 */
export const bundle = async (
  modules: readonly LooseModule[],
  done: (count: number) => void,
): Promise<readonly Output[]> => {
  const all: Output[] = [];
  for (let i = 0; i < modules.length; i += BATCH) {
    all.push(...(await bundled(modules.slice(i, i + BATCH))));
    done(all.length);
  }
  return all;
};
