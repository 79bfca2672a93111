import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { freePort, listens } from '../../../packages/http/src/testing/ports.js';
import { folderFor, installed, removed, Started, until, userNamed } from './processes.js';

const PROGRAM = installed(['/usr/sbin/pgbouncer', '/usr/bin/pgbouncer']);

export const hasPooler = (): boolean => PROGRAM !== null;

/** A pooler in front of a server, that lends a connection for one transaction. */
export class Pooler {
  readonly #server: Started;
  readonly #folder: string;
  readonly port: number;

  private constructor(server: Started, folder: string, port: number) {
    this.#server = server;
    this.#folder = folder;
    this.port = port;
  }

  /** @param most so many connections to the server, however many clients there are */
  static async start(server: number, most: number): Promise<Pooler> {
    const user = await userNamed('postgres');
    const folder = await folderFor(user);
    const port = await freePort();
    const config = join(folder, 'pooler.ini');
    const lines = [
      '[databases]',
      `* = host=127.0.0.1 port=${server} user=postgres`,
      '[pgbouncer]',
      'listen_addr = 127.0.0.1',
      `listen_port = ${port}`,
      'unix_socket_dir =',
      'auth_type = any',
      'pool_mode = transaction',
      `default_pool_size = ${most}`,
      'max_client_conn = 200',
    ];
    writeFileSync(config, lines.join('\n'));
    const pooler = new Pooler(new Started(PROGRAM ?? '', [config], user), folder, port);
    await until('the pooler', () => listens(port));
    return pooler;
  }

  get url(): string {
    return `postgres://postgres@127.0.0.1:${this.port}/postgres`;
  }

  async stop(): Promise<void> {
    await this.#server.end('SIGINT');
    removed(this.#folder);
  }
}
