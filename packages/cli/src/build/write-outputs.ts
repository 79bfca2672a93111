import { readdir, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { inTurns } from '../running/in-turns.js';
import { writeWhole } from '../running/write-whole.js';
import { Mistake } from '../screen/mistake.js';
import { MADE_BY, type Output } from './output.js';

/** What is to be done so that a folder holds a build. */
export interface FileChanges {
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

/** No file is written over another: nor where a disk does not tell capitals from small letters. */
const checkPaths = (outputs: readonly Output[]): void => {
  const known = new Map<string, string>();
  for (const { path } of outputs) {
    const other = known.get(path.toLowerCase());
    if (other !== undefined) {
      throw new Mistake(
        `Two endpoints would be written to one file, ${other} and ${path}: give one of them another name.`,
      );
    }
    known.set(path.toLowerCase(), path);
  }
};

/**
 * Compares a build with what is in its folder.
 *
 * @throws {Mistake} where two outputs would be one file
 */
export const changesTo = async (
  out: string,
  outputs: readonly Output[],
  folders: readonly string[],
): Promise<FileChanges> => {
  checkPaths(outputs);
  const isStale = await inTurns(outputs, async ({ path, text }) => (await textAt(join(out, path))) !== text);
  const written = outputs.filter((_output, i) => isStale[i] === true);
  const removed = await Promise.all(folders.map((folder) => leftovers(out, folder, outputs)));
  return { written, unchanged: outputs.length - written.length, removed: removed.flat() };
};

/** Writes what changed, all of it or nothing, and removes what is left over. */
export const apply = async (out: string, { written, removed }: FileChanges): Promise<void> => {
  await writeWhole(written.map(({ path, text }) => ({ path: join(out, path), text })));
  for (const path of removed) await rm(join(out, path));
};
