import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { build } from 'esbuild';
import { alone, type Figure } from './figure.js';

const HERE = fileURLToPath(new URL('.', import.meta.url));

const DECLARING = 'model, entity, shape, toOne, toMany, integer, text, timestamp';

/** What a page may import, and the most kilobytes of it. */
const IMPORTS: readonly (readonly [string, string, number | null])[] = [
  ['writing: writer, list', 'writer, list', 12],
  ['writing, declaring', `writer, list, ${DECLARING}`, null],
  ['writing, CSV and lines of JSON', 'writer, list, csvLines, jsonLines', null],
  ['reading, declaring', `reader, input, ${DECLARING}`, null],
  ['writing, reading, declaring', `writer, list, reader, input, ${DECLARING}`, null],
];

const sizeOf = async (contents: string): Promise<number> => {
  const { outputFiles } = await build({
    stdin: { contents, resolveDir: HERE },
    bundle: true,
    minify: true,
    write: false,
    format: 'esm',
    target: 'es2022',
  });
  return gzipSync(outputFiles[0]?.contents ?? new Uint8Array()).length / 1000;
};

/** What bundlers leave of the library, minified and gzipped, by what is imported of it. */
export const benchSize = async (): Promise<readonly Figure[]> => {
  const figures: Figure[] = [];
  for (const [what, names, bar] of IMPORTS)
    figures.push(
      alone(what, await sizeOf(`export { ${names} } from 'gribo';`), 'kB', {
        bar,
        beside: 'minified, gzipped',
      }),
    );
  figures.push(alone('all of gribo', await sizeOf("export * from 'gribo';"), 'kB'));
  return figures;
};
