import { createServer } from 'node:http';
import { type AddressInfo, connect } from 'node:net';
import { expect } from 'chai';
import fastify from 'fastify';
import { memoryStore } from 'gribo';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { type FetchHandler, fastifyRoutes, nodeListener, type ServeOptions, serve } from '../index.js';
import { type Hosted, hosted, raw } from '../testing/hosted.js';
import { office, VESSEL } from '../testing/office.js';

type Options = Omit<ServeOptions<typeof office>, 'store'>;

const handlerOf = (options: Options) =>
  serve(office, { store: memoryStore(stock, stockRows), log: { error: () => undefined }, ...options });

type Hosting = (handle: FetchHandler) => Promise<Hosted>;

const onNode: Hosting = (handle) => hosted(createServer(nodeListener(handle)));
const onFastify: Hosting = async (handle) => {
  const app = fastify();
  await app.register(fastifyRoutes(handle));
  await app.listen({ port: 0, host: '127.0.0.1' });
  const { port } = app.server.address() as AddressInfo;
  return { port, close: () => app.close() };
};

/** The same API on requests as Node has them, and, behind a function of an application's own, on those of Fetch. */
const bothWays = async (host: Hosting, options: Options): Promise<readonly [Hosted, Hosted]> => {
  const wrapped = handlerOf(options);
  return [await host(handlerOf(options)), await host((request) => wrapped(request))];
};

/** What came back, without what differs from one moment, or one way of saying how long it is, to the other. */
const essence = (text: string): object => {
  const [head = '', ...rest] = text.split('\r\n\r\n');
  const [status, ...lines] = head.split('\r\n');
  const headers = lines
    .map((line) => line.replace(/^[^:]+/, (name) => name.toLowerCase()))
    .filter((line) => !/^(?:date|connection|keep-alive|content-length|transfer-encoding):/.test(line))
    .sort();
  // In chunks, or with its length: the same content.
  const content = rest.join('\r\n\r\n').replaceAll(/(?:^|\r\n)[\da-f]+\r\n/g, '');
  return { status, headers, content: content.replace(/\r\n$/, '').replace(/urn:uuid:[\da-f-]+/, 'urn:uuid') };
};

const BODY = JSON.stringify(VESSEL);
const posted = (body: string, headers = '', path = '/vessels'): string =>
  `POST ${path} HTTP/1.1\r\nHost: o.test\r\nConnection: close\r\nContent-Type: application/json\r\n${headers}Content-Length: ${Buffer.byteLength(body)}\r\n\r\n${body}`;
const got = (path: string, headers = '', method = 'GET'): string =>
  `${method} ${path} HTTP/1.1\r\nHost: o.test\r\nConnection: close\r\n${headers}\r\n`;

const REQUESTS: Readonly<Record<string, string>> = {
  'a list': got('/vessels'),
  'a page in another order': got('/vessels?size=2&page=2'),
  'one row': got('/vessels/1'),
  'the head of one': got('/vessels/1', '', 'HEAD'),
  'what is allowed': got('/vessels/1', '', 'OPTIONS'),
  'no such row': got('/vessels/99'),
  'no such path': got('/nothing'),
  'another method': got('/vessels/1', '', 'TRACE'),
  'what is not changed': got('/vessels/1', 'If-None-Match: *\r\n'),
  'another format': got('/vessels', 'Accept: text/csv\r\n'),
  'a format that there is not': got('/vessels', 'Accept: image/png\r\n'),
  'a header twice': got('/vessels', 'Accept: text/html\r\nAccept: application/json;q=0.5\r\n'),
  'a path with dots': got('/vessels/../vessels/1'),
  'a path with escaped dots': got('/vessels/%2e%2e/vessels/1'),
  'a path that begins twice': got('//vessels/1'),
  'a path that is escaped': got('/vessel%73/1'),
  'a path that is badly escaped': got('/vessels/%E0%A4'),
  'a query to be escaped': got("/vessels?name='Tern'"),
  'characters that are none of a URL': got('/vessels?name=Tér<n>'),
  'a path that backs away': got('/vessels\\1'),
  'an unknown parameter': got('/vessels?nonsense=1'),
  'a host of its own kind': got('/vessels/1').replace('o.test', '[::1]:80'),
  'a host that is none': got('/vessels/1').replace('o.test', 'o/test'),
  'a new row': posted(BODY),
  'a new row in chunks': `POST /vessels HTTP/1.1\r\nHost: o.test\r\nConnection: close\r\nContent-Type: application/json\r\nTransfer-Encoding: chunked\r\n\r\n${BODY.length.toString(16)}\r\n${BODY}\r\n0\r\n\r\n`,
  'a body that is none': posted('{"name"'),
  'a body with members that are wrong': posted('{"name":1,"nme":2}'),
  'an empty body': posted(''),
  'a body of another type': posted(BODY, 'Content-Encoding: gzip\r\n'),
  'a type twice': posted(BODY, 'Content-Type: text/csv\r\n'),
  'a body that is too long': posted(BODY.replace('{', `{${' '.repeat(3000)}`)),
  'a body where none is taken': posted(BODY, '', '/vessels/1'),
};

describe('requests of node:http', () => {
  const caller = (request: Request) => ({
    audience: request.headers.get('host') === null ? null : ('office' as const),
  });

  for (const [about, host, options] of [
    ['by nobody', onNode, {}],
    ['by callers', onNode, { caller }],
    ['by callers in Fastify', onFastify, { caller }],
  ] as const) {
    describe(`${about}: answered as Node has them, and as Fetch has them`, () => {
      let servers: readonly Hosted[] = [];
      before(async () => {
        servers = await bothWays(host, { ...options, limits: { body: 2000 } } as Options);
      });
      after(() => Promise.all(servers.map((server) => server.close())));
      for (const [name, request] of Object.entries(REQUESTS)) {
        it(name, async () => {
          const [direct, fetched] = await Promise.all(servers.map(({ port }) => raw(port, request)));
          expect(essence(direct ?? '')).to.deep.equal(essence(fetched ?? ''));
        });
      }
    });
  }

  it('are of many kinds, and answered in as many ways', async () => {
    const { port, close } = await hosted(createServer(nodeListener(handlerOf({}))));
    const answers = await Promise.all(Object.values(REQUESTS).map((request) => raw(port, request)));
    const statuses = answers.map((answer) => Number(answer.slice(9, 12)));
    expect([...new Set(statuses)].sort()).to.deep.equal([200, 201, 204, 304, 400, 404, 405, 406, 415, 422]);
    await close();
  });

  it('are requests of Fetch to applications, made as far as they are looked at', async () => {
    const seen: unknown[] = [];
    const handle = handlerOf({
      caller: async (request) => {
        seen.push(request instanceof Request, request.method, new URL(request.url).pathname);
        seen.push(request.headers.get('x-two'), request.bodyUsed, request.signal.aborted);
        seen.push((await request.clone().json()).name);
        return null;
      },
    } as Options);
    const server = await hosted(createServer(nodeListener(handle)));
    const answer = await raw(server.port, posted(BODY, 'X-Two: a\r\nX-Two: b\r\n'));
    expect(answer).to.match(/^HTTP\/1\.1 201 /);
    expect(seen).to.deep.equal([true, 'POST', '/vessels', 'a, b', false, false, VESSEL.name]);
    await server.close();
  });

  it('have the URL that the Fetch standard makes of it, and say whether they came encrypted', async () => {
    const urls = async (
      isDirect: boolean,
      request: string,
      isEncrypted = false,
    ): Promise<readonly string[]> => {
      const seen: string[] = [];
      const handle = handlerOf({
        caller: ({ url }) => {
          seen.push(url);
          return null;
        },
      } as Options);
      const server = createServer(nodeListener(isDirect ? handle : (asked) => handle(asked)));
      // As the sockets of TLS say it.
      if (isEncrypted) server.on('connection', (socket) => Object.assign(socket, { encrypted: true }));
      const at = await hosted(server);
      await raw(at.port, request);
      await at.close();
      return seen;
    };
    for (const host of [
      'o.test',
      'O.Test',
      'o.test:80',
      'o.test:8080',
      '127.1',
      '0x7f.1',
      '127.0.0.1',
      'o_o',
      '[::1]:9',
    ]) {
      const request = got('/vessels/1?fields=name').replace('o.test', host);
      expect(await urls(true, request), host).to.deep.equal(await urls(false, request));
    }
    expect(await urls(true, got('/vessels/1'), true)).to.deep.equal(['https://o.test/vessels/1']);
    expect(await urls(false, got('/vessels/1'), true)).to.deep.equal(['https://o.test/vessels/1']);
  });

  it('tell applications that their client has gone', async () => {
    for (const isDirect of [true, false]) {
      let seen: (aborted: boolean) => void = () => undefined;
      const told = new Promise<boolean>((resolve) => {
        seen = resolve;
      });
      let asked: () => void = () => undefined;
      const begun = new Promise<void>((resolve) => {
        asked = resolve;
      });
      const handle = handlerOf({
        caller: async ({ signal }) => {
          signal.addEventListener('abort', () => seen(signal.aborted));
          asked();
          await told;
          return null;
        },
      } as Options);
      const server = await hosted(
        createServer(nodeListener(isDirect ? handle : (request) => handle(request))),
      );
      const socket = connect(server.port, '127.0.0.1', () => socket.write(got('/vessels/1')));
      await begun;
      socket.destroy();
      expect(await told, `${isDirect}`).to.equal(true);
      await server.close();
    }
  });

  it('are answered with the length of what is sent whole', async () => {
    const { port, close } = await hosted(createServer(nodeListener(handlerOf({}))));
    const lengthOf = async (request: string): Promise<string | undefined> =>
      /\r\ncontent-length: (\d+)/i.exec(await raw(port, request))?.[1];
    for (const request of [
      got('/vessels/1'),
      got('/vessels/99'),
      posted(BODY),
      got('/vessels/1', '', 'HEAD'),
    ])
      expect(Number(await lengthOf(request))).to.be.above(20);
    // One that has no content by its status has no length either (RFC 9110, section 8.6).
    expect(await lengthOf(got('/vessels/1', '', 'OPTIONS'))).to.equal(undefined);
    await close();
  });
});
