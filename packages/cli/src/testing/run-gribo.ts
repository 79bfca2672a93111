import { execFile } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { harbourEnvironment } from './harbour-database.js';

export const BIN: string = fileURLToPath(new URL('../../bin/gribo.js', import.meta.url));
export const HARBOUR: string = fileURLToPath(new URL('../../../../examples/harbour/', import.meta.url));
export const WORKSPACE: string = fileURLToPath(new URL('../../../../', import.meta.url));

/** What a command printed, and how it ended. */
export interface Outcome {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

/** Runs the real command. */
export const gribo = async (args: readonly string[], cwd: string = HARBOUR): Promise<Outcome> => {
  const env = { ...process.env, ...(await harbourEnvironment()) };
  return new Promise((resolve) => {
    const child = execFile(process.execPath, [BIN, ...args], { cwd, env }, (_error, out, err) => {
      resolve({ code: child.exitCode ?? -1, out, err });
    });
  });
};
