import { type ChildProcess, execFile, fork } from 'node:child_process';
import { once } from 'node:events';
import { fileURLToPath } from 'node:url';
import { harbourEnvironment } from './harbour-database.js';

/** A command that is to be run. */
interface HostedCommand {
  readonly args: readonly string[];
  readonly cwd: string;
  readonly env: NodeJS.ProcessEnv;
  readonly input: string;
}

/** What a command printed, and how it ended. */
export interface Outcome {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

const pathOf = (path: string): string => fileURLToPath(new URL(path, import.meta.url));

export const BIN: string = pathOf('../../bin/gribo.js');
export const HARBOUR: string = pathOf('../../../../examples/harbour/');
export const WORKSPACE: string = pathOf('../../../../');

const HOST = pathOf('command-host.mjs');

const environment = async (): Promise<NodeJS.ProcessEnv> => ({
  ...process.env,
  ...(await harbourEnvironment()),
});

const started = (): ChildProcess => {
  // As the executable: on what was built, not on the sources.
  const host = fork(HOST, [], { execArgv: [] });
  host.unref();
  return host;
};

/** The process in which commands are run, one after the other: what takes longest of a command is to start one. */
let host: ChildProcess | null = null;
let last: Promise<unknown> = Promise.resolve();

const hosted = async (command: HostedCommand): Promise<Outcome> => {
  host ??= started();
  const running = host;
  running.channel?.ref();
  const ended = new AbortController();
  try {
    const gone = once(running, 'exit', { signal: ended.signal }).then(() => {
      host = null;
      throw new Error(`the process of the commands ended: gribo ${command.args.join(' ')}`);
    });
    const answered = once(running, 'message', { signal: ended.signal });
    running.send(command);
    const [outcome] = (await Promise.race([answered, gone])) as [Outcome];
    gone.catch(() => undefined);
    return outcome;
  } finally {
    ended.abort();
    running.channel?.unref();
  }
};

/**
 * Runs a command as it was built last, by the function that the executable calls, in a process that many commands share.
 *
 * @param input what is sent to it
 */
export const gribo = (
  args: readonly string[],
  cwd: string = HARBOUR,
  input: string = '',
): Promise<Outcome> => {
  const command = last.then(async () => hosted({ args, cwd, env: await environment(), input }));
  last = command.catch(() => undefined);
  return command;
};

/**
 * Runs the real command, as it was built last, in a process of its own.
 *
 * @param more what its environment has besides
 */
export const griboProcess = async (
  args: readonly string[],
  cwd: string = HARBOUR,
  more: NodeJS.ProcessEnv = {},
): Promise<Outcome> => {
  const env = { ...(await environment()), ...more };
  return new Promise((resolve) => {
    const child = execFile(process.execPath, [BIN, ...args], { cwd, env }, (_error, out, err) => {
      resolve({ code: child.exitCode ?? -1, out, err });
    });
  });
};
