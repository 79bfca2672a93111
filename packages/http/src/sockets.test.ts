import { createServer, request as httpRequest } from 'node:http';
import { connect } from 'node:net';
import { expect } from 'chai';
import { api, collection, list } from 'gribo';
import { stock } from '../../gribo/src/testing/stock.js';
import { nodeListener, serve, standardFormats } from './index.js';
import { keepingLog, openStore } from './testing/ask.js';
import { type Hosted, hosted, raw } from './testing/hosted.js';
import { HOSTS } from './testing/hosts.js';
import { OperatorName, office } from './testing/office.js';

describe('over real sockets', () => {
  for (const [name, host] of Object.entries(HOSTS)) {
    describe(name, () => {
      let at: Hosted;
      let base: string;
      before(async () => {
        at = await host(serve(office, { store: openStore(), base: '/api' }));
        base = `http://127.0.0.1:${at.port}/api`;
      });
      after(() => at.close());

      it('reads, writes and refuses', async () => {
        const read = await fetch(`${base}/vessels/1?fields=id,name`);
        expect([read.status, await read.json()]).to.deep.equal([200, { id: 1, name: 'Anselma' }]);
        expect(read.headers.get('content-length')).to.equal('25');
        const made = await fetch(`${base}/operators`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: '{"name":"Sökét"}',
        });
        expect([made.status, made.headers.get('location')]).to.deep.equal([201, '/api/operators/4']);
        const amended = await fetch(`${base}/vessels/1`, {
          method: 'PATCH',
          headers: { 'content-type': 'application/merge-patch+json' },
          body: '{"name":"Over Sockets"}',
        });
        expect(await amended.json()).to.include({ name: 'Over Sockets' });
        expect((await fetch(`${base}/vessels/5`, { method: 'DELETE' })).status).to.equal(204);
        const head = await fetch(`${base}/vessels/1`, { method: 'HEAD' });
        expect([head.status, await head.text()]).to.deep.equal([200, '']);
        expect(Number(head.headers.get('content-length'))).to.be.above(100);
        const tag = head.headers.get('etag') ?? '';
        expect((await fetch(`${base}/vessels/1`, { headers: { 'if-none-match': tag } })).status).to.equal(
          304,
        );
        expect((await fetch(`${base}/nothing`)).headers.get('content-type')).to.equal(
          'application/problem+json',
        );
        expect((await fetch(`${base}/vessels/1`, { method: 'POST' })).status).to.equal(405);
        expect((await fetch(`${base}/vessels/1`, { method: 'OPTIONS' })).headers.get('allow')).to.contain(
          'PATCH',
        );
      });
    });
  }
});

const post = (length: number, body: string): string =>
  `POST /operators HTTP/1.1\r\nHost: o\r\nContent-Type: application/json\r\nContent-Length: ${length}\r\nConnection: close\r\n\r\n${body}`;

describe('bodies over the wire', () => {
  let at: Hosted;
  const store = openStore();
  before(async () => {
    at = await hosted(
      createServer(nodeListener(serve(office, { store, limits: { receiving: 500, body: 1000 } }))),
    );
  });
  after(() => at.close());

  it('that are slow: 408, and the connection is closed', async () => {
    expect(await raw(at.port, post(50, '{"name":'))).to.match(/^HTTP\/1\.1 408 /);
  });

  it('that are longer than said: what is too much is no part of them', async () => {
    const got = await raw(at.port, post(14, '{"name":"Long"}}}}}}'));
    expect(got).to.match(/^HTTP\/1\.1 400 /);
  });

  it('that are too long, said or not: 413', async () => {
    expect(await raw(at.port, post(5000, '{'))).to.match(/^HTTP\/1\.1 413 /);
    const chunk = 'x'.repeat(600);
    const chunked = `POST /operators HTTP/1.1\r\nHost: o\r\nContent-Type: application/json\r\nTransfer-Encoding: chunked\r\nConnection: close\r\n\r\n${`258\r\n${chunk}\r\n`.repeat(3)}0\r\n\r\n`;
    expect(await raw(at.port, chunked)).to.match(/^HTTP\/1\.1 413 /);
  });

  it('whose client goes away: nothing is stored, and the server goes on', async () => {
    const before = await store.count('operator');
    await new Promise<void>((resolve) => {
      const socket = connect(at.port, '127.0.0.1', () => {
        socket.write(post(100, '{"name":"Gone"'));
        setTimeout(() => socket.destroy(), 20);
      });
      socket.on('close', () => resolve());
    });
    expect((await fetch(`http://127.0.0.1:${at.port}/operators/1`)).status).to.equal(200);
    expect(await store.count('operator')).to.equal(before);
  });
});

describe('long lists over the wire', () => {
  const long = api({
    title: 'Long',
    version: '1',
    endpoints: { operators: collection('/operators', stock.operator, { list: list(OperatorName) }) },
  });
  const row = (id: number): object => ({ id, name: `Operator number ${id} with a name of some length` });

  const hostRows = async (rows: () => AsyncIterable<object>) => {
    const { log, told } = keepingLog();
    const handle = serve(long, { store: openStore(), handlers: { 'operators.list': rows }, log });
    return { told, at: await hosted(createServer(nodeListener(handle))) };
  };

  it('come whole, with the headers of any response', async () => {
    async function* many(): AsyncGenerator<object> {
      for (let i = 0; i < 2000; i++) yield row(i);
    }
    const { at, told } = await hostRows(many);
    const response = await fetch(`http://127.0.0.1:${at.port}/operators`, {
      headers: { accept: 'application/x-ndjson' },
    });
    const { headers } = response;
    expect([response.status, headers.get('content-length')]).to.deep.equal([200, null]);
    expect(headers.get('content-type')).to.equal('application/x-ndjson');
    expect(headers.get('vary')).to.contain('Accept');
    expect((await response.text()).trim().split('\n')).to.have.length(2000);
    expect(told).to.deep.equal([]);
    await at.close();
  });

  it('end where their client goes away', async () => {
    let made = 0;
    let ended = false;
    async function* endless(): AsyncGenerator<object> {
      try {
        for (;;) {
          yield row(made++);
        }
      } finally {
        ended = true;
      }
    }
    const { at, told } = await hostRows(endless);
    await new Promise<void>((resolve, reject) => {
      const request = httpRequest(
        { port: at.port, host: '127.0.0.1', path: '/operators', headers: { accept: 'application/x-ndjson' } },
        (response) => {
          response.once('data', () => {
            request.destroy();
            resolve();
          });
        },
      );
      request.on('error', reject);
      request.end();
    });
    while (!ended) await new Promise((resolve) => setTimeout(resolve, 20));
    expect(ended).to.equal(true);
    expect(told).to.deep.equal([]);
    await at.close();
  });

  it('are made no faster than they are read', async () => {
    let made = 0;
    async function* endless(): AsyncGenerator<object> {
      for (;;) yield row(made++);
    }
    const { at } = await hostRows(endless);
    const socket = connect(at.port, '127.0.0.1', () => {
      socket.write('GET /operators HTTP/1.1\r\nHost: o\r\n\r\n');
    });
    socket.pause();
    let last = -1;
    let still = 0;
    while (still < 5) {
      still = made > 0 && made === last ? still + 1 : 0;
      last = made;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    // It stands still while nobody reads.
    expect(made).to.be.below(1_000_000);
    socket.destroy();
    await at.close();
  });

  for (const { mediaTypes } of standardFormats) {
    const [accept = ''] = mediaTypes;
    it(`that fail midway break the connection as ${accept}, and are logged`, async () => {
      async function* failing(): AsyncGenerator<object> {
        for (let id = 0; id < 5000; id++) yield row(id);
        throw new Error('the disk is full');
      }
      const { at, told } = await hostRows(failing);
      const response = await fetch(`http://127.0.0.1:${at.port}/operators`, { headers: { accept } });
      expect(response.status).to.equal(200);
      const broken = await response.arrayBuffer().then(
        () => 'whole',
        () => 'broken',
      );
      expect(broken).to.equal('broken');
      expect(told).to.have.length(1);
      expect(told[0]?.about).to.have.nested.property('err.message', 'the disk is full');
      await at.close();
    });
  }

  it('that fail at once are a problem', async () => {
    // biome-ignore lint/correctness/useYield: it fails before
    async function* failing(): AsyncGenerator<object> {
      throw new Error('no table');
    }
    const { at, told } = await hostRows(failing);
    const response = await fetch(`http://127.0.0.1:${at.port}/operators`);
    expect([response.status, told.length]).to.deep.equal([500, 1]);
    await at.close();
  });

  it('end their source for HEAD too', async () => {
    let ended = false;
    async function* many(): AsyncGenerator<object> {
      try {
        for (let id = 0; ; id++) yield row(id);
      } finally {
        ended = true;
      }
    }
    const { at } = await hostRows(many);
    const response = await fetch(`http://127.0.0.1:${at.port}/operators`, { method: 'HEAD' });
    expect([response.status, ended]).to.deep.equal([200, true]);
    await at.close();
  });
});
