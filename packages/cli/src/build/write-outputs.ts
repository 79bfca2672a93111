import { mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { MADE_BY, type Output } from './output.js';

/** What is to be done so that a folder holds a build. */
export interface Changes {
  readonly written: readonly Output[];
  readonly unchanged: number;
  /** Paths of files of an earlier build that are none of this one's. */
  readonly removed: readonly string[];
}

/** The text of a file; null where there is none. */
const textAt = async (path: string): Promise<string | null> => {
  try {
    return await readFile(path, 'utf8');
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
    throw error;
  }
};

const filesIn = async (folder: string): Promise<readonly string[]> => {
  try {
    return await readdir(folder);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return [];
    throw error;
  }
};

/** Files in a folder of many that an earlier build made, and this one does not. */
const leftovers = async (
  out: string,
  folder: string,
  outputs: readonly Output[],
): Promise<readonly string[]> => {
  const wanted = new Set(outputs.map(({ path }) => path));
  const found: string[] = [];
  for (const file of await filesIn(join(out, folder))) {
    const path = `${folder}/${file}`;
    if (wanted.has(path)) continue;
    if ((await textAt(join(out, path)))?.slice(0, 200).includes(MADE_BY) === true) found.push(path);
  }
  return found;
};

/** Compares a build with what is in its folder. */
export const changesTo = async (
  out: string,
  outputs: readonly Output[],
  folders: readonly string[],
): Promise<Changes> => {
  const written: Output[] = [];
  for (const output of outputs) {
    if ((await textAt(join(out, output.path))) !== output.text) written.push(output);
  }
  const removed = await Promise.all(folders.map((folder) => leftovers(out, folder, outputs)));
  return { written, unchanged: outputs.length - written.length, removed: removed.flat() };
};

/** Writes what changed and removes what is left over. */
export const apply = async (out: string, { written, removed }: Changes): Promise<void> => {
  for (const { path, text } of written) {
    await mkdir(dirname(join(out, path)), { recursive: true });
    await writeFile(join(out, path), text);
  }
  for (const path of removed) await rm(join(out, path));
};
