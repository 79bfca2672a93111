import { readFile } from 'node:fs/promises';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { extname, join, normalize } from 'node:path';
import { fileURLToPath } from 'node:url';
import { nodeListener } from '@gribo/http';
import { handle } from './api.js';

const PAGE = fileURLToPath(new URL('../dist/', import.meta.url));

/** Nothing from elsewhere, no inline scripts, and no code made from text. */
const POLICY =
  "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; connect-src 'self'; font-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";

const TYPES: Readonly<Record<string, string>> = {
  '.html': 'text/html; charset=utf-8',
  '.js': 'text/javascript; charset=utf-8',
  '.css': 'text/css; charset=utf-8',
};

const fileAt = async (path: string): Promise<Response> => {
  const inside = normalize(path === '/' ? '/index.html' : path);
  try {
    const content = await readFile(join(PAGE, inside));
    const type = TYPES[extname(inside)] ?? 'application/octet-stream';
    return new Response(content, {
      headers: {
        'content-type': type,
        'content-security-policy': POLICY,
        'x-content-type-options': 'nosniff',
      },
    });
  } catch (error) {
    if (!['ENOENT', 'EISDIR'].includes((error as NodeJS.ErrnoException).code ?? '')) throw error;
    return new Response('There is nothing here.', { status: 404 });
  }
};

const answer = async (request: Request): Promise<Response> => {
  const { pathname } = new URL(request.url);
  return pathname.startsWith('/api/') ? handle(request) : fileAt(pathname);
};

const server = createServer(nodeListener(answer));
server.listen(Number(process.env['PORT'] ?? 8081), '127.0.0.1', () => {
  const { port } = server.address() as AddressInfo;
  process.stdout.write(`Merrow Quayside is at http://127.0.0.1:${port}; Ctrl+C ends it.\n`);
});

for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => process.exit(0));
