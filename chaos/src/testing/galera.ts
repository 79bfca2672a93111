import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Connection, createConnection } from 'mysql2/promise';
import { freePort } from '../../../packages/http/src/testing/ports.js';
import { folderFor, installed, ran, removed, Started, until, userNamed } from './processes.js';

const MARIADBD = installed(['/usr/sbin/mariadbd', '/usr/bin/mariadbd']);
const PROVIDER = installed([
  '/usr/lib/galera/libgalera_smm.so',
  '/usr/lib/x86_64-linux-gnu/galera/libgalera_smm.so',
]);

export const hasGalera = (): boolean => MARIADBD !== null && PROVIDER !== null;

/** One node of a cluster. */
export class GaleraNode {
  readonly #folder: string;
  readonly #user: object;
  readonly port: number;
  readonly #cluster: number;
  readonly #others: () => readonly GaleraNode[];
  #server: Started | null = null;

  private constructor(
    folder: string,
    user: object,
    port: number,
    cluster: number,
    others: () => readonly GaleraNode[],
  ) {
    this.#folder = folder;
    this.#user = user;
    this.port = port;
    this.#cluster = cluster;
    this.#others = others;
  }

  static async make(others: () => readonly GaleraNode[]): Promise<GaleraNode> {
    const user = await userNamed('mysql');
    const folder = await folderFor(user);
    const data = join(folder, 'data');
    await ran('mariadb-install-db', [
      '--no-defaults',
      `--datadir=${data}`,
      '--auth-root-authentication-method=normal',
      '--skip-test-db',
      ...('uid' in user ? ['--user=mysql'] : []),
    ]);
    return new GaleraNode(folder, user, await freePort(), await freePort(), others);
  }

  get address(): string {
    return `127.0.0.1:${this.#cluster}`;
  }

  /** @param isFirst whether it begins a new cluster */
  async start(isFirst: boolean): Promise<void> {
    const others = this.#others()
      .filter((node) => node !== this)
      .map(({ address }) => address);
    const incremental = await freePort();
    const config = join(this.#folder, 'node.cnf');
    const provider = [
      `gmcast.listen_addr=tcp://127.0.0.1:${this.#cluster}`,
      `ist.recv_addr=127.0.0.1:${incremental}`,
      'evs.keepalive_period=PT0.5S',
      'evs.inactive_check_period=PT0.3S',
      'evs.suspect_timeout=PT2S',
      'evs.inactive_timeout=PT4S',
      'gcache.size=32M',
    ];
    const lines = [
      '[mariadbd]',
      `datadir=${join(this.#folder, 'data')}`,
      `socket=${join(this.#folder, 'node.sock')}`,
      `pid-file=${join(this.#folder, 'node.pid')}`,
      `port=${this.port}`,
      'bind-address=127.0.0.1',
      'binlog_format=ROW',
      'innodb_autoinc_lock_mode=2',
      'innodb_flush_log_at_trx_commit=0',
      'innodb_buffer_pool_size=32M',
      'wsrep_on=ON',
      `wsrep_provider=${PROVIDER}`,
      `wsrep_provider_options="${provider.join(';')}"`,
      'wsrep_cluster_name=gribo',
      `wsrep_cluster_address=gcomm://${isFirst ? '' : others.join(',')}`,
      'wsrep_node_address=127.0.0.1',
      `wsrep_node_incoming_address=127.0.0.1:${this.port}`,
      'wsrep_sst_method=rsync',
      `wsrep_sst_receive_address=127.0.0.1:${await freePort()}`,
      'wsrep_retry_autocommit=0',
    ];
    writeFileSync(config, lines.join('\n'));
    const args = [`--defaults-file=${config}`, ...(isFirst ? ['--wsrep-new-cluster'] : [])];
    this.#server = new Started(MARIADBD ?? '', args, this.#user);
    const server = this.#server;
    await until(
      `a node at ${this.port}`,
      async () => {
        if (server.isOver) throw new Error(`a node has ended: ${server.printed}`);
        return (await this.ask("show status like 'wsrep_ready'").catch(() => []))[0]?.['Value'] === 'ON';
      },
      120_000,
    );
  }

  get url(): string {
    return `mysql://root@127.0.0.1:${this.port}/gribo`;
  }

  async ask(text: string): Promise<readonly Record<string, unknown>[]> {
    let connection: Connection | null = null;
    try {
      connection = await createConnection({ host: '127.0.0.1', port: this.port, user: 'root' });
      const [rows] = await connection.query(text);
      return rows as Record<string, unknown>[];
    } finally {
      connection?.destroy();
    }
  }

  async kill(): Promise<void> {
    await this.#server?.end('SIGKILL');
  }

  async stop(): Promise<void> {
    await this.#server?.end('SIGKILL');
    removed(this.#folder);
  }
}

/** A cluster of nodes that all take changes. */
export const startCluster = async (many: number): Promise<readonly GaleraNode[]> => {
  const nodes: GaleraNode[] = [];
  for (let i = 0; i < many; i++) nodes.push(await GaleraNode.make(() => nodes));
  for (const [i, node] of nodes.entries()) await node.start(i === 0);
  await nodes[0]?.ask('create database gribo character set utf8mb4');
  return nodes;
};
