import { execFile } from 'node:child_process';
import { connect } from 'node:net';
import { expect } from 'chai';
import { api, collection, list } from 'gribo';
import { stock } from '../../../gribo/src/testing/stock.js';
import { type Limits, serve } from '../index.js';
import { keepingLog, openStore } from '../testing/ask.js';
import type { Hosted } from '../testing/hosted.js';
import { OWN_HOSTS } from '../testing/hosts.js';
import { OperatorName } from '../testing/office.js';

const long = api({
  title: 'Long',
  version: '1',
  endpoints: { operators: collection('/operators', stock.operator, { list: list(OperatorName) }) },
});

const row = (id: number): object => ({ id, name: `Operator number ${id} with a name of some length` });

const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

/** Waits until something holds, for so long at most that a test fails. */
const until = async (holds: () => boolean): Promise<void> => {
  for (let i = 0; i < 300 && !holds(); i++) await pause(20);
};

for (const [host, start] of OWN_HOSTS)
  describe(`streams in ${host}`, () => {
    let opened: Hosted[] = [];
    afterEach(async () => {
      await Promise.all(opened.map((at) => at.close()));
      opened = [];
    });

    /** A server of rows, with what it was told and how many sources were let go. */
    const hostRows = async (rows: () => AsyncGenerator<object>, limits: Partial<Limits> = {}) => {
      const { log, told } = keepingLog();
      let ended = 0;
      async function* counted(): AsyncGenerator<object> {
        try {
          yield* rows();
        } finally {
          ended++;
        }
      }
      const handlers = { 'operators.list': counted };
      const at = await start(serve(long, { store: openStore(), handlers, log, limits, base: '/api' }));
      opened.push(at);
      return { at, told, ended: () => ended };
    };

    async function* slow(): AsyncGenerator<object> {
      for (let id = 0; ; id++) {
        if (id > 600 && id % 50 === 0) await pause(1);
        yield row(id);
      }
    }

    async function* endless(): AsyncGenerator<object> {
      for (let id = 0; ; id++) yield row(id);
    }

    async function* failing(): AsyncGenerator<object> {
      for (let id = 0; id < 5000; id++) yield row(id);
      throw new Error('the disk is full');
    }

    for (const [name, rows] of Object.entries({ fast: endless, slow })) {
      it(`that many clients leave, in any moment, are no failures: ${name}`, async () => {
        const { at, told, ended } = await hostRows(rows);
        const leave = (i: number): Promise<void> =>
          new Promise((resolve) => {
            const socket = connect(at.port, '127.0.0.1', () =>
              socket.write('GET /api/operators HTTP/1.1\r\nHost: o\r\n\r\n'),
            );
            socket.on('error', () => undefined);
            socket.once('data', () => setTimeout(() => socket.destroy(), i % 20));
            socket.once('close', () => resolve());
          });
        for (let i = 0; i < 40; i += 4) await Promise.all([i, i + 1, i + 2, i + 3].map(leave));
        await until(() => ended() === 40);
        expect(ended()).to.equal(40);
        expect(told).to.deep.equal([]);
      });
    }

    it('that fail midway are an error to curl, whatever it speaks', async function () {
      const { at, told } = await hostRows(failing);
      for (const version of ['--http1.0', '--http1.1']) {
        const code = await new Promise((resolve) => {
          const address = `http://127.0.0.1:${at.port}/api/operators`;
          execFile('curl', ['-s', version, address], { maxBuffer: 1e8 }, (error) =>
            resolve(error?.code ?? 0),
          );
        });
        if (code === 'ENOENT') return this.skip();
        expect(code, version).to.be.oneOf([18, 56]);
      }
      expect(told).to.have.length(2);
    });

    it('whose reader stands still are let go', async () => {
      const { at, told, ended } = await hostRows(endless, { sending: 200 });
      const socket = connect(at.port, '127.0.0.1', () =>
        socket.write('GET /api/operators HTTP/1.1\r\nHost: o\r\n\r\n'),
      );
      socket.on('error', () => undefined);
      socket.pause();
      await until(() => ended() === 1);
      expect(ended()).to.equal(1);
      expect(told).to.deep.equal([]);
      socket.destroy();
    });

    it('of a reader that is only slow go on', async () => {
      async function* some(): AsyncGenerator<object> {
        for (let id = 0; id < 20_000; id++) yield row(id);
      }
      // Each wait is shorter than that, all of them together are longer.
      const { at } = await hostRows(some, { sending: 300 });
      const response = await fetch(`http://127.0.0.1:${at.port}/api/operators`);
      let size = 0;
      for await (const chunk of response.body ?? []) {
        size += chunk.length;
        if (size < 700_000) await pause(60);
      }
      expect(size).to.be.above(1_000_000);
    });
  });

describe('bodies that nobody reads', () => {
  for (const [host, start] of OWN_HOSTS)
    it(`are not read to their end, in ${host}`, async () => {
      const at = await start(serve(long, { store: openStore(), base: '/api' }));
      let sent = 0;
      await new Promise<void>((resolve) => {
        const socket = connect(at.port, '127.0.0.1', () => {
          socket.write('GET /api/operators HTTP/1.1\r\nHost: o\r\nContent-Length: 10000000000\r\n\r\n');
          const chunk = Buffer.alloc(65_536);
          const write = (): void => {
            while (!socket.destroyed && sent < 200_000_000) {
              sent += chunk.length;
              if (!socket.write(chunk)) return void socket.once('drain', write);
            }
            socket.destroy();
          };
          write();
        });
        socket.on('error', () => undefined);
        socket.once('close', () => resolve());
      });
      await at.close();
      expect(sent).to.be.below(50_000_000);
    });
});
