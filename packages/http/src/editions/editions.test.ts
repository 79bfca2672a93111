import { subscribe, unsubscribe } from 'node:diagnostics_channel';
import { expect } from 'chai';
import {
  api,
  collection,
  constant,
  editionBefore,
  editionFrom,
  endpoint,
  given,
  input,
  list,
  memoryStore,
  page,
  shape,
} from 'gribo';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { type RequestEvent, receive, respond, type ServeOptions, serve } from '../index.js';

const Vessel = shape(
  stock.vessel,
  (v) => ({
    id: v.id,
    name: given(editionBefore('2026-05'), v.name),
    title: given(editionFrom('2026-05'), v.name),
    built: given(editionFrom('2026-11'), { value: v.builtYear, unit: constant('year') }, v.builtYear),
  }),
  { name: 'Vessel' },
);
const Operator = shape(stock.operator, ({ id, name }) => ({ id, name }), { name: 'Operator' });
const NewOperator = input(
  stock.operator,
  (o) => ({
    name: given(editionBefore('2026-05'), o.name),
    title: given(editionFrom('2026-05'), o.name),
  }),
  { name: 'NewOperator' },
);

const fleet = api({
  title: 'Fleet',
  version: '1.0.0',
  editions: [
    { name: '2025-11', deprecated: { since: '2026-05-02', sunset: '2026-12-31' } },
    '2026-05',
    '2026-11',
  ],
  endpoints: {
    vessels: collection('/vessels', stock.vessel, {
      list: given(editionFrom('2026-11'), page(Vessel, { size: 2 }), list(Vessel)),
      read: Vessel,
    }),
    operators: collection('/operators', stock.operator, {
      read: Operator,
      create: { takes: NewOperator, returns: Operator },
    }),
    flag: given(
      editionFrom('2026-05'),
      endpoint('POST /vessels/{id}/flags', { from: stock.vessel, returns: Vessel }),
      endpoint('POST /vessels/{id}/flag', { from: stock.vessel, returns: Vessel }),
    ),
    // It went with the newest.
    tides: given(
      editionBefore('2026-11'),
      endpoint('GET /tides', { from: stock.operator, returns: list(Operator) }),
    ),
  },
});

const seen: (string | null)[] = [];

const asking = (options: Partial<ServeOptions<typeof fleet>> = {}, now = '2026-11-29T12:00:00Z') => {
  const handle = serve(fleet, {
    store: memoryStore(stock, stockRows),
    now: () => new Date(now),
    handlers: {
      flag: ({ load, key, edition }) => {
        seen.push(edition);
        return load.row(...(key ?? []));
      },
      tides: ({ load }) => load.rows(),
    },
    ...options,
  });
  return async (path: string, headers: Record<string, string> = {}, body?: object) => {
    const response = await handle(
      new Request(`http://fleet.test${path}`, {
        method: body === undefined ? 'GET' : 'POST',
        headers: { ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      }),
    );
    const text = await response.text();
    const json = text === '' ? null : (JSON.parse(text) as { detail?: string; items?: object[] });
    return { status: response.status, headers: response.headers, json };
  };
};

const OLD = { id: 1, name: 'Anselma', built: 1981 };
const NEW = { id: 1, title: 'Anselma', built: { value: 1981, unit: 'year' } };

describe('editions over HTTP', () => {
  it('are the first part of the path; without one, it is the oldest that has not ended', async () => {
    const ask = asking();
    expect((await ask('/2025-11/vessels/1')).json).to.deep.equal(OLD);
    expect((await ask('/2026-11/vessels/1')).json).to.deep.equal(NEW);
    expect((await ask('/vessels/1')).json).to.deep.equal(OLD);
    const later = asking({}, '2027-01-01T00:00:00Z');
    expect((await later('/vessels/1')).json).to.deep.equal({ id: 1, title: 'Anselma', built: 1981 });
    expect((await asking({ unnamed: 'newest' })('/vessels/1')).json).to.deep.equal(NEW);
    expect((await asking({ unnamed: '2026-05' })('/vessels/1')).json).to.have.property('title', 'Anselma');
    const based = asking({ base: '/api' });
    expect((await based('/api/2026-11/vessels/1')).json).to.deep.equal(NEW);
    expect((await based('/2026-11/vessels/1')).status).to.equal(404);
  });

  it('lead on to the same place in the next and the newest one, and say until when they are there', async () => {
    const ask = asking();
    const { headers } = await ask('/2025-11/vessels/1?fields=id');
    expect(headers.get('link')).to.equal(
      '</2026-05/vessels/1>; rel="successor-version", </2026-11/vessels/1>; rel="latest-version"',
    );
    expect(headers.get('deprecation')).to.equal('@1777680000');
    expect(headers.get('sunset')).to.equal('Thu, 31 Dec 2026 23:59:59 GMT');
    const mid = (await ask('/2026-05/vessels/1')).headers;
    expect(mid.get('link')).to.equal('</2026-11/vessels/1>; rel="successor-version latest-version"');
    expect([mid.get('deprecation'), (await ask('/2026-11/vessels/1')).headers.get('link')]).to.deep.equal([
      null,
      null,
    ]);
    // Where it went there, and nowhere where it is not there any more.
    const moved = await ask('/2025-11/vessels/1/flag', {}, {});
    expect(moved.headers.get('link')).to.contain('</2026-05/vessels/1/flags>; rel="successor-version"');
    expect((await ask('/2025-11/tides')).headers.get('link')).to.equal(
      '</2026-05/tides>; rel="successor-version"',
    );
    expect((await ask('/2026-11/tides')).status).to.equal(404);
    // Refusals tell it too: those who only ever ask wrongly are to know.
    expect((await ask('/2025-11/vessels/99')).headers.get('sunset')).to.contain('31 Dec 2026');
  });

  it('keep those who name one in it: pages and new rows are at its paths', async () => {
    const ask = asking();
    const { headers } = await ask('/2026-11/vessels?size=2');
    expect(headers.get('link')).to.contain('</2026-11/vessels?size=2&page=2>; rel="next"');
    const made = await ask('/2026-11/operators', {}, { title: 'Skua Line' });
    expect([made.status, made.headers.get('location')]).to.deep.equal([201, '/2026-11/operators/4']);
    const bare = await ask('/operators', {}, { name: 'Old Skua Line' });
    expect([bare.status, bare.headers.get('location')]).to.deep.equal([201, '/operators/5']);
    expect((await ask('/2026-11/operators', {}, { name: 'Skua' })).status).to.equal(422);
  });

  it('that ended, or were never there, are told as such, with those that are', async () => {
    const ask = asking({}, '2027-01-01T00:00:00Z');
    const gone = await ask('/2025-11/vessels/1');
    expect([gone.status, gone.json?.detail]).to.deep.equal([
      410,
      'The edition "2025-11" has ended. There are: 2026-05, 2026-11.',
    ]);
    // It leads to where the same is now, and who never knew it learns no more than that it has ended.
    expect(gone.headers.get('link')).to.equal(
      '</2026-05/vessels/1>; rel="successor-version", </2026-11/vessels/1>; rel="latest-version"',
    );
    expect(gone.headers.get('sunset')).to.equal('Thu, 31 Dec 2026 23:59:59 GMT');
    const moved = await ask('/2025-11/vessels/1/flag', {}, {});
    expect([moved.status, moved.headers.get('link')]).to.deep.equal([
      410,
      '</2026-05/vessels/1/flags>; rel="successor-version", </2026-11/vessels/1/flags>; rel="latest-version"',
    ]);
    expect((await ask('/2025-11/nowhere')).status).to.equal(410);
    const inHeader = asking({ editions: { by: 'header' } }, '2027-01-01T00:00:00Z');
    expect((await inHeader('/vessels/1', { edition: '2025-11' })).status).to.equal(410);
    const kept = asking({ unnamed: '2025-11' }, '2027-01-01T00:00:00Z');
    expect([(await kept('/vessels/1')).status, (await kept('/nowhere')).status]).to.deep.equal([410, 404]);
    // Its last day is a whole day.
    expect((await asking({}, '2026-12-31T23:59:59Z')('/2025-11/vessels/1')).status).to.equal(200);
    const unknown = await ask('/2027-01/vessels/1');
    expect([unknown.status, unknown.json?.detail]).to.deep.equal([
      404,
      'There is no such edition. There are: 2026-05, 2026-11.',
    ]);
    const strict = asking({ unnamed: 'refuse' });
    const unnamed = await strict('/vessels/1');
    expect([unnamed.status, unnamed.json?.detail]).to.deep.equal([
      400,
      'Name an edition as the first part of the path: /2026-11/vessels/1. There are: 2025-11, 2026-05, 2026-11.',
    ]);
    expect((await strict('/2026-05/vessels/1')).status).to.equal(200);
    expect((await strict('/nothing')).status).to.equal(404);
  });

  it('are named in a header: caches keep them apart, and answers name it', async () => {
    const ask = asking({ editions: { by: 'header', header: 'X-Fleet-Edition' } });
    const { headers, json } = await ask('/vessels/1', { 'x-fleet-edition': '2026-11' });
    expect(json).to.deep.equal(NEW);
    expect(headers.get('vary')).to.equal('Accept, X-Fleet-Edition');
    expect(headers.get('x-fleet-edition')).to.equal('2026-11');
    const old = await ask('/vessels/1');
    expect(old.json).to.deep.equal(OLD);
    expect(old.headers.get('x-fleet-edition')).to.equal('2025-11');
    // The same place leads nowhere else; where it moved, it is told.
    expect(old.headers.get('link')).to.equal(null);
    expect((await ask('/vessels/1/flag', {}, {})).headers.get('link')).to.contain('</vessels/1/flags>');
    const unknown = await ask('/vessels/1', { 'x-fleet-edition': '2027' });
    expect([unknown.status, unknown.headers.get('vary'), unknown.json?.detail]).to.deep.equal([
      400,
      'Accept, X-Fleet-Edition',
      'There is no edition "2027". There are: 2025-11, 2026-05, 2026-11.',
    ]);
    expect(old.headers.get('etag')).to.not.equal(headers.get('etag'));
    const again = await ask('/vessels/1', {
      'x-fleet-edition': '2026-11',
      'if-none-match': headers.get('etag') ?? '',
    });
    expect([again.status, again.headers.get('vary')]).to.deep.equal([304, 'Accept, X-Fleet-Edition']);
  });

  it('are named with media types, those of what is sent too', async () => {
    const ask = asking({ editions: { by: 'mediaType' } });
    const { headers, json } = await ask('/vessels/1', { accept: 'application/json;edition=2026-11' });
    expect(json).to.deep.equal(NEW);
    expect(headers.get('content-type')).to.equal('application/json; edition=2026-11');
    const wanted =
      'application/json; edition="2025-11"; q=0.5, application/json;edition=2026-05, text/csv;q=0.1';
    expect((await ask('/vessels/1', { accept: wanted })).json).to.have.property('title');
    expect((await ask('/vessels/1')).json).to.deep.equal(OLD);
    const sent = { 'content-type': 'application/json; edition=2026-05' };
    expect((await ask('/operators', sent, { title: 'Skua Line' })).status).to.equal(201);
    const unknown = await ask('/vessels/1', { accept: 'application/json;edition=2027' });
    expect([unknown.status, unknown.json?.detail]).to.deep.equal([
      406,
      'There is no edition "2027". There are: 2025-11, 2026-05, 2026-11.',
    ]);
    const two = await ask(
      '/operators',
      { ...sent, accept: 'application/json;edition=2026-11' },
      { title: 'A' },
    );
    expect([two.status, two.json?.detail]).to.deep.equal([
      400,
      'What is sent is of the edition "2026-05", and "2026-11" is accepted: name one of them.',
    ]);
  });

  it('are named with media types in refusals too, and by qualities that are none by nobody', async () => {
    const ask = asking({ editions: { by: 'mediaType' } });
    const refused = await serve(fleet, {
      store: memoryStore(stock, stockRows),
      handlers: { flag: () => null, tides: () => [] } as never,
      editions: { by: 'mediaType' },
    })(
      new Request('http://fleet.test/vessels/99', { headers: { accept: 'application/xml;edition=2026-05' } }),
    );
    expect([refused.status, refused.headers.get('content-type')]).to.deep.equal([
      404,
      'application/problem+xml; edition=2026-05',
    ]);
    for (const q of ['0', 'much', '']) {
      const accept = `application/json;edition=2026-05;q=${q}, application/json;edition=2026-11;q=0.1`;
      expect((await ask('/vessels/1', { accept })).json, q).to.deep.equal(NEW);
    }
    const wrong = await ask(
      '/operators',
      { 'content-type': 'application/;edition=2026-05' },
      { name: 'Skua' },
    );
    expect(wrong.status).to.equal(415);
  });

  it('of those who name none are some that there are', () => {
    const options = {
      store: memoryStore(stock, stockRows),
      handlers: { flag: () => null, tides: () => [] },
      unnamed: '2026-06',
    } as never;
    expect(() => serve(fleet, options)).to.throw(
      'unnamed: there is no edition "2026-06". There are: 2025-11',
    );
  });

  it('that have all ended are told as that', async () => {
    const over = api({
      title: 'Over',
      version: '1',
      editions: [{ name: 'v1', deprecated: { sunset: '2026-01-01' } }],
      endpoints: { own: endpoint('GET /operators', { from: stock.operator, returns: list(Operator) }) },
    });
    const handle = serve(over, {
      store: memoryStore(stock, stockRows),
      handlers: { own: () => [] },
      now: () => new Date('2026-11-29T12:00:00Z'),
    });
    for (const path of ['/operators', '/v1/operators']) {
      const response = await handle(new Request(`http://fleet.test${path}`));
      const { detail } = (await response.json()) as { detail: string };
      expect([response.status, detail]).to.deep.equal([410, 'The edition "v1" has ended.']);
    }
  });

  it('are known to handlers, to those who watch, and to those who keep their own routes', async () => {
    const events: (string | null)[] = [];
    const note = (event: unknown): void => void events.push((event as RequestEvent).edition);
    subscribe('gribo:request:end', note);
    const ask = asking();
    seen.length = 0;
    await ask('/2026-05/vessels/1/flags', {}, {});
    await ask('/vessels/1/flag', {}, {});
    unsubscribe('gribo:request:end', note);
    expect(seen).to.deep.equal(['2026-05', '2025-11']);
    expect(events).to.deep.equal(['2026-05', '2025-11']);

    const [row] = stockRows['vessel'] as never[];
    const request = new Request('http://fleet.test/vessels/1');
    const old = await respond(fleet, 'vessels.read', row as never, { request, edition: '2025-11' });
    expect(await old.json()).to.deep.equal(OLD);
    expect(await (await respond(fleet, 'vessels.read', row as never, { request })).json()).to.deep.equal(NEW);
    const body = (member: string) =>
      new Request('http://fleet.test/operators', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ [member]: 'Skua' }),
      });
    const missing = { request, edition: '2027' as '2025-11' };
    const thrown = await respond(fleet, 'vessels.read', row as never, missing).catch(
      (error: unknown) => error,
    );
    expect(String(thrown)).to.contain('there is no edition "2027". There are: 2025-11, 2026-05, 2026-11.');
    const got = await receive(fleet, 'operators.create', body('name'), { edition: '2025-11' });
    expect(got.ok && got.value).to.deep.equal({ name: 'Skua' });
    expect((await receive(fleet, 'operators.create', body('name'))).ok).to.equal(false);
  });

  it('are no paths of others', () => {
    const taken = api({
      title: 'Taken',
      version: '1',
      editions: ['v1'],
      endpoints: { own: endpoint('GET /v1/operators', { from: stock.operator, returns: list(Operator) }) },
    } as never);
    const options = { store: memoryStore(stock, stockRows), handlers: { own: () => [] } } as never;
    expect(() => serve(taken, options)).to.throw('begins with the name of an edition');
    expect(serve(taken, { ...(options as object), editions: { by: 'header' } } as never)).to.be.a('function');
  });

  it('need handlers for what any of them has', () => {
    expect(() => serve(fleet, { store: memoryStore(stock, stockRows), handlers: {} })).to.throw(
      'flag: what it does',
    );
  });
});
