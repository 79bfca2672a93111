import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { folderFor, freePort, installed, listens, removed, Started, until } from './processes.js';

const PROGRAM = installed(['/usr/sbin/nginx', '/usr/bin/nginx']);

export const hasBalancer = (): boolean => PROGRAM !== null;

/** What docs/deploying.md says of nginx, with these servers behind it. */
const settings = (folder: string, port: number, behind: readonly number[]): string => `
daemon off;
pid ${folder}/nginx.pid;
error_log stderr crit;
events {}
http {
  access_log off;
  client_body_temp_path ${folder}/body;
  proxy_temp_path ${folder}/proxy;
  fastcgi_temp_path ${folder}/fastcgi;
  uwsgi_temp_path ${folder}/uwsgi;
  scgi_temp_path ${folder}/scgi;
  upstream office {
${behind.map((one) => `    server 127.0.0.1:${one} max_fails=0;`).join('\n')}
    keepalive 32;
  }
  server {
    listen 127.0.0.1:${port};
    location / {
      proxy_pass http://office;
      proxy_http_version 1.1;
      proxy_set_header Connection "";
      proxy_set_header Host $host;
      proxy_next_upstream error timeout http_503 non_idempotent;
      proxy_buffering off;
    }
  }
}
`;

/** A real nginx in front of servers. */
export class Balancer {
  readonly #server: Started;
  readonly #folder: string;
  readonly port: number;

  private constructor(server: Started, folder: string, port: number) {
    this.#server = server;
    this.#folder = folder;
    this.port = port;
  }

  static async start(behind: readonly number[]): Promise<Balancer> {
    const folder = await folderFor({});
    const port = await freePort();
    const config = join(folder, 'nginx.conf');
    writeFileSync(config, settings(folder, port, behind));
    const balancer = new Balancer(new Started(PROGRAM ?? '', ['-p', folder, '-c', config]), folder, port);
    await until('nginx', () => listens(port));
    return balancer;
  }

  async stop(): Promise<void> {
    await this.#server.end('SIGTERM');
    removed(this.#folder);
  }
}
