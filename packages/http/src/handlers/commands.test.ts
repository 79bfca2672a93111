import { expect } from 'chai';
import {
  api,
  array,
  atLeast,
  bool,
  collection,
  endpoint,
  entity,
  equals,
  integer,
  list,
  memoryStore,
  model,
  not,
  optional,
  page,
  preset,
  rowsWhere,
  type Store,
  shape,
  text,
  timestamp,
  toMany,
  toOne,
  values,
} from 'gribo';
import { type Handler, type Handlers, Problem, serve } from '../index.js';
import { keepingLog } from '../testing/ask.js';

const db = model(
  {
    call: entity('call', {
      id: integer().key(),
      status: text(),
      closedAt: timestamp().nullable(),
      berthId: integer().nullable(),
    }),
    berth: entity('berth', { id: integer().key(), name: text() }),
    entry: entity('entry', { id: integer().key().generated(), callId: integer(), amount: integer() }),
  },
  {
    call: { berth: toOne('berth', 'berthId'), entries: toMany('entry', 'callId') },
    entry: { call: toOne('call', 'callId') },
  },
);
const Entry = shape(db.entry, ({ id, amount }) => ({ id, amount }), { name: 'Entry' });
const Call = shape(db.call, (c) => ({ id: c.id, status: c.status, entries: Entry(c.entries) }), {
  name: 'Call',
});
const harbour = api({
  title: 'Harbour',
  version: '1',
  endpoints: {
    calls: collection('/calls', db.call, {
      list: page(Call),
      read: Call,
      remove: true,
      filters: (c) => ({ status: equals(c.status), from: atLeast(c.id) }),
      sort: ['status'],
    }),
    close: endpoint('POST /calls/{id}/close', {
      from: db.call,
      takes: values({ reason: text({ min: 3 }), fee: optional(integer()) }),
      query: values({
        dryRun: preset(bool(), false),
        tags: optional(array(text())),
        level: integer({ max: 9 }).nullable(),
      }),
      returns: Call,
      problems: {
        'closed-already': {
          status: 409,
          title: 'The call is closed.',
          type: 'https://harbour.example/closed',
          members: values({
            closedAt: timestamp(),
            by: { name: text() },
            lines: list(values({ n: integer() })),
          }),
        },
      },
    }),
    ping: endpoint('POST /ping/{word}', { takes: values({ n: integer() }) }),
  },
});
const rows = {
  call: [1, 2, 3, 4].map((id) => ({
    id,
    status: id > 2 ? 'open' : 'closed',
    closedAt: id > 2 ? null : new Date(0),
    berthId: null,
  })),
  berth: [{ id: 1, name: 'North' }],
  entry: [{ id: 1, callId: 3, amount: 5 }],
};

type HarbourHandlers = Handlers<typeof harbour>;
type Close = Handler<typeof harbour, 'close'>;
const idle: HarbourHandlers = { close: () => null, ping: () => null };

const asking = (handlers: HarbourHandlers, store: Store = memoryStore(db, rows), options: object = {}) => {
  const { told, log } = keepingLog();
  const handle = serve(harbour, { store, handlers: { ...idle, ...handlers }, log, ...options });
  const ask = async (route: string, body?: unknown) => {
    const [method = '', path = ''] = route.split(' ');
    const headers = { 'content-type': 'application/json' };
    const sent = body === undefined ? {} : { headers, body: JSON.stringify(body) };
    const response = await handle(new Request(`http://h.test${path}`, { method, ...sent }));
    const content = await response.text();
    return { status: response.status, body: content === '' ? null : (JSON.parse(content) as unknown) };
  };
  return { ask, told, store };
};

describe('commands', () => {
  it('are given what they are told, read and checked', async () => {
    const seen: unknown[] = [];
    const { ask } = asking({
      close: ({ input, query, key, load }) => {
        seen.push([input, query, key]);
        return load.row(...(key ?? []));
      },
    });
    const { status, body } = await ask('POST /calls/3/close?level=3&tags=a&tags=b', { reason: 'storm' });
    expect([status, body]).to.deep.equal([200, { id: 3, status: 'open', entries: [{ id: 1, amount: 5 }] }]);
    for (const query of ['?dryRun&level=', '?dryRun=1&level=', '?level=&dryRun=true&tags='])
      await ask(`POST /calls/3/close${query}`, { reason: 'storm', fee: 3 });
    expect(seen).to.deep.equal([
      [{ reason: 'storm' }, { dryRun: false, tags: ['a', 'b'], level: 3 }, [3]],
      [{ reason: 'storm', fee: 3 }, { dryRun: true, level: null }, [3]],
      [{ reason: 'storm', fee: 3 }, { dryRun: true, level: null }, [3]],
      [{ reason: 'storm', fee: 3 }, { dryRun: true, tags: [], level: null }, [3]],
    ]);
  });

  it('refuse a query and a body that are wrong, each with everything', async () => {
    const { ask } = asking({});
    const query = await ask('POST /calls/3/close?dryRun=maybe&level=12&levl=1', { reason: 'storm' });
    expect(query.status).to.equal(400);
    expect(query.body)
      .to.have.nested.property('errors')
      .that.deep.equals([
        {
          parameter: 'levl',
          code: 'unknown',
          value: '',
          message: 'There is no parameter "levl". Did you mean "level"?',
        },
        {
          parameter: 'dryRun',
          code: 'type',
          value: 'maybe',
          message: 'Expected true or false, got "maybe".',
        },
        {
          parameter: 'level',
          code: 'range',
          value: '12',
          message: 'Expected a whole number of 9 or less, got "12".',
        },
      ]);
    const missing = await ask('POST /calls/3/close', { reason: 'storm' });
    expect(missing.body)
      .to.have.nested.property('errors[0]')
      .that.includes({ parameter: 'level', code: 'required' });
    const body = await ask('POST /calls/3/close?level=1', { reason: 'no', fees: 1 });
    expect(body.status).to.equal(422);
    expect(
      (body.body as { errors: { pointer: string }[] }).errors.map(({ pointer }) => pointer),
    ).to.deep.equal(['/reason', '/fees']);
    expect((await ask('POST /calls/x/close?level=1', { reason: 'storm' })).status).to.equal(404);
  });

  it('may be about nothing, and send nothing', async () => {
    const seen: unknown[] = [];
    const { ask } = asking({
      ping: ({ input, parameters, key }) => void seen.push([input.n, parameters.word, key]),
    });
    expect(await ask('POST /ping/hello', { n: 3 })).to.deep.equal({ status: 204, body: null });
    expect(seen).to.deep.equal([[3, 'hello', null]]);
    expect((await ask('POST /ping/hello?x=1', { n: 3 })).status).to.equal(400);
  });

  it('answer with the problems that are declared', async () => {
    const { ask } = asking({
      close: ({ input, problem }) => {
        if (input.reason === 'unknown') throw (problem as (code: string) => Error)('no-such');
        if (input.reason === 'other')
          throw new Problem(409, { code: 'other', title: 'Other', members: { status: 1, more: [1] } });
        throw problem('closed-already', {
          detail: 'Since 1970.',
          members: { closedAt: new Date(0), by: { name: 'Ines' }, lines: [{ n: 1 }] },
        });
      },
    });
    expect(await ask('POST /calls/3/close?level=1', { reason: 'storm' })).to.deep.equal({
      status: 409,
      body: {
        type: 'https://harbour.example/closed',
        title: 'The call is closed.',
        status: 409,
        code: 'closed-already',
        detail: 'Since 1970.',
        closedAt: '1970-01-01T00:00:00.000Z',
        by: { name: 'Ines' },
        lines: [{ n: 1 }],
      },
    });
    expect((await ask('POST /calls/3/close?level=1', { reason: 'other' })).body).to.deep.equal({
      type: 'about:blank',
      title: 'Other',
      status: 409,
      code: 'other',
      more: [1],
    });
    expect((await ask('POST /calls/3/close?level=1', { reason: 'unknown' })).status).to.equal(500);
  });

  it('load whole rows of any entity, by values or by conditions', async () => {
    const { ask } = asking({
      close: async ({ load, key }) => {
        const call = await load.from(db.call).row(...(key ?? []));
        const berths = await load.from(db.berth).rows({ where: { name: 'North' } });
        const open = await load.from(db.call).rows({
          where: rowsWhere(db.call, (c) => not(equals(c.status, 'closed'))),
          sort: ['id desc'],
          limit: 1,
        });
        expect([call?.closedAt, berths, open.map(({ id }) => id)]).to.deep.equal([null, rows.berth, [4]]);
        const own = await load.rows({ where: rowsWhere(db.call, (c) => atLeast(c.id, 3)) });
        return own[0] ?? null;
      },
    });
    expect((await ask('POST /calls/3/close?level=1', { reason: 'storm' })).body).to.include({ id: 3 });
  });
});

describe('what a handler gives that does not fit', () => {
  const close: Close = () => ({ id: 3, status: 7, entries: [] }) as never;

  it('is a 500 without it, and the log has the place', async () => {
    const { ask, told } = asking({ close }, memoryStore(db, rows), { rowsOfHandlers: 'trust' });
    const { status, body } = await ask('POST /calls/3/close?level=1', { reason: 'storm' });
    expect([status, (body as { detail: string }).detail]).to.deep.equal([500, 'Something went wrong here.']);
    const [failure] = told;
    expect((failure?.about as { err: Error } | undefined)?.err.message).to.contain(
      'Call.status: expected a string, got 7',
    );
  });

  it('says so where failures are told, for development', async () => {
    const options = { rowsOfHandlers: 'trust', failures: 'tell' };
    const { ask } = asking({ close }, memoryStore(db, rows), options);
    const { status, body } = await ask('POST /calls/3/close?level=1', { reason: 'storm' });
    expect(status).to.equal(500);
    expect((body as { detail: string }).detail).to.contain('Call.status: expected a string, got 7');
    const broken = asking(
      {
        close: () => {
          throw new Error('the crane is broken');
        },
      },
      memoryStore(db, rows),
      options,
    );
    const answer = await broken.ask('POST /calls/3/close?level=1', { reason: 'storm' });
    expect(answer.body).to.include({ status: 500, detail: 'the crane is broken' });
  });
});

describe('what a handler adds to an operation', () => {
  it('are conditions: the query of the caller holds all the same', async () => {
    const filters: unknown[] = [];
    const { ask } = asking({
      'calls.list': ({ proceed, filters: looked }) => {
        filters.push(looked);
        return proceed({ where: rowsWhere(db.call, (c) => atLeast(c.id, 2)) });
      },
      'calls.read': ({ proceed }) => proceed({ where: { status: 'open' } }),
      'calls.remove': ({ proceed }) => proceed({ where: { status: 'closed' } }),
    });
    const ids = async (path: string) => {
      const { body } = await ask(`GET ${path}`);
      const { items, page: told } = body as { items: { id: number }[]; page: { total: number } };
      return [items.map(({ id }) => id), told.total];
    };
    expect(await ids('/calls')).to.deep.equal([[2, 3, 4], 3]);
    expect(await ids('/calls?status=open&sort=status')).to.deep.equal([[3, 4], 2]);
    expect(await ids('/calls?from=4')).to.deep.equal([[4], 1]);
    expect(filters).to.deep.equal([{}, { status: 'open' }, { from: 4 }]);
    expect((await ask('GET /calls/1')).status).to.equal(404);
    expect((await ask('GET /calls/3')).status).to.equal(200);
    expect((await ask('DELETE /calls/4')).status).to.equal(404);
    expect((await ask('DELETE /calls/2')).status).to.equal(204);
  });
});

describe('transactions of handlers', () => {
  const seen = async (store: Store) => ({
    entries: await store.count('entry'),
    berths: await store.count('berth'),
  });
  const closing =
    (at: number, steps: string[] = []): Close =>
    ({ key, load, store, transaction, query }) =>
      transaction(
        async (within) => {
          const check = (step: string): void => {
            steps.push(step);
            if (steps.length === at) throw new Error(`broken at ${step}`);
          };
          check('begun');
          await store.create('entry', { callId: key?.[0], amount: 9 });
          check('entered');
          await within.create('berth', { id: 7, name: 'South' });
          check('made');
          const row = await load.row(...(key ?? []));
          check('loaded');
          return row;
        },
        { dryRun: query.dryRun },
      );

  it('are done whole, and see what they have done', async () => {
    const { ask, store } = asking({ close: closing(0) });
    const { body } = await ask('POST /calls/3/close?level=1', { reason: 'storm' });
    expect(body).to.deep.equal({
      id: 3,
      status: 'open',
      entries: [
        { id: 1, amount: 5 },
        { id: 2, amount: 9 },
      ],
    });
    expect(await seen(store)).to.deep.equal({ entries: 2, berths: 2 });
  });

  it('leave nothing where they throw, wherever that is', async () => {
    for (let at = 1; at <= 4; at++) {
      const { ask, store, told } = asking({ close: closing(at) });
      expect((await ask('POST /calls/3/close?level=1', { reason: 'storm' })).status).to.equal(500);
      expect(told).to.have.length(1);
      expect(await seen(store)).to.deep.equal({ entries: 1, berths: 1 });
    }
  });

  it('answer what would come of them, and leave nothing', async () => {
    const { ask, store } = asking({ close: closing(0) });
    const { status, body } = await ask('POST /calls/3/close?level=1&dryRun', { reason: 'storm' });
    expect([status, (body as { entries: unknown[] }).entries.length]).to.deep.equal([200, 2]);
    expect(await seen(store)).to.deep.equal({ entries: 1, berths: 1 });
  });

  it('have operations as a part of them', async () => {
    const { ask, store } = asking({
      'calls.remove': ({ key, proceed, transaction, store: own }) =>
        transaction(async () => {
          await own.create('berth', { id: 7, name: 'South' });
          await proceed();
          if (key?.[0] === 2) throw new Problem(409, { detail: 'Not this one.' });
          return null;
        }),
      'calls.list': ({ proceed, transaction }) => transaction(() => proceed()),
    });
    expect((await ask('DELETE /calls/2')).status).to.equal(409);
    expect([await seen(store), await store.count('call')]).to.deep.equal([{ entries: 1, berths: 1 }, 4]);
    expect((await ask('DELETE /calls/1')).status).to.equal(204);
    expect([await seen(store), await store.count('call')]).to.deep.equal([{ entries: 1, berths: 2 }, 3]);
    expect((await ask('GET /calls')).body).to.have.nested.property('items.length', 3);
  });

  it('are one at a time, and begin again after one that failed', async () => {
    const { ask, told } = asking({
      close: async ({ transaction, load, key }) => {
        await transaction(async () => {
          throw new Error('first');
        }).catch(() => undefined);
        await transaction(() => transaction(async () => null)).catch((error: Error) => {
          expect(error).to.include({ code: 'MISUSE' });
        });
        return transaction(() => load.row(...(key ?? [])));
      },
    });
    expect((await ask('POST /calls/3/close?level=1', { reason: 'storm' })).status).to.equal(200);
    expect(told).to.deep.equal([]);
  });

  it('store nothing once the time for an answer is up', async () => {
    const { ask, store } = asking(
      {
        close: ({ transaction, store: own }) =>
          transaction(async () => {
            await own.create('berth', { id: 7, name: 'South' });
            await new Promise((resolve) => setTimeout(resolve, 60));
            return null;
          }),
      },
      memoryStore(db, rows),
      { limits: { answering: 20 } },
    );
    expect((await ask('POST /calls/3/close?level=1', { reason: 'storm' })).status).to.equal(503);
    await new Promise((resolve) => setTimeout(resolve, 80));
    expect(await seen(store)).to.deep.equal({ entries: 1, berths: 1 });
  });

  it('take a store that has them', async () => {
    const whole = memoryStore(db, rows);
    const bare = new Proxy(whole, {
      get: (_whole, name: keyof Store) => (name === 'transaction' ? undefined : whole[name]?.bind(whole)),
    });
    const { ask, told } = asking({ close: ({ transaction }) => transaction(async () => null) }, bare);
    expect((await ask('POST /calls/3/close?level=1', { reason: 'storm' })).status).to.equal(500);
    expect(String((told[0]?.about as { err?: Error } | undefined)?.err?.message)).to.contain(
      'this store has no transactions',
    );
  });
});
