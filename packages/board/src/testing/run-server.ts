import { type ChildProcess, spawn } from 'node:child_process';

/** A server that runs in a process of its own. */
export interface Running {
  readonly address: string;
  readonly end: () => Promise<void>;
}

const ended = (child: ChildProcess): Promise<void> =>
  new Promise((resolve) => {
    child.once('exit', () => resolve());
    child.kill('SIGTERM');
  });

/** Starts a Node.js program that prints its address. */
export const runServer = async (args: readonly string[], cwd: string): Promise<Running> => {
  const child = spawn(process.execPath, [...args], { cwd, env: { ...process.env, PORT: '0' } });
  let printed = '';
  const address = await new Promise<string>((resolve, reject) => {
    const read = (text: unknown): void => {
      printed += String(text);
      const found = /http:\/\/127\.0\.0\.1:\d+/.exec(printed)?.[0];
      if (found !== undefined) resolve(found);
    };
    child.stdout?.on('data', read);
    child.stderr?.on('data', read);
    child.once('exit', () => reject(new Error(`it ended: ${printed}`)));
  });
  return { address, end: () => ended(child) };
};
