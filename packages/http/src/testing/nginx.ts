import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import type { Hosted } from './hosted.js';
import { freePort, listens } from './ports.js';

const NGINX = '/usr/sbin/nginx';

/** Whether it is installed here. */
export const hasNginx = (): boolean => existsSync(NGINX);

/** What is told to it of a place. */
export interface NginxPlace {
  /** Lines for the server as a whole. */
  readonly whole: string;
  /** Lines for what it passes on. */
  readonly location: string;
}

const settings = (folder: string, port: number, { whole, location }: NginxPlace): string => `
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
${whole}
  server {
    listen 127.0.0.1:${port};
    location / {
      proxy_http_version 1.1;
      proxy_set_header Host $host;
${location}
    }
  }
}
`;

/** Starts a real nginx. */
export const startNginx = async (place: NginxPlace): Promise<Hosted> => {
  const folder = mkdtempSync(join(tmpdir(), 'gribo-nginx-'));
  const port = await freePort();
  writeFileSync(join(folder, 'nginx.conf'), settings(folder, port, place));
  const nginx = spawn(NGINX, ['-p', folder, '-c', join(folder, 'nginx.conf')], { stdio: 'ignore' });
  while (!(await listens(port))) {
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
    },
  };
};

const COMPRESSING = `  gzip on;
  gzip_min_length 0;
  gzip_proxied any;
  gzip_types application/json;`;

/** One in front of a server, compressing what it sends on. */
export const behindNginx = async (server: Hosted): Promise<Hosted> => {
  const location = `      proxy_pass http://127.0.0.1:${server.port};`;
  const nginx = await startNginx({ whole: COMPRESSING, location });
  return {
    port: nginx.port,
    close: async () => {
      await nginx.close();
      await server.close();
    },
  };
};
