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
import { answerColumns, type ServeOptions, serve } from '../index.js';
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
    all: endpoint('POST /all', { from: db.buoy, takes: values({ by: integer() }), returns: list(Buoy) }),
  },
});

describe('a request that comes again', () => {
  const opened = (now: () => Date = () => new Date(), options: Partial<ServeOptions<typeof buoys>> = {}) => {
    const store = memoryStore(db);
    let moved = 0;
    let expires = 0;
    const handle = serve(buoys, {
      store,
      repeats: db.keptAnswer,
      now,
      log: keepingLog().log,
      formatParameter: true,
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
        all: async function* ({ load }) {
          moved += 1;
          yield* await load.rows();
        },
      },
      ...options,
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

  it('is given the first answer in the format that it asks for now', async () => {
    const { store, send } = opened();
    await send('a', { name: 'North' });
    const asXml = await send('a', { name: 'North' }, '/buoys', { accept: 'application/xml' });
    expect(asXml.status).to.equal(201);
    expect(asXml.text).to.contain('<id>1</id><name>North</name>');
    expect([...asXml.headers]).to.deep.include.members([
      ['content-type', 'application/xml; charset=utf-8'],
      ['location', '/buoys/1'],
    ]);
    const byParameter = await send('a', { name: 'North' }, '/buoys?format=cbor');
    expect(byParameter.headers.get('content-type')).to.equal('application/cbor');
    expect((await send('a', { name: 'North' })).text).to.equal('{"id":1,"name":"North"}');
    expect(await store.count('buoy')).to.equal(1);
  });

  it('is given a list again, in lines too, though its rows came once', async () => {
    const { send, moved } = opened();
    await send(null, { name: 'North' });
    await send(null, { name: 'South' });
    const first = await send('a', { by: 1 }, '/all');
    expect(first.text).to.equal('[{"id":1,"name":"North"},{"id":2,"name":"South"}]');
    const asCsv = await send('a', { by: 1 }, '/all', { accept: 'text/csv' });
    expect(asCsv.text).to.equal('id,name\r\n1,North\r\n2,South\r\n');
    expect(moved()).to.equal(1);
  });

  it('of nobody in particular is kept too, as many as there is room for', async () => {
    let now = new Date('2026-03-01T06:00:00Z');
    const { store, send } = opened(() => now, { caller: () => null, anonymousRepeats: 3 });
    for (const key of ['a', 'b', 'c']) expect((await send(key, { name: 'N' })).status).to.equal(201);
    const refused = await send('d', { name: 'N' });
    expect([refused.status, refused.headers.get('retry-after')]).to.deep.equal([429, '60']);
    // Whoever comes again is answered, and so is whoever has no key.
    expect((await send('b', { name: 'N' })).text).to.equal('{"id":2,"name":"N"}');
    expect((await send(null, { name: 'N' })).status).to.equal(201);
    expect(await store.count('keptAnswer')).to.equal(3);
    now = new Date('2026-03-02T06:00:01Z');
    expect((await send('d', { name: 'N' })).status).to.equal(201);
    expect(await store.count('keptAnswer')).to.equal(1);
  });

  it('is kept no longer than its time: new ones take the old ones away', async () => {
    let now = new Date('2026-03-01T06:00:00Z');
    const { store, send } = opened(() => now);
    for (let i = 0; i < 50; i++) await send(`key ${i}`.replace(' ', '-'), { name: 'N' });
    expect(await store.count('keptAnswer')).to.equal(50);
    now = new Date('2026-03-03T06:00:00Z');
    for (const [key, left] of [
      ['x', 31],
      ['y', 12],
      ['z', 3],
    ] as const) {
      await send(key, { name: 'N' });
      expect(await store.count('keptAnswer'), key).to.equal(left);
    }
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
