import { expect } from 'chai';
import { GriboError, loadPlan, memoryStore, type Store, shape } from 'gribo';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { askOffice, JSON_BODY, keepingLog } from '../testing/ask.js';
import { VESSEL } from '../testing/office.js';

/** A store with some of its methods replaced, within its transactions too. */
const storeWith = (replaced: Partial<Store>, transacts: boolean): Store => {
  const store = memoryStore(stock, stockRows);
  const around = (inner: Store): Store => ({
    list: (...given) => inner.list(...given),
    stream: (...given) => inner.stream(...given),
    count: (...given) => inner.count(...given),
    read: (...given) => inner.read(...given),
    create: (...given) => inner.create(...given),
    createAll: (...given) => inner.createAll(...given),
    amend: (...given) => inner.amend(...given),
    remove: (...given) => inner.remove(...given),
    ...(transacts ? { transaction: (work) => inner.transaction?.((own) => work(around(own))) as never } : {}),
    ...replaced,
  });
  return around(store);
};

const fails = (code: 'STATEMENT' | 'UNAVAILABLE') => async (): Promise<never> => {
  throw new GriboError(code, 'database', 'gone');
};

const Name = shape(stock.vessel, ({ id, name }) => ({ id, name }));

const NEW = JSON.stringify(VESSEL);

describe('what a caller is told of a change', () => {
  it('is that nothing was done where it cannot be read again: it is taken back', async () => {
    for (const [code, status] of [
      ['STATEMENT', 500],
      ['UNAVAILABLE', 503],
    ] as const) {
      const store = storeWith({ read: fails(code) }, true);
      const ask = askOffice({ store, log: keepingLog().log });
      const before = await store.count('vessel');
      const created = await ask('POST', '/vessels', JSON_BODY, NEW);
      expect([created.status, await store.count('vessel')]).to.deep.equal([status, before]);
      const amended = await ask('PATCH', '/vessels/1', JSON_BODY, '{"name":"Other"}');
      expect(amended.status).to.equal(status);
      const names = (await store.list(loadPlan(Name))) as { name: string }[];
      expect(names.map(({ name }) => name))
        .to.include('Anselma')
        .and.not.include('Other');
    }
  });

  it('is that it was done, without a body, by a store that has no transactions', async () => {
    const store = storeWith({ read: fails('UNAVAILABLE') }, false);
    const { log, told } = keepingLog();
    const ask = askOffice({ store, log });
    const created = await ask('POST', '/vessels', JSON_BODY, NEW);
    expect([created.status, created.headers.get('location'), created.text]).to.deep.equal([
      201,
      '/vessels/6',
      '',
    ]);
    expect(await store.count('vessel')).to.equal(6);
    const amended = await ask('PATCH', '/vessels/1', JSON_BODY, '{"name":"Other"}');
    expect([amended.status, amended.text]).to.deep.equal([204, '']);
    expect(told.map(({ message }) => message)).to.deep.equal(
      Array(2).fill('it was stored, and could not be read again: it was told without a body'),
    );
  });

  it('is that it was done, without a body, where its body cannot be written', async () => {
    const { log, told } = keepingLog();
    const rows = async () => ({ id: 'none', name: 7 });
    const ask = askOffice({ store: storeWith({ read: rows }, false), log });
    const created = await ask('POST', '/vessels', JSON_BODY, NEW);
    expect([created.status, created.headers.get('location'), created.text]).to.deep.equal([
      201,
      '/vessels/6',
      '',
    ]);
    expect(told.map(({ message }) => message)).to.deep.equal([
      'it was stored, and its answer could not be made: it was told without a body',
    ]);
    expect((await ask('GET', '/vessels/1')).status, 'what only reads has failed').to.equal(500);
  });

  it('is 503 and when to come again where the store is not there, for what reads too', async () => {
    const ask = askOffice({
      store: storeWith({ read: fails('UNAVAILABLE'), list: fails('UNAVAILABLE') }, true),
      log: keepingLog().log,
    });
    for (const path of ['/vessels/1', '/vessels']) {
      const { status, headers, text } = await ask('GET', path);
      expect([status, headers.get('retry-after')]).to.deep.equal([503, '1']);
      expect(text).to.not.contain('gone');
    }
  });

  it('is that it may have been done where the connection was lost meanwhile', async () => {
    const lost = async (): Promise<never> => {
      throw Object.assign(new GriboError('UNAVAILABLE', 'database', 'lost'), { mayBeDone: true });
    };
    const ask = askOffice({ store: storeWith({ amend: lost }, true), log: keepingLog().log });
    const { status, text } = await ask('PATCH', '/vessels/1', JSON_BODY, '{"name":"Other"}');
    expect([status, text.includes('look before it is sent again')]).to.deep.equal([503, true]);
  });
});
