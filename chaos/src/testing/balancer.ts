import { startNginx } from '../../../packages/http/src/testing/nginx.js';

/** A real nginx in front of servers, as docs/deploying.md says it. */
export const startBalancer = (behind: readonly number[]): ReturnType<typeof startNginx> =>
  startNginx({
    whole: `  upstream office {
${behind.map((port) => `    server 127.0.0.1:${port} max_fails=0;`).join('\n')}
    keepalive 32;
  }`,
    location: `      proxy_pass http://office;
      proxy_set_header Connection "";
      proxy_next_upstream error timeout http_503 non_idempotent;
      proxy_buffering off;`,
  });
