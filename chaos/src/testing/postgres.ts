import { appendFileSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { freePort } from '../../../packages/http/src/testing/ports.js';
import { folderFor, installed, ran, removed, Started, until, userNamed } from './processes.js';

const BIN = installed(
  [19, 18, 17, 16, 15, 14]
    .map((version) => `/usr/lib/postgresql/${version}/bin`)
    .concat('/usr/local/pgsql/bin'),
);

export const hasPostgres = (): boolean => BIN !== null;

export interface PostgresOptions {
  /** A server that this one follows, waiting for its rows. */
  readonly follows?: Postgres;
  /** The folder that its own is made in. Default: one for temporary files. */
  readonly within?: string;
  readonly settings?: Readonly<Record<string, string>>;
}

const program = (name: string): string => join(BIN ?? '', name);

/** A PostgreSQL server of a test's own. */
export class Postgres {
  readonly #folder: string;
  readonly #user: object;
  readonly port: number;
  #server: Started;

  private constructor(folder: string, user: object, port: number) {
    this.#folder = folder;
    this.#user = user;
    this.port = port;
    this.#server = this.#started();
  }

  static async start({ follows, within, settings = {} }: PostgresOptions = {}): Promise<Postgres> {
    const user = await userNamed('postgres');
    const folder = within ?? (await folderFor(user));
    const data = join(folder, 'data');
    const port = await freePort();
    if (follows === undefined)
      await ran(
        program('initdb'),
        ['-D', data, '-U', 'postgres', '-A', 'trust', '-N', '--encoding=UTF8', '--locale=C'],
        user,
      );
    else
      await ran(
        program('pg_basebackup'),
        ['-D', data, '-h', '127.0.0.1', '-p', String(follows.port), '-U', 'postgres', '-R', '-X', 'stream'],
        user,
      );
    const said = {
      port: String(port),
      listen_addresses: "'127.0.0.1'",
      unix_socket_directories: "''",
      max_connections: '60',
      shared_buffers: '16MB',
      ...settings,
    };
    const lines = Object.entries(said).map(([name, value]) => `${name} = ${value}\n`);
    appendFileSync(join(data, 'postgresql.conf'), lines.join(''));
    const server = new Postgres(folder, user, port);
    await server.isReady();
    return server;
  }

  get url(): string {
    return `postgres://postgres@127.0.0.1:${this.port}/postgres`;
  }

  get pid(): number {
    return this.#server.child.pid ?? 0;
  }

  #started(): Started {
    return new Started(program('postgres'), ['-D', join(this.#folder, 'data')], this.#user);
  }

  async isReady(): Promise<void> {
    await until(`PostgreSQL at ${this.port} (${this.#server.printed})`, () =>
      this.ask('select 1').then(
        () => true,
        () => false,
      ),
    );
  }

  async ask(text: string): Promise<readonly Record<string, unknown>[]> {
    const client = new pg.Client({ connectionString: this.url, connectionTimeoutMillis: 5000 });
    client.on('error', () => undefined);
    await client.connect();
    try {
      return (await client.query(text)).rows;
    } finally {
      await client.end();
    }
  }

  /** As when its machine fails. */
  async kill(): Promise<void> {
    await this.#server.end('SIGKILL');
  }

  async start(): Promise<void> {
    if (!this.#server.isOver) return;
    this.#server = this.#started();
    await this.isReady();
  }

  /** Makes one that follows another one the first. */
  async promote(): Promise<void> {
    await this.ask('select pg_promote()');
  }

  async stop(): Promise<void> {
    await this.#server.end('SIGINT');
    removed(this.#folder);
  }
}
