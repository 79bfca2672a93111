import { type ChildProcess, fork } from 'node:child_process';
import { Agent, request } from 'node:http';
import { fileURLToPath } from 'node:url';
import type { Ask, Told } from './ledger.js';
import type { Measured } from './server.js';

const SERVER = fileURLToPath(new URL('./server.ts', import.meta.url));

/** Asks whoever listens to a port, over connections that are kept. */
export const askingPort = (port: number, agent: Agent): Ask => {
  return (method, path, body, headers = {}) =>
    new Promise<Told>((resolve, reject) => {
      const text = body === undefined ? undefined : JSON.stringify(body);
      const type = text === undefined ? {} : { 'content-type': 'application/json' };
      const sent = request(
        { host: '127.0.0.1', port, method, path, agent, headers: { ...type, ...headers } },
        (response) => {
          let came = '';
          response.setEncoding('utf8').on('data', (part: string) => {
            came += part;
          });
          response.on('end', () =>
            resolve({ status: response.statusCode ?? 0, text: came, tag: response.headers.etag ?? null }),
          );
          response.on('error', reject);
        },
      );
      sent.on('error', reject);
      sent.end(text);
    });
};

/** A service in a process of its own, or in several. */
export class ServedProcess {
  readonly #child: ChildProcess;
  readonly port: number;
  readonly #agent = new Agent({ keepAlive: true, maxSockets: 128 });
  /** Asks it over its socket. */
  readonly ask: Ask;

  private constructor(child: ChildProcess, port: number) {
    this.#child = child;
    this.port = port;
    this.ask = askingPort(port, this.#agent);
  }

  static async start(environment: Readonly<Record<string, string>>): Promise<ServedProcess> {
    const child = fork(SERVER, {
      env: { ...process.env, ...environment },
      execArgv: [...process.execArgv, '--expose-gc'],
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    });
    const { port } = await new Promise<{ port: number }>((resolve, reject) => {
      child.once('message', (message) => resolve(message as { port: number }));
      child.once('exit', (code) => reject(new Error(`the service ended with ${code}`)));
    });
    return new ServedProcess(child, port);
  }

  measured(): Promise<Measured> {
    return new Promise((resolve) => {
      this.#child.once('message', (message) => resolve(message as Measured));
      this.#child.send('measure');
    });
  }

  /** Renews its workers, one after the other. */
  renewed(): Promise<void> {
    return new Promise((resolve) => {
      this.#child.once('message', () => resolve());
      this.#child.kill('SIGHUP');
    });
  }

  /** @returns what it ended with */
  async end(signal: NodeJS.Signals = 'SIGTERM'): Promise<number | null> {
    const ended = new Promise<number | null>((resolve) => this.#child.once('exit', resolve));
    this.#child.kill(signal);
    const code = await ended;
    this.#agent.destroy();
    return code;
  }
}
