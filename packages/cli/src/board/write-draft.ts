import { link, rm, writeFile } from 'node:fs/promises';
import { join, normalize, relative, sep } from 'node:path';
import { Mistake } from '../screen/mistake.js';

/**
 * Writes a draft as a new file, whole or not at all: nothing that is there is written over.
 *
 * @param folder the project's, where the configuration is
 * @param file where in it: `src/vessel-card.ts`
 * @returns the path, from the folder
 * @throws {Mistake} where it is outside of the folder, is no TypeScript, or is there already
 */
export const writeDraft = async (folder: string, file: string, source: string): Promise<string> => {
  const path = normalize(join(folder, file));
  const inside = relative(folder, path);
  if (inside.startsWith('..') || inside.split(sep).includes('node_modules') || !/\.m?ts$/.test(inside))
    throw new Mistake(`A draft is written as a .ts file of this project, not as ${file}.`);
  const unfinished = `${path}.${process.pid}.tmp`;
  try {
    await writeFile(unfinished, source, { flush: true });
    // A link to what is whole, where a rename would take the place of what is there.
    await link(unfinished, path);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code === 'EEXIST') throw new Mistake(`${inside} is there already: choose another name.`);
    if (code === 'ENOENT') throw new Mistake(`There is no folder for ${inside}: make it first.`);
    throw error;
  } finally {
    await rm(unfinished, { force: true });
  }
  return inside;
};
