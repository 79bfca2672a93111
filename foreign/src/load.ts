import { execFile } from 'node:child_process';
import { existsSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Where the foreign packages are. */
export const HOME: string = fileURLToPath(new URL('..', import.meta.url));

/**
 * A package that may not be installed, with as much of its type as a test needs; null where it is not there. `npm ci
 * --prefix foreign` installs them all.
 */
export const load = async <T>(name: string): Promise<T | null> => {
  try {
    return (await import(name)) as T;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ERR_MODULE_NOT_FOUND') return null;
    throw error;
  }
};

/** The path of a program of theirs, or of the machine's; null where it is not there. */
export const programOf = (name: string): string | null => {
  const folders = [join(HOME, 'node_modules', '.bin'), ...(process.env['PATH'] ?? '').split(delimiter)];
  return folders.map((folder) => join(folder, name)).find((path) => existsSync(path)) ?? null;
};

/** How a program ended, and what it said. */
export interface Said {
  readonly code: number;
  readonly out: string;
}

/** Runs a program on a text. */
export const run = (file: string, args: readonly string[], input = '', cwd: string = HOME): Promise<Said> =>
  new Promise((resolve) => {
    const child = execFile(file, [...args], { cwd, maxBuffer: 1 << 28 }, (_error, out, errors) => {
      resolve({ code: child.exitCode ?? -1, out: out + errors });
    });
    child.stdin?.on('error', () => undefined);
    child.stdin?.end(input);
  });
