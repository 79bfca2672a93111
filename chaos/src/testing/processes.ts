import { type ChildProcess, execFile, type SpawnOptions, spawn } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';

const run = promisify(execFile);

export const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

/** Waits until something is so. @throws where it is not in time */
export const until = async (
  what: string,
  isSo: () => Promise<boolean> | boolean,
  milliseconds = 300_000,
): Promise<void> => {
  const end = performance.now() + milliseconds;
  while (!(await isSo())) {
    if (performance.now() > end) throw new Error(`${what}: not within ${milliseconds} ms`);
    await pause(100);
  }
};

/** The first of these programs that is installed; null where none is. */
export const installed = (paths: readonly string[]): string | null =>
  paths.find((path) => existsSync(path)) ?? null;

/** A user that servers run as, where this is the superuser's process: they refuse to run as him. */
export interface User {
  readonly uid?: number;
  readonly gid?: number;
}

/** That user; nothing where this process is not the superuser's. */
export const userNamed = async (name: string): Promise<User> => {
  if (process.getuid?.() !== 0) return {};
  const ids = await Promise.all(
    ['-u', '-g'].map(async (flag) => Number((await run('id', [flag, name])).stdout)),
  );
  const [uid = 0, gid = 0] = ids;
  return { uid, gid };
};

/** A folder of one's own, that a user may write to. */
export const folderFor = async ({ uid, gid }: User): Promise<string> => {
  const folder = mkdtempSync(join(tmpdir(), 'gribo-chaos-'));
  if (uid !== undefined && gid !== undefined) await run('chown', [`${uid}:${gid}`, folder]);
  return folder;
};

/** Servers are the same wherever tests run: they take neither the language nor the zone of whoever runs them. */
const NEUTRAL: NodeJS.ProcessEnv = { ...process.env, LC_ALL: 'C', LANG: 'C', TZ: 'UTC' };

/** A server that a test has started. */
export class Started {
  readonly child: ChildProcess;
  #printed = '';

  constructor(program: string, args: readonly string[], options: SpawnOptions = {}) {
    this.child = spawn(program, args, { env: NEUTRAL, ...options, stdio: ['ignore', 'pipe', 'pipe'] });
    for (const stream of [this.child.stdout, this.child.stderr])
      stream?.setEncoding('utf8').on('data', (text) => {
        this.#printed = (this.#printed + String(text)).slice(-20_000);
      });
  }

  /** What it has said last. */
  get printed(): string {
    return this.#printed;
  }

  get isOver(): boolean {
    return this.child.exitCode !== null || this.child.signalCode !== null;
  }

  /** Ends it, in the way that a signal means. */
  async end(signal: NodeJS.Signals): Promise<void> {
    if (this.isOver) return;
    const ended = new Promise((resolve) => this.child.once('exit', resolve));
    this.child.kill(signal);
    await ended;
  }
}

/** Runs a program to its end. */
export const ran = async (program: string, args: readonly string[], options: object = {}): Promise<string> =>
  (await run(program, [...args], { env: NEUTRAL, ...options })).stdout;

export const removed = (folder: string): void => rmSync(folder, { recursive: true, force: true });
