import { expect } from 'chai';
import { Problem, serve } from '../index.js';
import { askOffice, JSON_BODY, keepingLog, openMethods, openStore } from '../testing/ask.js';
import { office } from '../testing/office.js';

describe('serve: failing', () => {
  const secret = 'select * from vessel where phone = 12345';
  const failing = (store: object) => {
    const { told, log } = keepingLog();
    return {
      told,
      ask: askOffice({ store: { ...openMethods(), ...store }, log, limits: { answering: 50, ending: 30 } }),
    };
  };

  it('tells nothing of the cause, and the log everything', async () => {
    const error = new Error(secret);
    const fail = async (): Promise<never> => {
      throw error;
    };
    const { ask, told } = failing({ read: fail, create: fail, list: fail, amend: fail });
    for (const [method, path, body] of [
      ['GET', '/vessels/1', undefined],
      ['GET', '/vessels', undefined],
      ['POST', '/operators', '{"name":"A"}'],
      ['PATCH', '/vessels/1', '{"name":"A"}'],
    ] as const) {
      const { status, text, json } = await ask(method, path, JSON_BODY, body);
      expect(status).to.equal(500);
      expect(text).to.not.match(/select|12345|Error:|\.ts|\.js/);
      const { instance } = json() as { instance: string };
      expect(told.at(-1)?.about).to.include({ err: error, method, instance });
    }
    expect(told).to.have.length(4);
  });

  it('is not kept waiting by a store that hangs', async () => {
    const hang = (): Promise<never> => new Promise(() => undefined);
    // biome-ignore lint/correctness/useYield: it never comes to that
    async function* stuck(): AsyncGenerator<object> {
      await hang();
    }
    const { ask, told } = failing({ read: hang, stream: stuck });
    for (const path of ['/vessels/1', '/operators']) {
      const { status, text } = await ask('GET', path);
      expect([status, text.includes('took too long')]).to.deep.equal([503, true]);
    }
    expect(told).to.have.length(2);
  });

  it('after its time was up is told to the log', async () => {
    const { ask, told } = failing({
      amend: async (): Promise<never> => {
        while (told.length === 0) await new Promise((resolve) => setTimeout(resolve, 5));
        throw new Error('the disk is full');
      },
    });
    expect((await ask('PATCH', '/vessels/1', JSON_BODY, '{"name":"A"}')).status).to.equal(503);
    while (told.length < 2) await new Promise((resolve) => setTimeout(resolve, 20));
    expect(told.map(({ message }) => message)).to.deep.equal([
      'The answer took too long. It was given up, but part of the way it may have been done: look before it is sent again.',
      'failed after its time was up',
    ]);
    expect(told[1]?.about).to.have.nested.property('err.message', 'the disk is full');
  });

  it('when rows do not fit their declaration, without showing them', async () => {
    const { ask, told } = failing({ read: async () => ({ id: 1, name: 'A-secret-name', operator: 5 }) });
    const { status, text } = await ask('GET', '/vessels/1');
    expect(status).to.equal(500);
    expect(text).to.not.contain('secret');
    expect(told[0]?.about).to.have.nested.property('err.code', 'ROW_MISSING');
  });

  it('opens a store once, and tries again where that failed', async () => {
    let opened = 0;
    const { log, told } = keepingLog();
    const ask = askOffice({
      log,
      store: async () => {
        opened++;
        if (opened === 1) throw new Error('not yet');
        return openStore();
      },
    });
    expect((await ask('GET', '/vessels/1')).status).to.equal(500);
    expect((await ask('GET', '/vessels/1')).status).to.equal(200);
    expect((await ask('GET', '/vessels/1')).status).to.equal(200);
    expect([opened, told.length]).to.deep.equal([2, 1]);
  });

  it('when caller() fails, turns away, or answers what is not declared', async () => {
    const { log, told } = keepingLog();
    const turning = askOffice({
      caller: () => {
        throw new Problem(401, { detail: 'Show a token.', headers: { 'www-authenticate': 'Bearer' } });
      },
    });
    const away = await turning('GET', '/vessels');
    expect([away.status, away.headers.get('www-authenticate'), told.length]).to.deep.equal([
      401,
      'Bearer',
      0,
    ]);
    const wrong = askOffice({ log, caller: () => ({ audience: 'nobody' as 'agent' }) });
    expect((await wrong('GET', '/vessels')).status).to.equal(500);
    expect(told[0]?.about).to.have.nested.property('err.message').that.contains('"nobody"');
    const none = serve(office, { store: openStore() });
    expect(
      (await none(new Request('http://o.test/books', { headers: { 'x-audience': 'office' } }))).status,
    ).to.equal(403);
  });
});
