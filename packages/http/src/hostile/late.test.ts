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
    expect(text).to.contain('It was given up, and nothing was changed.');
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
      limits: { answering: 30, ending: 20 },
      handlers: {
        'operators.create': async ({ proceed }) => {
          const done = await proceed();
          // Until its caller was told that its time is up.
          while (told.length === 0) await pause(5);
          return done;
        },
      },
    });
    const { status, text, headers } = await ask('POST', '/operators', JSON_BODY, NAME);
    expect([status, headers.get('retry-after')]).to.deep.equal([503, '1']);
    expect(text).to.contain('look before it is sent again');
    await pause(100);
    expect(told.map(({ message }) => message)).to.include('was done after its time was up');
  });

  it('is told as it ended, where that is known soon', async () => {
    const store = openStore();
    const { log, told } = keepingLog();
    const ask = askOffice({
      store,
      log,
      limits: { answering: 30 },
      handlers: {
        'operators.create': async ({ proceed, input }) => {
          const done = await proceed();
          await pause(60);
          if (input.name === 'Late') return done;
          throw new Error('too late');
        },
      },
    });
    expect((await ask('POST', '/operators', JSON_BODY, NAME)).status).to.equal(201);
    expect(told).to.deep.equal([]);
    expect((await ask('POST', '/operators', JSON_BODY, '{"name":"Later"}')).status).to.equal(500);
    expect(told).to.have.length(1);
  });

  it('is told as done in part, where its handler had stored something', async () => {
    const ask = askOffice({
      log: keepingLog().log,
      limits: { answering: 30 },
      handlers: {
        'operators.create': async ({ proceed, store, signal }) => {
          await store.create('operator', { name: 'Before' });
          await pause(60);
          signal.throwIfAborted();
          return proceed();
        },
      },
    });
    const { status, text } = await ask('POST', '/operators', JSON_BODY, NAME);
    expect([status, text.includes('look before it is sent again')]).to.deep.equal([503, true]);
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
