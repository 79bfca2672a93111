import { createServer } from 'node:http';
import { connect as connectHttp2, constants, createServer as createHttp2 } from 'node:http2';
import { connect, type Socket } from 'node:net';
import { text } from 'node:stream/consumers';
import compress from '@fastify/compress';
import cors from '@fastify/cors';
import { expect } from 'chai';
import fastify from 'fastify';
import { memoryStore } from 'gribo';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { type FetchHandler, fastifyRoutes, nodeListener, serve } from '../index.js';
import { keepingLog } from '../testing/ask.js';
import { type Hosted, hosted, raw } from '../testing/hosted.js';
import { HOSTS } from '../testing/hosts.js';
import { behindNginx, hasNginx } from '../testing/nginx.js';
import { office } from '../testing/office.js';

/** Every way of hosting an API, at paths that start with `/api`. */
const ALL: Readonly<Record<string, (handle: FetchHandler) => Promise<Hosted>>> = {
  ...HOSTS,
  'Fastify with CORS and compression': async (handle) => {
    const app = fastify();
    await app.register(cors, { origin: true, strictPreflight: false });
    await app.register(compress, { threshold: 0 });
    await app.register(fastifyRoutes(handle), { prefix: '/api' });
    await app.listen({ port: 0, host: '127.0.0.1' });
    const { port } = app.server.address() as { port: number };
    return { port, close: () => app.close() };
  },
  ...(hasNginx()
    ? {
        'node:http behind nginx': async (handle) =>
          behindNginx(await hosted(createServer(nodeListener(handle)))),
      }
    : {}),
};

/** Two thousand operators: more than is sent as a whole. */
const openMany = () =>
  memoryStore(stock, {
    ...stockRows,
    operator: [
      ...(stockRows['operator'] as readonly object[]),
      ...Array.from({ length: 2000 }, (_, i) => ({ id: 100 + i, name: `Lines ${i} ü潮`, parentId: null })),
    ],
  });

const HEAD = 'Host: o\r\nContent-Type: application/json\r\nConnection: close\r\n';

/** What a socket gives until it has said enough. */
const until = (socket: Socket, enough: RegExp): Promise<string> =>
  new Promise((resolve, reject) => {
    let got = '';
    socket.on('data', (chunk) => {
      got += String(chunk);
      if (enough.test(got)) resolve(got);
    });
    socket.on('error', reject);
    socket.on('close', () => reject(new Error(`closed after ${JSON.stringify(got)}`)));
  });

describe('the table of hosts', () => {
  if (!hasNginx()) it.skip('nginx is not installed', () => undefined);

  for (const [name, open] of Object.entries(ALL)) {
    describe(name, () => {
      const store = openMany();
      const handle = serve(office, { store, base: '/api' });
      const direct = async (path: string): Promise<string> =>
        (await handle(new Request(`http://o${path}`))).text();
      let at: Hosted;
      let base: string;
      before(async () => {
        at = await open(handle);
        base = `http://127.0.0.1:${at.port}/api`;
      });
      after(() => at.close());

      it('sends the same bytes: a row, a long list, a problem', async () => {
        for (const path of ['/vessels/1', '/operators', '/vessels/999', '/vessels?nothing=1']) {
          const response = await fetch(base + path);
          expect(await response.text(), path).to.equal(await direct(`/api${path}`));
        }
        const lines = await fetch(`${base}/operators`, { headers: { accept: 'application/x-ndjson' } });
        expect((await lines.text()).trim().split('\n').length).to.equal(await store.count('operator'));
      });

      it('takes a body in chunks', async () => {
        const chunks = ['{"name":"In ', 'chunks ü"}'].map(
          (part) => `${Buffer.byteLength(part).toString(16)}\r\n${part}\r\n`,
        );
        const request = `POST /api/operators HTTP/1.1\r\n${HEAD}Transfer-Encoding: chunked\r\n\r\n${chunks.join('')}0\r\n\r\n`;
        const got = await raw(at.port, request);
        expect(got).to.match(/^HTTP\/1\.1 201 /);
        // Nothing is sent back, and nothing stands for it.
        expect(got).not.to.contain('null');
        const made = (await store.list({ entity: 'operator' } as never)) as { name: string }[];
        expect(made.at(-1)?.name).to.equal('In chunks ü');
      });

      it('answers what is sent at once in turn', async () => {
        const get = (id: number, end: string): string =>
          `GET /api/vessels/${id}?fields=id HTTP/1.1\r\nHost: o\r\n${end}\r\n`;
        const got = await raw(at.port, get(1, '') + get(2, '') + get(3, 'Connection: close\r\n'));
        expect([...got.matchAll(/\{"id":(\d)\}/g)].map(([, id]) => id)).to.deep.equal(['1', '2', '3']);
      });

      it('says that it goes on where it is asked first', async () => {
        const body = '{"name":"Expected"}';
        const socket = connect(at.port, '127.0.0.1');
        socket.write(
          `POST /api/operators HTTP/1.1\r\n${HEAD}Expect: 100-continue\r\nContent-Length: ${body.length}\r\n\r\n`,
        );
        expect(await until(socket, /\r\n\r\n/)).to.match(/^HTTP\/1\.1 100 /);
        socket.write(body);
        expect(await until(socket, /HTTP\/1\.1 201 /)).to.match(/location: /i);
        socket.destroy();
      });

      it('survives an upload that breaks off, and stores nothing of it', async () => {
        const before = await store.count('operator');
        await new Promise<void>((resolve, reject) => {
          const socket = connect(at.port, '127.0.0.1', () => {
            socket.write(
              `POST /api/operators HTTP/1.1\r\n${HEAD}Content-Length: 100\r\n\r\n{"name":"Half`,
              () => {
                socket.destroy();
              },
            );
          });
          socket.on('close', () => resolve());
          socket.on('error', reject);
        });
        expect((await fetch(`${base}/vessels/1`)).status).to.equal(200);
        expect(await store.count('operator')).to.equal(before);
      });

      it('answers HEAD and OPTIONS, and knows what its caller has', async () => {
        const head = await fetch(`${base}/vessels/1`, { method: 'HEAD' });
        expect([head.status, await head.text()]).to.deep.equal([200, '']);
        const tag = head.headers.get('etag') ?? '';
        const again = await fetch(`${base}/vessels/1`, { headers: { 'if-none-match': tag } });
        expect([again.status, await again.text()]).to.deep.equal([304, '']);
        const options = await fetch(`${base}/vessels/1`, { method: 'OPTIONS' });
        expect(options.status).to.equal(204);
        // A host that does CORS answers for all paths.
        if (!name.includes('CORS')) expect(options.headers.get('allow')).to.contain('PATCH');
      });
    });
  }

  it('node:http2: reads, writes and refuses', async () => {
    const handle = serve(office, { store: openMany(), base: '/api' });
    const server = createHttp2({}, nodeListener(handle));
    await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as { port: number };
    const session = connectHttp2(`http://127.0.0.1:${port}`);
    const ask = async (headers: Record<string, string>, body?: string) => {
      const stream = session.request(headers);
      stream.end(body);
      const status = new Promise<number>((resolve) => {
        stream.once('response', (got) => resolve(Number(got[':status'])));
      });
      return [await status, await text(stream)] as const;
    };
    const row = await ask({ ':path': '/api/vessels/1?fields=id,name' });
    expect(row).to.deep.equal([200, '{"id":1,"name":"Anselma"}']);
    const post = { ':method': 'POST', ':path': '/api/operators', 'content-type': 'application/json' };
    expect((await ask(post, '{"name":"Two"}'))[0]).to.equal(201);
    expect((await ask(post, '{"name":2}'))[0]).to.equal(422);
    const tooLarge = await ask(post, `{"name":"${'x'.repeat(2_000_000)}"}`).catch((error: unknown) => error);
    expect(tooLarge).to.have.property('0', 413);
    const [status, list] = await ask({ ':path': '/api/operators' });
    expect([status, (JSON.parse(list) as unknown[]).length]).to.deep.equal([200, 2004]);
    session.close();
    server.close();
  });

  it('node:http2: a list that fails midway resets its stream, and no other', async () => {
    const failing = async function* () {
      for (let id = 1; id < 3000; id++) yield { id, name: `Lines ${id}` };
      throw new Error('the database went away');
    };
    const { log, told } = keepingLog();
    const handle = serve(office, { store: openMany(), log, handlers: { 'operators.list': () => failing() } });
    const server = createHttp2({}, nodeListener(handle));
    await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
    const session = connectHttp2(`http://127.0.0.1:${(server.address() as { port: number }).port}`);
    const stream = session.request({ ':path': '/operators' });
    stream.resume();
    const code = await new Promise<number | undefined>((resolve) => {
      stream.on('error', () => undefined);
      stream.on('close', () => resolve(stream.rstCode));
    });
    expect(code).to.equal(constants.NGHTTP2_INTERNAL_ERROR);
    expect(told.map(({ message }) => message)).to.deep.equal([
      'a list failed midway; the connection was broken',
    ]);
    const other = session.request({ ':path': '/vessels/1?fields=id' });
    expect(await text(other)).to.equal('{"id":1}');
    session.close();
    server.close();
  });

  (hasNginx() ? it : it.skip)(
    'nginx weakens the tags of what it compresses; they match where that is said',
    async () => {
      for (const [weakenedTags, status] of [
        ['refuse', 412],
        ['match', 200],
      ] as const) {
        const handle = serve(office, { store: openMany(), weakenedTags });
        const at = await behindNginx(await hosted(createServer(nodeListener(handle))));
        const url = `http://127.0.0.1:${at.port}/vessels/1`;
        const read = await fetch(url, { headers: { 'accept-encoding': 'gzip' } });
        const tag = read.headers.get('etag') ?? '';
        expect(tag).to.match(/^W\/"/);
        const headers = { 'content-type': 'application/json', 'if-match': tag };
        const amended = await fetch(url, { method: 'PATCH', headers, body: '{"name":"Proxied"}' });
        expect(amended.status).to.equal(status);
        await at.close();
      }
    },
  );
});
