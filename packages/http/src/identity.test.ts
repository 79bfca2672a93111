import { subscribe, unsubscribe } from 'node:diagnostics_channel';
import { expect } from 'chai';
import {
  api,
  callerOf,
  collection,
  endpoint,
  entity,
  integer,
  list,
  memoryStore,
  model,
  shape,
  text,
} from 'gribo';
import { type Asking, Problem, type RequestEvent, type ServeOptions, serve } from './index.js';
import { keepingLog } from './testing/ask.js';

const db = model({ buoy: entity('buoy', { id: integer().key(), name: text() }) }, {});
const Buoy = shape(db.buoy, ({ id, name }) => ({ id, name }));
const buoys = api({
  title: 'Buoys',
  version: '1',
  audiences: ['pilot'],
  caller: callerOf({ user: text().nullable(), language: text() }, { identity: ['user'] }),
  endpoints: {
    buoys: collection('/buoys', db.buoy, { list: list(Buoy) }),
    broken: endpoint('POST /broken', { from: db.buoy }),
  },
});

const serving = (options: Partial<ServeOptions<typeof buoys>> = {}) => {
  const { told, log } = keepingLog();
  const handle = serve(buoys, {
    store: memoryStore(db, { buoy: [{ id: 1, name: 'North' }] }),
    log,
    caller: ({ headers }) => ({
      audience: 'pilot',
      user: headers.get('x-user'),
      language: headers.get('Accept-Language') ?? 'en',
    }),
    handlers: {
      broken: () => {
        throw new Error('the lantern is out');
      },
    },
    ...options,
  });
  const ask = (path: string, headers: Record<string, string> = {}, method = 'GET') =>
    handle(new Request(`http://b.test${path}`, { method, headers }));
  return { ask, told };
};

describe('who asks', () => {
  it('is told to whoever lets requests in, before anything is done, and may be refused', async () => {
    const asked: unknown[] = [];
    const counts = new Map<string, number>();
    const admit = ({ endpoint: name, audience, identity, now, request }: Asking): void => {
      asked.push([name, audience, identity, now instanceof Date, request.method]);
      const who = JSON.stringify(identity);
      counts.set(who, (counts.get(who) ?? 0) + 1);
      if ((counts.get(who) ?? 0) > 2) throw new Problem(429, { headers: { 'retry-after': '9' } });
    };
    const { ask } = serving({ admit });
    const statuses = [];
    for (const user of ['orla', 'orla', 'orla', 'finn'])
      statuses.push((await ask('/buoys', { 'x-user': user, 'accept-language': user })).status);
    const refused = await ask('/buoys', { 'x-user': 'orla' });
    expect(statuses).to.deep.equal([200, 200, 429, 200]);
    expect([refused.status, refused.headers.get('retry-after')]).to.deep.equal([429, '9']);
    expect(asked[0]).to.deep.equal(['buoys.list', 'pilot', { user: 'orla' }, true, 'GET']);
    await ask('/buoys');
    expect((asked.at(-1) as unknown[])[2]).to.equal(null);
  });

  it('is in what is told to those who watch, and in the log of a failure', async () => {
    const seen: unknown[] = [];
    const see = (event: unknown): void => void seen.push((event as RequestEvent).identity);
    subscribe('gribo:request:end', see);
    const { ask, told } = serving();
    await ask('/buoys', { 'x-user': 'orla' });
    await ask('/buoys');
    expect((await ask('/broken', { 'x-user': 'finn' }, 'POST')).status).to.equal(500);
    unsubscribe('gribo:request:end', see);
    expect(seen).to.deep.equal([{ user: 'orla' }, null, { user: 'finn' }]);
    expect(told.map(({ about }) => (about as { identity?: unknown }).identity)).to.deep.equal([
      { user: 'finn' },
    ]);
  });

  it('is known by headers that caches are told of, those that nobody has named too', async () => {
    const { ask } = serving();
    const vary = async (path: string) => (await ask(path)).headers.get('vary');
    expect(await vary('/buoys')).to.equal('Accept, Authorization, Cookie, X-User, Accept-Language');
    const named = serving({ decidedBy: ['X-User'] });
    expect((await named.ask('/buoys')).headers.get('vary')).to.equal('Accept, X-User');
    // Afterwards the request is as it was.
    let kept: Headers | null = null;
    const looking = serving({
      caller: ({ headers }) => {
        kept = headers;
        return { audience: 'pilot', user: headers.has('x-user') ? 'orla' : null, language: 'en' };
      },
    });
    expect((await looking.ask('/buoys')).headers.get('vary')).to.equal(
      'Accept, Authorization, Cookie, X-User',
    );
    expect(Object.keys(Object.getOwnPropertyDescriptors(kept))).to.deep.equal([]);
  });
});
