import { expect } from 'chai';
import { api, collection, endpoint, input, memoryStore, optional, shape } from 'gribo';
import { callId, stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { handlersWanted, serve } from '../index.js';
import { askOffice, JSON_BODY } from '../testing/ask.js';
import { OperatorName, VESSEL } from '../testing/office.js';

describe('handlers', () => {
  it('replace what an operation does, with a load that knows the columns', async () => {
    const seen: unknown[] = [];
    const ask = askOffice({
      handlers: {
        'operators.list': ({ load }) => load.rows({ where: { parentId: 1 }, sort: ['name desc'], limit: 5 }),
        'operators.read': async ({ parameters, load }) =>
          parameters.id === '2' ? null : load.row(Number(parameters.id)),
        'calls.read': ({ key, load, caller }) => {
          seen.push(key, caller.audience);
          return load.row(...(key ?? []));
        },
        'vessels.remove': async () => undefined,
      },
    });
    expect((await ask('GET', '/operators')).json()).to.deep.equal([{ id: 2, name: 'Lantern Bay Lines' }]);
    expect((await ask('GET', '/operators/3')).json()).to.deep.equal({ id: 3, name: 'Ostwick' });
    expect((await ask('GET', '/operators/2')).status).to.equal(404);
    expect((await ask('GET', `/vessels/1/calls/${callId(1)}`, { 'x-audience': 'agent' })).status).to.equal(
      200,
    );
    expect(seen).to.deep.equal([[callId(1)], 'agent']);
    expect((await ask('DELETE', '/vessels/1')).status).to.equal(204);
    expect((await ask('GET', '/vessels/1')).status, 'the handler did not remove it').to.equal(200);
  });

  it('add to it, before and after', async () => {
    const kept: string[] = [];
    const ask = askOffice({
      handlers: {
        'vessels.create': async ({ input, proceed }) => {
          const made = await proceed({ ...input, name: input.name.toUpperCase() });
          kept.push(input.name);
          return made;
        },
        'vessels.list': async ({ proceed }) => proceed(),
        'vessels.remove': async ({ proceed }) => {
          await proceed();
        },
      },
    });
    const made = await ask('POST', '/vessels', JSON_BODY, JSON.stringify(VESSEL));
    expect([made.status, made.headers.get('location')]).to.deep.equal([201, '/vessels/6']);
    expect(made.json()).to.include({ name: 'NEW ONE' });
    expect(kept).to.deep.equal(['New One']);
    expect((await ask('GET', '/vessels')).headers.get('link')).to.contain('rel="next"');
    expect((await ask('DELETE', '/vessels/5')).status).to.equal(204);
    expect((await ask('DELETE', '/vessels/5')).status).to.equal(404);
  });

  it('are needed where nothing follows from the declaration, and have endpoints', () => {
    const sent = api({
      title: 'Sent',
      version: '1',
      endpoints: {
        send: endpoint('POST /operators/{id}/send', { from: stock.operator, returns: OperatorName }),
        operators: collection('/operators', stock.operator, { create: { returns: OperatorName } }),
      },
    });
    const store = memoryStore(stock);
    const wrong = { send: undefined, sned: () => null } as object;
    const refused = (handlers: object): string => {
      try {
        serve(sent, { store, handlers });
        return '';
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(refused(wrong)).to.contain('sned: there is no such endpoint').and.contain('send: what it does');
    expect(refused(wrong)).to.contain('operators.create: what it does');
    expect(refused({ send: () => null, 'operators.create': () => null })).to.equal('');
  });

  it('set what an input does not, and are needed where a row cannot be without it', async () => {
    const Named = input(stock.operator, ({ parentId }) => ({ parentId: optional(parentId) }), {
      name: 'Named',
    });
    const Sent = shape(stock.operator, ({ id, name }) => ({ id, name }));
    const named = api({
      title: 'Named',
      version: '1',
      endpoints: {
        operators: collection('/operators', stock.operator, {
          read: Sent,
          create: { takes: Named, returns: Sent },
        }),
      },
    });
    const store = memoryStore(stock, stockRows);
    expect(() => serve(named, { store })).to.throw(
      'operators.create: its input does not set name, so no row can be made: take it in the input, mark it .defaulted()',
    );
    expect(handlersWanted(named.plan).map(({ name }) => name)).to.deep.equal(['operators.create']);
    const handle = serve(named, {
      store,
      // What the body may set, and a column that the server sets itself.
      handlers: { 'operators.create': ({ input, proceed }) => proceed({ ...input, name: 'Set Here' }) },
    });
    const made = await handle(
      new Request('http://s.test/operators', { method: 'POST', headers: JSON_BODY, body: '{}' }),
    );
    expect([made.status, await made.json()]).to.deep.equal([201, { id: 4, name: 'Set Here' }]);
  });

  it('answer for endpoints of their own, and where they make a row', async () => {
    const Sent = shape(stock.operator, ({ name }) => ({ name }));
    const sent = api({
      title: 'Sent',
      version: '1',
      endpoints: {
        send: endpoint('POST /operators/{id}/send', { from: stock.operator, returns: Sent }),
        operators: collection('/operators', stock.operator, { read: Sent, create: { returns: Sent } }),
      },
    });
    const handle = serve(sent, {
      store: memoryStore(stock, stockRows),
      handlers: {
        send: ({ parameters, load }) => load.row(Number(parameters.id)),
        'operators.create': () => ({ id: 77, name: 'Made Elsewhere' }),
      },
    });
    const post = (path: string): Promise<Response> =>
      handle(new Request(`http://s.test${path}`, { method: 'POST' }));
    expect(await (await post('/operators/3/send')).json()).to.deep.equal({ name: 'Ostwick' });
    const made = await post('/operators');
    expect([made.status, made.headers.get('location')]).to.deep.equal([201, '/operators/77']);
  });
});
