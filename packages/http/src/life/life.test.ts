import { subscribe, unsubscribe } from 'node:diagnostics_channel';
import { Agent, createServer, request as httpRequest } from 'node:http';
import type { AddressInfo } from 'node:net';
import { expect } from 'chai';
import { GriboError, memoryStore, type Store } from 'gribo';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { nodeListener, type RequestEvent, type StatementEvent, serve } from '../index.js';
import { askOffice, JSON_BODY, keepingLog, openStore } from '../testing/ask.js';
import { office } from '../testing/office.js';

const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

describe('the health of a service', () => {
  it('is told where it is asked to be, and nothing else is', async () => {
    const ask = askOffice({ health: '/health' });
    const { status, headers, json } = await ask('GET', '/health');
    expect([status, headers.get('content-type'), headers.get('cache-control')]).to.deep.equal([
      200,
      'application/health+json',
      'no-store',
    ]);
    expect(json()).to.have.property('status', 'pass');
    expect(json()).to.have.nested.property('checks.store[0].status', 'pass');
    expect((await ask('HEAD', '/health')).text).to.equal('');
    expect((await askOffice()('GET', '/health')).status).to.equal(404);
  });

  it('is bad where the store is not there or does not answer, and is asked for once a second', async () => {
    let asked = 0;
    const ping = async (): Promise<never> => {
      asked += 1;
      throw new GriboError('UNAVAILABLE', 'database', 'at 10.0.0.7');
    };
    const ask = askOffice({ store: Object.assign(openStore(), { ping }), health: '/health' });
    const all = await Promise.all([1, 2, 3].map(() => ask('GET', '/health')));
    expect([all.map(({ status }) => status), asked]).to.deep.equal([[503, 503, 503], 1]);
    expect(all[0]?.text).to.contain('"status":"fail"').and.to.not.contain('10.0.0.7');
  });

  it('is told to whoever asks, though nobody may ask for anything else', async () => {
    const caller = (): never => {
      throw new Error('nobody');
    };
    expect((await askOffice({ caller, health: '/health' })('GET', '/health')).status).to.equal(200);
  });
});

describe('a service that goes', () => {
  /** A store that takes its time. */
  const slow = (milliseconds: number): Store =>
    Object.assign(memoryStore(stock, stockRows), {
      read: async () => {
        await pause(milliseconds);
        return { id: 1, name: 'Lantern Bay' };
      },
    });

  const hosted = async (store: Store) => {
    const handle = serve(office, { store, health: '/health', log: keepingLog().log });
    const server = createServer(nodeListener(handle));
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as AddressInfo;
    return { handle, server, port };
  };

  const get = (port: number, path: string, agent: Agent) =>
    new Promise<{ status: number; connection: string | undefined; text: string }>((resolve, reject) => {
      httpRequest({ port, path, agent, host: '127.0.0.1' }, (response) => {
        let text = '';
        response.setEncoding('utf8').on('data', (part: string) => {
          text += part;
        });
        response.on('end', () =>
          resolve({ status: response.statusCode ?? 0, connection: response.headers.connection, text }),
        );
        response.on('error', reject);
      })
        .on('error', reject)
        .end();
    });

  it('answers what it was asked, on connections that it keeps too, and resets none', async () => {
    const { handle, server, port } = await hosted(slow(1500));
    const agent = new Agent({ keepAlive: true, maxSockets: 30 });
    const kept = new Agent({ keepAlive: true, maxSockets: 1 });
    expect((await get(port, '/health', kept)).status).to.equal(200);
    const sent = Array.from({ length: 30 }, () => get(port, '/operators/1', agent));
    await pause(100);
    const closed = handle.close({ within: 5000, server });
    await pause(50);
    // What was on its way on a connection that is kept open is answered, and the connection is not kept any longer.
    const last = await get(port, '/operators/1', kept);
    expect([last.status, last.connection]).to.deep.equal([200, 'close']);
    // Those that wait to be taken are taken first: how long that is, is a matter of the machine.
    while (server.listening) await pause(5);
    const health = await new Promise((resolve) => {
      httpRequest({ port, host: '127.0.0.1', path: '/health' }, resolve)
        .on('error', () => resolve('refused'))
        .end();
    });
    expect(health, 'takes no new connections').to.equal('refused');
    const answers = await Promise.all(sent);
    expect(new Set(answers.map(({ status }) => status))).to.deep.equal(new Set([200]));
    await closed;
    expect(server.listening).to.equal(false);
    for (const one of [agent, kept]) one.destroy();
  });

  it('gives up what takes longer than it has, and tells its caller', async () => {
    const { handle, server, port } = await hosted(
      Object.assign(slow(0), {
        read: () => new Promise(() => undefined),
        scoped({ signal }: { signal: AbortSignal }) {
          const read = (): Promise<never> =>
            new Promise((_resolve, reject) => {
              signal.addEventListener('abort', () => reject(signal.reason));
            });
          return { ...memoryStore(stock), read } as unknown as Store;
        },
      }),
    );
    const agent = new Agent();
    const sent = get(port, '/operators/1', agent);
    await pause(50);
    const start = performance.now();
    await handle.close({ within: 200, server });
    expect(performance.now() - start).to.be.below(3000);
    const { status, text } = await sent;
    expect([status, text.includes('The service is going down')]).to.deep.equal([503, true]);
  });

  it('waits for a client that reads slowly: it has all of its answer', async () => {
    const rows = Array.from({ length: 400 }, (_, i) => ({ id: i + 1, name: 'x'.repeat(20_000) }));
    const handle = serve(office, { store: openStore(), handlers: { 'operators.list': () => rows } });
    const server = createServer(nodeListener(handle));
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as AddressInfo;
    const read = new Promise<number>((resolve, reject) => {
      httpRequest({ port, host: '127.0.0.1', path: '/operators' }, async (response) => {
        response.on('error', reject);
        let length = 0;
        await pause(1200);
        for await (const part of response) length += (part as Buffer).length;
        resolve(length);
      })
        .on('error', reject)
        .end();
    });
    await pause(100);
    const closed = handle.close({ within: 5000, server });
    expect(await read).to.be.above(8_000_000);
    await closed;
  });

  it('is told to be going by its health, to those who are connected', async () => {
    const handle = serve(office, { store: openStore(), health: '/health' });
    await handle.close();
    const response = await handle(new Request('http://o.test/health'));
    expect(response.status).to.equal(503);
    expect(await response.text()).to.contain('the service is going down');
  });

  it('ends lists that are being sent once they are sent, or when its time is up', async () => {
    const rows = Array.from({ length: 2000 }, (_, i) => ({ id: i + 1, name: `Operator ${i}` }));
    const handle = serve(office, { store: openStore(), handlers: { 'operators.list': () => rows } });
    const response = await handle(new Request('http://o.test/operators'));
    let isClosed = false;
    const closed = handle.close({ within: 2000 }).then(() => {
      isClosed = true;
    });
    await pause(30);
    expect(isClosed, 'while it is sent').to.equal(false);
    expect(((await response.json()) as unknown[]).length).to.equal(2000);
    await closed;
  });
});

describe('a client that goes away', () => {
  it('ends what reads for it, and nothing that changes', async () => {
    const aborted: string[] = [];
    let begun: () => void = () => undefined;
    let finish: () => void = () => undefined;
    const store: Store = Object.assign(openStore(), {
      scoped({ signal }: { signal: AbortSignal }): Store {
        const waits = (what: string) => async (): Promise<never> => {
          begun();
          await new Promise<void>((resolve) => {
            signal.addEventListener('abort', () => {
              aborted.push(what);
              resolve();
            });
            finish = resolve;
          });
          throw signal.aborted ? signal.reason : new GriboError('UNAVAILABLE', 'database', 'late');
        };
        return Object.assign(openStore(), { read: waits('read'), transaction: waits('change') });
      },
    });
    const { told, log } = keepingLog();
    const server = createServer(nodeListener(serve(office, { store, log })));
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as AddressInfo;
    const leaving = async (method: string, body?: string): Promise<void> => {
      const headers = body === undefined ? {} : JSON_BODY;
      const sent = httpRequest({ port, host: '127.0.0.1', path: '/vessels/1', method, headers });
      sent.on('error', () => undefined);
      const isBegun = new Promise<void>((resolve) => {
        begun = resolve;
      });
      sent.end(body);
      await isBegun;
      sent.destroy();
    };
    await leaving('GET');
    while (aborted.length === 0) await pause(5);
    await pause(20);
    expect([aborted, told]).to.deep.equal([['read'], []]);
    await leaving('PATCH', '{"name":"Other"}');
    await pause(200);
    expect(aborted).to.deep.equal(['read']);
    finish();
    while (told.length === 0) await pause(5);
    server.close();
    server.closeAllConnections();
  });
});

describe('those who watch a service', () => {
  const watching = async (work: () => Promise<unknown>) => {
    const seen: { started: RequestEvent[]; ended: RequestEvent[]; statements: StatementEvent[] } = {
      started: [],
      ended: [],
      statements: [],
    };
    const heard = {
      'gribo:request:start': (event: unknown) => void seen.started.push(event as RequestEvent),
      'gribo:request:end': (event: unknown) => void seen.ended.push(event as RequestEvent),
      'gribo:statement': (event: unknown) => void seen.statements.push(event as StatementEvent),
    };
    for (const [name, hear] of Object.entries(heard)) subscribe(name, hear);
    try {
      await work();
    } finally {
      for (const [name, hear] of Object.entries(heard)) unsubscribe(name, hear);
    }
    return seen;
  };

  const counting: Store = Object.assign(openStore(), {
    scoped({ ran }: { ran?: (statement: string, milliseconds: number) => void }): Store {
      const store = openStore();
      return Object.assign(store, {
        list: async (plan: never, query: never) => {
          ran?.('select 1', 1.5);
          return openStore().list(plan, query);
        },
      });
    },
  });

  it('see each request with its endpoint, status, rows, statements and time', async () => {
    const ask = askOffice({ store: counting, log: keepingLog().log });
    const { started, ended, statements } = await watching(async () => {
      await ask('GET', '/vessels', { 'x-audience': 'agent' });
      await ask('GET', '/operators/1');
      await ask('POST', '/vessels', JSON_BODY, '{}');
      await ask('GET', '/nowhere');
    });
    expect(started).to.deep.equal(ended);
    expect(
      ended.map(({ method, endpoint, audience, status, rows, statements: many }) => [
        method,
        endpoint,
        audience,
        status,
        rows,
        many,
      ]),
    ).to.deep.equal([
      ['GET', 'vessels.list', 'agent', 200, 2, 1],
      ['GET', 'operators.read', null, 200, 1, 0],
      ['POST', 'vessels.create', null, 422, null, 0],
      ['GET', null, null, 404, null, 0],
    ]);
    expect(ended.every(({ milliseconds }) => (milliseconds ?? 0) > 0)).to.equal(true);
    expect(
      statements.map(({ statement, milliseconds, of }) => [statement, milliseconds, of === ended[0]]),
    ).to.deep.equal([['select 1', 1.5, true]]);
    expect(ended[0]?.request.headers.get('x-audience')).to.equal('agent');
  });

  it('see the end of a list that is sent while it is made, with its rows', async () => {
    const rows = Array.from({ length: 1200 }, (_, i) => ({ id: i + 1, name: `Operator ${i}` }));
    async function* come() {
      yield* rows;
    }
    const ask = askOffice({ handlers: { 'operators.list': come } });
    const { ended } = await watching(() => ask('GET', '/operators'));
    expect(ended.map(({ rows: many }) => many)).to.deep.equal([1200]);
  });

  it('are callers too, where they are told how long things took', async () => {
    const all = askOffice({ store: counting, serverTiming: true });
    expect((await all('GET', '/vessels')).headers.get('server-timing')).to.match(
      /^total;dur=\d+\.\d, store;dur=1\.5;desc="1 statement"$/,
    );
    const some = askOffice({ serverTiming: (request) => request.headers.has('x-debug') });
    expect((await some('GET', '/vessels')).headers.has('server-timing')).to.equal(false);
    expect((await some('GET', '/vessels', { 'x-debug': '1' })).headers.get('server-timing')).to.contain(
      '0 statements',
    );
  });
});
