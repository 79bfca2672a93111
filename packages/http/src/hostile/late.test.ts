import { expect } from 'chai';
import type { Store } from 'gribo';
import { askOffice, JSON_BODY, keepingLog, openStore } from '../testing/ask.js';

const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

const NAME = '{"name":"Late"}';

describe('work that runs out of time', () => {
  it('is given up: what was not stored by then is not stored', async () => {
    const store = openStore();
    const { log, told } = keepingLog();
    const before = await store.count('operator');
    let isAborted = false;
    const ask = askOffice({
      store,
      log,
      limits: { answering: 30 },
      handlers: {
        'operators.create': async ({ proceed, signal }) => {
          signal.addEventListener('abort', () => {
            isAborted = true;
          });
          await pause(80);
          return proceed();
        },
      },
    });
    const { status, text } = await ask('POST', '/operators', JSON_BODY, NAME);
    expect(status).to.equal(503);
    expect(text).to.contain('It was given up').and.to.contain('look before it is sent again');
    await pause(100);
    expect([isAborted, await store.count('operator')]).to.deep.equal([true, before]);
    expect(told.map(({ message }) => message)).to.deep.equal([JSON.parse(text).detail]);
  });

  it('reaches the log where it was done all the same', async () => {
    const store = openStore();
    const { log, told } = keepingLog();
    const ask = askOffice({
      store,
      log,
      limits: { answering: 30 },
      handlers: {
        'operators.create': async ({ proceed }) => {
          const done = await proceed();
          await pause(80);
          return done;
        },
      },
    });
    expect((await ask('POST', '/operators', JSON_BODY, NAME)).status).to.equal(503);
    await pause(100);
    expect(told.map(({ message }) => message)).to.include('was done after its time was up');
  });

  it('reaches the log where it fails later on, and is nobody else’s affair where it only read', async () => {
    const { log, told } = keepingLog();
    const slow = (fails: boolean): Store =>
      Object.assign(openStore(), {
        read: async () => {
          await pause(60);
          if (fails) throw new Error('the disk is full');
          return null;
        },
      });
    const limits = { answering: 20 };
    for (const fails of [false, true]) {
      const { text } = await askOffice({ store: slow(fails), log, limits })('GET', '/operators/1');
      expect(text).to.contain('The answer took too long.').and.not.contain('may have been done');
      await pause(80);
    }
    const messages = told.map(({ message }) => message);
    expect(messages.filter((message) => message === 'failed after its time was up')).to.have.length(1);
    expect(messages).to.not.include('was done after its time was up');
  });
});
