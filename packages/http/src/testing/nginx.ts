import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { connect, createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import type { Hosted } from './hosted.js';

const NGINX = '/usr/sbin/nginx';

/** Whether it is installed here. */
export const hasNginx = (): boolean => existsSync(NGINX);

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const { port } = server.address() as { port: number };
      server.close(() => resolve(port));
    });
  });

const settings = (folder: string, port: number, behind: number): string => `
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
  gzip on;
  gzip_min_length 0;
  gzip_proxied any;
  gzip_types application/json;
  server {
    listen 127.0.0.1:${port};
    location / {
      proxy_pass http://127.0.0.1:${behind};
      proxy_http_version 1.1;
      proxy_set_header Host $host;
    }
  }
}
`;

const isListening = (port: number): Promise<boolean> =>
  new Promise((resolve) => {
    const socket = connect(port, '127.0.0.1', () => {
      socket.destroy();
      resolve(true);
    });
    socket.on('error', () => resolve(false));
  });

/** A real nginx in front of a server, compressing what it sends on. */
export const behindNginx = async (server: Hosted): Promise<Hosted> => {
  const folder = mkdtempSync(join(tmpdir(), 'gribo-nginx-'));
  const port = await freePort();
  writeFileSync(join(folder, 'nginx.conf'), settings(folder, port, server.port));
  const nginx = spawn(NGINX, ['-p', folder, '-c', join(folder, 'nginx.conf')], { stdio: 'ignore' });
  while (!(await isListening(port))) {
    if (nginx.exitCode !== null) throw new Error(`nginx ended with ${nginx.exitCode}`);
    await wait(20);
  }
  return {
    port,
    close: async () => {
      const ended = once(nginx, 'exit');
      nginx.kill('SIGTERM');
      await ended;
      rmSync(folder, { recursive: true });
      await server.close();
    },
  };
};
