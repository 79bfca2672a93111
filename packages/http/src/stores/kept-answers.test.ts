import { expect } from 'chai';
import {
  api,
  callerOf,
  collection,
  endpoint,
  entity,
  input,
  integer,
  list,
  memoryStore,
  model,
  shape,
  text,
  values,
} from 'gribo';
import { answerColumns, serve } from '../index.js';
import { keepingLog } from '../testing/ask.js';

const db = model(
  {
    buoy: entity('buoy', { id: integer().key().generated(), name: text({ min: 1 }) }),
    keptAnswer: entity('keptAnswer', answerColumns()),
  },
  {},
);
const Buoy = shape(db.buoy, ({ id, name }) => ({ id, name }));
const NewBuoy = input(db.buoy, ({ name }) => ({ name }));
const buoys = api({
  title: 'Buoys',
  version: '1',
  audiences: ['pilot', 'warden'],
  caller: callerOf({ user: integer(), expires: integer() }, { identity: ['user'] }),
  endpoints: {
    buoys: collection('/buoys', db.buoy, {
      list: list(Buoy),
      read: Buoy,
      create: { takes: NewBuoy, returns: Buoy },
    }),
    move: endpoint('POST /buoys/{id}/move', { from: db.buoy, takes: values({ by: integer() }) }),
    many: endpoint('POST /many', { from: db.buoy, takes: list(NewBuoy) }),
  },
});

describe('a request that comes again', () => {
  const opened = (now: () => Date = () => new Date()) => {
    const store = memoryStore(db);
    let moved = 0;
    let expires = 0;
    const handle = serve(buoys, {
      store,
      repeats: db.keptAnswer,
      now,
      log: keepingLog().log,
      caller: (request) => ({
        audience: 'pilot',
        user: Number(request.headers.get('x-user') ?? 1),
        // Another one with each token.
        expires: ++expires,
      }),
      handlers: {
        move: async ({ input: { by }, store: own, transaction }) => {
          await transaction(async () => {
            await own.create('buoy', { name: `moved by ${by}` });
            moved += by;
          });
        },
        many: async ({ input: rows, store: own }) => {
          for await (const row of rows) await own.create('buoy', row);
        },
      },
    });
    const send = async (key: string | null, body: unknown, path = '/buoys', headers = {}) => {
      const response = await handle(
        new Request(`http://b.test${path}`, {
          method: 'POST',
          headers: {
            'content-type': 'application/json',
            ...(key === null ? {} : { 'idempotency-key': key }),
            ...headers,
          },
          body: JSON.stringify(body),
        }),
      );
      return { status: response.status, text: await response.text(), headers: response.headers };
    };
    return { store, send, moved: () => moved };
  };

  it('is given the first answer, to the byte, and is done once', async () => {
    const { store, send } = opened();
    const first = await send('"8e03978e"', { name: 'North' });
    const again = await send('"8e03978e"', { name: 'North' });
    expect(first).to.include({ status: 201, text: '{"id":1,"name":"North"}' });
    expect([again.status, again.text, [...again.headers]]).to.deep.equal([
      first.status,
      first.text,
      [...first.headers],
    ]);
    expect(again.headers.get('location')).to.equal('/buoys/1');
    expect(await store.count('buoy')).to.equal(1);
  });

  it('is another one with another key, without one, from another caller, or at another path', async () => {
    const { store, send } = opened();
    const ids = [
      await send('a', { name: 'N' }),
      await send('b', { name: 'N' }),
      await send(null, { name: 'N' }),
      await send(null, { name: 'N' }),
      await send('a', { name: 'N' }, '/buoys', { 'x-user': '2' }),
    ].map(({ text }) => (JSON.parse(text) as { id: number }).id);
    expect(ids).to.deep.equal([1, 2, 3, 4, 5]);
    expect(await store.count('buoy')).to.equal(5);
  });

  it('is refused with another body, and with a key that is none', async () => {
    const { store, send } = opened();
    await send('a', { name: 'North' });
    const { status, text: told } = await send('a', { name: 'South' });
    expect([status, told.includes('came before, with another body')]).to.deep.equal([422, true]);
    for (const key of ['', '"', 'a b', `"${'x'.repeat(256)}"`])
      expect((await send(key, { name: 'N' })).status, key).to.equal(400);
    expect(await store.count('buoy')).to.equal(1);
  });

  it('is done again where it was refused before: nothing of it is kept', async () => {
    const { store, send } = opened();
    expect((await send('a', { name: '' })).status).to.equal(422);
    expect((await send('a', { name: 'North' })).status).to.equal(201);
    expect(await store.count('keptAnswer')).to.equal(1);
  });

  it('is known for commands, whose own transaction is a part of it', async () => {
    const { store, send, moved } = opened();
    await send(null, { name: 'North' });
    for (let i = 0; i < 3; i++) expect((await send('a', { by: 2 }, '/buoys/1/move')).status).to.equal(204);
    expect([moved(), await store.count('buoy')]).to.deep.equal([2, 2]);
  });

  it('is done once, however many come at the same time', async () => {
    const { store, send } = opened();
    const all = await Promise.all(Array.from({ length: 8 }, () => send('a', { name: 'North' })));
    expect(new Set(all.map(({ status, text: told }) => `${status} ${told}`)).size).to.equal(1);
    expect(await store.count('buoy')).to.equal(1);
  });

  it('is a new one after a day', async () => {
    let now = new Date('2026-03-01T06:00:00Z');
    const { store, send } = opened(() => now);
    await send('a', { name: 'North' });
    now = new Date('2026-03-02T06:00:01Z');
    expect((await send('a', { name: 'North' })).text).to.equal('{"id":2,"name":"North"}');
    expect([await store.count('buoy'), await store.count('keptAnswer')]).to.deep.equal([2, 1]);
  });

  it('is not taken of a list, which is read while it is stored', async () => {
    const { send } = opened();
    const { status, text: told } = await send('a', [{ name: 'N' }], '/many');
    expect([status, told.includes('is not taken here')]).to.deep.equal([400, true]);
    expect((await send(null, [{ name: 'N' }], '/many')).status).to.equal(204);
  });

  it('is known by who sends it, which has to be said where callers are told apart', () => {
    const nobody = api({
      title: 'Buoys',
      version: '1',
      audiences: ['pilot'],
      endpoints: { move: endpoint('POST /move', { takes: values({ by: integer() }) }) },
    });
    const handlers = { move: () => undefined };
    const store = memoryStore(db);
    expect(() => serve(nobody, { store, handlers, caller: () => null, repeats: db.keptAnswer })).to.throw(
      /repeats: a request that comes again is known by who sends it: say which facts tell that/,
    );
    expect(() => serve(nobody, { store, handlers, repeats: db.keptAnswer })).not.to.throw();
    expect(() => callerOf({ user: integer() }, { identity: ['usr' as never] })).to.throw(
      /caller\.usr: identity names it, and it is no fact/,
    );
  });

  it('is asked for with an entity that can keep answers', () => {
    expect(() => serve(buoys, { store: memoryStore(db), caller: () => null, repeats: db.buoy })).to.throw(
      /buoy\.key: answers are kept in it: it needs the column key of answerColumns\(\)/,
    );
  });
});
