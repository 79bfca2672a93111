import { mkdir, rename, rm, writeFile } from 'node:fs/promises';
import { dirname, relative } from 'node:path';
import { Mistake } from '../screen/mistake.js';
import { inTurns } from './in-turns.js';

/** A file that is to be written. */
export interface NewFile {
  readonly path: string;
  readonly text: string;
}

/** The name under which a file is written until it is whole. */
const unfinished = (path: string): string => `${path}.${process.pid}.tmp`;

const reasonOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/**
 * Writes files, all of them or none: what was there before stays until every one of them is on the disk.
 *
 * @throws {Mistake} naming the file that could not be written
 */
export const writeWhole = async (files: readonly NewFile[]): Promise<void> => {
  const put = async ({ path, text }: NewFile): Promise<void> => {
    try {
      await mkdir(dirname(path), { recursive: true });
      await writeFile(unfinished(path), text, { flush: true });
    } catch (error) {
      throw new Mistake(
        `${relative(process.cwd(), path)} could not be written, so nothing was: ${reasonOf(error)}`,
      );
    }
  };
  try {
    await inTurns(files, put);
    await inTurns(files, ({ path }) => rename(unfinished(path), path));
  } catch (error) {
    await inTurns(files, ({ path }) => rm(unfinished(path), { force: true }));
    throw error;
  }
};
