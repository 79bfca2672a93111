import { readFileSync } from 'node:fs';
import { dirname, relative, resolve, sep } from 'node:path';
import { build } from 'esbuild';

/** A file as a URI, from the current folder (SARIF 2.1.0, section 3.4.3). */
export const uriOf = (file: string): string => encodeURI(relative(process.cwd(), file).split(sep).join('/'));

/** A file of one's own, with its text. */
export interface Source {
  readonly uri: string;
  readonly text: string;
}

/** The configuration and the files of its own that it imports. */
export const sourcesOf = async (configPath: string): Promise<readonly Source[]> => {
  const { metafile } = await build({
    entryPoints: [configPath],
    absWorkingDir: dirname(configPath),
    bundle: true,
    packages: 'external',
    platform: 'node',
    format: 'esm',
    metafile: true,
    write: false,
    logLevel: 'silent',
  });
  return Object.keys(metafile.inputs).map((path) => {
    const file = resolve(dirname(configPath), path);
    return { uri: uriOf(file), text: readFileSync(file, 'utf8') };
  });
};
