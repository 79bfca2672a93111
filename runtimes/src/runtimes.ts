import { type ChildProcess, execFile, spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import type { Programs } from './bundle.js';
import type { Outcomes } from './smoke.js';

const BIN = fileURLToPath(new URL('../node_modules', import.meta.url));
const run = promisify(execFile);

/** A runtime that Gribo is tried on. */
export interface Runtime {
  readonly name: string;
  /** Its program; where it is not there, nothing is tried. */
  readonly file: string;
  /** Whether the suites of the packages run on it: they need Node's own modules and Mocha. */
  readonly runsSuites: boolean;
  /** What was done on it. */
  outcomes(programs: Programs): Promise<Outcomes>;
}

const LARGE = 1 << 28;

/** A runtime that runs a file and prints. */
const printing = (name: string, file: string, args: readonly string[] = [], runsSuites = false): Runtime => ({
  name,
  file,
  runsSuites,
  outcomes: async (programs) => {
    const { stdout } = await run(file, [...args, programs.console], { maxBuffer: LARGE });
    return JSON.parse(stdout) as Outcomes;
  },
});

const node = (major: number): Runtime =>
  printing(`Node ${major}`, join(BIN, `node${major}`, 'bin', 'node'), [], true);

/** The port that a worker's server says it listens at. */
const portOf = async (server: ChildProcess): Promise<number> => {
  if (server.stdout === null) throw new Error('the server has no output');
  for await (const line of createInterface(server.stdout)) {
    const { event, port } = JSON.parse(line) as { readonly event: string; readonly port: number };
    if (event === 'listen') return port;
  }
  throw new Error('the server ended before it listened');
};

const workerd: Runtime = {
  name: 'workerd',
  file: join(BIN, '.bin', 'workerd'),
  runsSuites: false,
  outcomes: async (programs) => {
    const args = ['serve', join(programs.worker, 'worker.capnp'), '--control-fd=1'];
    const server = spawn(workerd.file, args, { stdio: ['ignore', 'pipe', 'inherit'] });
    try {
      const response = await fetch(`http://127.0.0.1:${await portOf(server)}/`);
      return (await response.json()) as Outcomes;
    } finally {
      server.kill();
    }
  },
};

/** The runtimes, in the order of the README's table. */
export const RUNTIMES: readonly Runtime[] = [
  ...[20, 22, 24, 26].map(node),
  printing('Deno', join(BIN, '.bin', 'deno'), ['run', '--no-prompt']),
  printing('Bun', join(BIN, '.bin', 'bun')),
  workerd,
];

export const isThere = ({ file }: Runtime): boolean => existsSync(file);
