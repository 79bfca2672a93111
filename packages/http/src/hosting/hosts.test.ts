import { createServer, get } from 'node:http';
import { gunzipSync } from 'node:zlib';
import compress from '@fastify/compress';
import cors from '@fastify/cors';
import { expect } from 'chai';
import express from 'express';
import fastify from 'fastify';
import { fastifyRoutes, form, nodeListener, serve, standardFormats } from '../index.js';
import { openStore } from '../testing/ask.js';
import { type Hosted, hosted } from '../testing/hosted.js';
import { office } from '../testing/office.js';

describe('in Fastify', () => {
  let at: Hosted;
  before(async () => {
    const app = fastify();
    await app.register(cors, { origin: 'https://office.example' });
    await app.register(compress, { threshold: 0 });
    await app.register(fastifyRoutes(serve(office, { store: openStore() })));
    await app.listen({ port: 0, host: '127.0.0.1' });
    const { port } = app.server.address() as { port: number };
    at = { port, close: () => app.close() };
  });
  after(() => at.close());

  it('the headers of the host’s hooks are sent', async () => {
    const { headers } = await fetch(`http://127.0.0.1:${at.port}/vessels/1`, {
      headers: { origin: 'https://office.example' },
    });
    expect(headers.get('access-control-allow-origin')).to.equal('https://office.example');
    expect(headers.get('etag')).to.match(/^"/);
  });

  it('responses are compressed as the host says', async () => {
    const { encoding, bytes } = await new Promise<{ encoding: unknown; bytes: Buffer }>((resolve, reject) => {
      const headers = { 'accept-encoding': 'gzip' };
      get({ host: '127.0.0.1', port: at.port, path: '/vessels/1', headers }, (response) => {
        const parts: Buffer[] = [];
        response.on('data', (part: Buffer) => parts.push(part));
        response.on('end', () =>
          resolve({ encoding: response.headers['content-encoding'], bytes: Buffer.concat(parts) }),
        );
      }).on('error', reject);
    });
    expect(encoding).to.equal('gzip');
    expect(gunzipSync(bytes).toString()).to.contain('"name":"Anselma"');
  });

  it('bodies, problems and responses without content are as anywhere', async () => {
    const post = (body: string) =>
      fetch(`http://127.0.0.1:${at.port}/operators`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body,
      });
    expect((await post('{"name":"Fast"}')).status).to.equal(201);
    expect((await post('{"name":5}')).status).to.equal(422);
    const gone = await fetch(`http://127.0.0.1:${at.port}/vessels/5`, { method: 'DELETE' });
    expect([gone.status, await gone.text()]).to.deep.equal([204, '']);
    const head = await fetch(`http://127.0.0.1:${at.port}/vessels/1`, { method: 'HEAD' });
    expect([head.status, await head.text()]).to.deep.equal([200, '']);
  });
});

describe('in Express behind a body parser', () => {
  const host = async (...parsers: express.RequestHandler[]): Promise<Hosted> => {
    const app = express();
    for (const parser of parsers) app.use(parser);
    app.use(nodeListener(serve(office, { store: openStore() })));
    return hosted(createServer(app));
  };

  for (const [name, parser] of Object.entries({
    'express.json()': express.json(),
    'express.raw()': express.raw({ type: '*/*' }),
    'express.text()': express.text({ type: '*/*' }),
  })) {
    it(`what ${name} has read is taken`, async () => {
      const at = await host(parser);
      const response = await fetch(`http://127.0.0.1:${at.port}/operators`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: '{"name":"Pärsed"}',
      });
      expect(response.status, await response.text()).to.equal(201);
      const wrong = await fetch(`http://127.0.0.1:${at.port}/operators`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: '{"name":5}',
      });
      expect(wrong.status).to.equal(422);
      expect((await fetch(`http://127.0.0.1:${at.port}/vessels/1`)).status).to.equal(200);
      await at.close();
    });
  }

  it('what express.urlencoded() has read is taken, where forms are', async () => {
    const app = express();
    app.use(express.urlencoded({ extended: false }));
    app.use(nodeListener(serve(office, { store: openStore(), formats: [...standardFormats, form] })));
    const at = await hosted(createServer(app));
    const send = (body: string) =>
      fetch(`http://127.0.0.1:${at.port}/operators`, {
        method: 'POST',
        headers: { 'content-type': 'application/x-www-form-urlencoded' },
        body,
      });
    expect((await send('name=A%26B+%2B')).status).to.equal(201);
    const operators = (await (await fetch(`http://127.0.0.1:${at.port}/operators`)).json()) as {
      name: string;
    }[];
    expect(operators.at(-1)?.name).to.equal('A&B +');
    expect((await send('nmae=A')).status).to.equal(422);
    await at.close();
  });
});
