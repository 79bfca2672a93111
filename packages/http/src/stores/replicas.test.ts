import { expect } from 'chai';
import { GriboError, memoryStore, type Store } from 'gribo';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { Problem } from '../problems/problem.js';
import { askOffice, JSON_BODY, keepingLog, type OfficeOptions } from '../testing/ask.js';

/** A store whose operators say which one it is, so far behind as its rows are. */
const named = (name: string): Store =>
  memoryStore(stock, {
    ...stockRows,
    operator: [{ id: 1, name, parentId: null }],
    vessel: [],
    portCall: [],
    pilotage: [],
  });

const AUTHORIZED = { authorization: 'Bearer one' };

describe('stores that follow another one', () => {
  const opened = (options: OfficeOptions) => {
    const ask = askOffice({ store: named('first'), log: keepingLog().log, ...options });
    const read = async (headers: Record<string, string> = {}) =>
      ((await ask('GET', '/operators/1', headers)).json() as { name: string }).name;
    return { ask, read };
  };

  it('are read by turns', async () => {
    const { read } = opened({ reads: [named('second'), named('third')] });
    expect([await read(), await read(), await read()]).to.deep.equal(['second', 'third', 'second']);
    const one = opened({ reads: named('second') });
    expect([await one.read(), await one.read()]).to.deep.equal(['second', 'second']);
  });

  it('are not read by those who ask for what is current', async () => {
    const { read } = opened({ reads: named('second') });
    expect(await read({ 'cache-control': 'no-cache' })).to.equal('first');
    expect(await read({ 'cache-control': 'max-age=0, no-store' })).to.equal('first');
    expect(await read({ 'cache-control': 'max-age=05' })).to.equal('second');
  });

  it('are not read for a while by those who have changed something, and by others', async () => {
    const { ask, read } = opened({ reads: named('second'), readsOwn: 1000 });
    const body = '{"name":"New"}';
    expect((await ask('POST', '/operators', { ...JSON_BODY, ...AUTHORIZED }, body)).status).to.equal(201);
    expect([await read(AUTHORIZED), await read()]).to.deep.equal(['first', 'second']);
    await new Promise((resolve) => setTimeout(resolve, 1050));
    expect(await read(AUTHORIZED)).to.equal('second');
  });

  it('know who has changed something by its identity, whatever token it comes with', async () => {
    const { callerOf, text, api, collection, input, list, shape } = await import('gribo');
    const { serve } = await import('../index.js');
    const member = callerOf({ user: text() }, { identity: ['user'] });
    const Name = shape(stock.operator, ({ name }) => ({ name }));
    const NewName = input(stock.operator, ({ name }) => ({ name }));
    const names = api({
      title: 'Names',
      version: '1',
      caller: member,
      endpoints: {
        names: collection('/names', stock.operator, { list: list(Name), create: { takes: NewName } }),
      },
    });
    const handle = serve(names, {
      store: named('first'),
      reads: named('second'),
      caller: (request) => ({ user: (request.headers.get('authorization') ?? '').slice(0, 3) }),
    });
    const ask = async (authorization: string, init: RequestInit = {}) =>
      handle(
        new Request('http://n.test/names', {
          ...init,
          headers: { authorization, 'content-type': 'application/json' },
        }),
      );
    const first = async (token: string) => ((await (await ask(token)).json()) as { name: string }[])[0]?.name;
    expect((await ask('ida-1', { method: 'POST', body: '{"name":"New"}' })).status).to.equal(201);
    expect([await first('ida-2'), await first('ben-1')]).to.deep.equal(['first', 'second']);
  });

  it('are not read by those whose change failed: it may have been done', async () => {
    const unsure = Object.assign(named('first'), {
      create: async (): Promise<never> => {
        throw Object.assign(new GriboError('UNAVAILABLE', 'database', 'lost'), { mayBeDone: true });
      },
    });
    const { ask, read } = opened({ store: unsure, reads: named('second') });
    expect(
      (await ask('POST', '/operators', { ...JSON_BODY, ...AUTHORIZED }, '{"name":"New"}')).status,
    ).to.equal(503);
    expect(await read(AUTHORIZED)).to.equal('first');
  });

  it('are not taken for gone where a handler says in its own name that it cannot', async () => {
    let asked = 0;
    const { ask } = opened({
      reads: named('second'),
      handlers: {
        'operators.read': () => {
          asked += 1;
          throw new Problem(503, { detail: 'Not today.' });
        },
      },
    });
    expect((await ask('GET', '/operators/1')).status).to.equal(503);
    expect(asked).to.equal(1);
  });

  it('never change anything, nor are they asked whether a change may be made', async () => {
    const second = named('second');
    const { ask } = opened({ reads: second });
    const headers = { ...JSON_BODY, 'if-none-match': '"none"' };
    expect((await ask('POST', '/operators', headers, '{"name":"New"}')).status).to.equal(201);
    expect(await second.count('operator')).to.equal(1);
  });

  it('are left alone where they do not answer: the first one does', async () => {
    let asked = 0;
    const gone = async (): Promise<never> => {
      asked += 1;
      throw new GriboError('UNAVAILABLE', 'database', 'gone');
    };
    const { read, ask } = opened({
      reads: Object.assign(named('second'), { read: gone, list: gone, stream: gone }),
    });
    expect([await read(), await read(), asked]).to.deep.equal(['first', 'first', 1]);
    expect((await ask('GET', '/operators')).text).to.contain('first');
  });
});
