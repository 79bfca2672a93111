import { expect } from 'chai';
import { api, endpoint, type Key, list, memoryStore, shape } from 'gribo';
import type { Guard } from 'gribo/kit';
import { callId, stock, stockRows } from '../../gribo/src/testing/stock.js';
import { serve } from './index.js';
import { askOffice, errorsOf, JSON_BODY, openMethods } from './testing/ask.js';
import { VESSEL } from './testing/office.js';

describe('serve: reading', () => {
  const ask = askOffice();

  it('sends a row with its collection’s members, and an entity tag', async () => {
    const { status, headers, json } = await ask('GET', '/vessels/2');
    expect(status).to.equal(200);
    expect(json()).to.deep.equal({
      id: 2,
      name: 'Borrowed Light',
      callSign: null,
      size: { tonnage: '200.5', draught: 2.25 },
      operator: { id: 1, name: 'Lantern Bay' },
      calls: [{ id: callId(4), eta: '2026-06-01T06:00:00.000Z', status: 'announced', remarks: null }],
    });
    expect(headers.get('etag')).to.match(/^"[\w-]{27}"$/);
    expect(headers.get('cache-control')).to.equal('private, no-cache');
  });

  it('sends what an audience may see to that audience only', async () => {
    expect((await ask('GET', '/vessels/2', { 'x-audience': 'office' })).json()).to.include({
      weight: '2000',
    });
    expect((await ask('GET', '/vessels/2', { 'x-audience': 'agent' })).json()).to.not.have.property('weight');
    expect((await ask('GET', '/books')).status).to.equal(403);
    expect((await ask('GET', '/books', { 'x-audience': 'agent' })).status).to.equal(403);
    expect((await ask('GET', '/books', { 'x-audience': 'office' })).status).to.equal(200);
  });

  it('pages by number, with links to the others (RFC 8288)', async () => {
    const { json, headers } = await ask('GET', '/vessels?page=2&kind=bulk,tug');
    expect(json()).to.have.nested.property('page.total', 4);
    expect(json()).to.deep.include({ page: { number: 2, size: 2, total: 4, pages: 2 } });
    expect(headers.get('link')).to.equal(
      '</vessels?kind=bulk,tug&page=1>; rel="first", </vessels?kind=bulk,tug&page=1>; rel="prev", </vessels?kind=bulk,tug&page=2>; rel="last"',
    );
    expect((await ask('GET', '/vessels')).headers.get('link')).to.equal(
      '</vessels?page=2>; rel="next", </vessels?page=3>; rel="last"',
    );
    const beyond = await ask('GET', '/vessels?page=99');
    expect(beyond.json()).to.deep.include({ items: [] });
    expect(beyond.headers.get('link')).to.contain('</vessels?page=3>; rel="prev"');
    expect((await ask('GET', '/vessels?kind=tug')).headers.get('link')).to.equal(null);
  });

  it('pages by cursor to the end, each row once', async () => {
    const seen: number[] = [];
    let path: string | null = '/feed';
    while (path !== null && seen.length < 20) {
      const { json, headers } = await ask('GET', path);
      const { items } = json() as { items: { id: number }[] };
      seen.push(...items.map(({ id }) => id));
      path = /^<([^>]*)>; rel="next"$/.exec(headers.get('link') ?? '')?.[1] ?? null;
    }
    expect(seen).to.deep.equal([3, 5, 1, 4, 2]);
  });

  it('filters and sorts', async () => {
    const names = async (query: string): Promise<string[]> =>
      ((await ask('GET', `/vessels?size=4&${query}`)).json() as { items: { name: string }[] }).items.map(
        ({ name }) => name,
      );
    expect(await names('from=1984&sort=builtYear+desc')).to.deep.equal(['Evening Tern']);
    expect(await names('q=TERN&sort=builtYear%20desc,name')).to.deep.equal(['Evening Tern', stockName(3)]);
    expect(await names('unsigned=true')).to.deep.equal(['Borrowed Light']);
    expect(await names('active=true&sort=name+desc')).to.deep.equal(['Dunlin', 'Borrowed Light']);
  });

  it('refuses parameters that are wrong, all of them, with the nearest name', async () => {
    const wrong = await ask(
      'GET',
      '/vessels?form=1&kind=boat&from=x&active=1&unsigned=no&sort=nmae,name,name&page=0&size=9',
    );
    expect(wrong.status).to.equal(400);
    expect(errorsOf(wrong)).to.deep.equal([
      'form unknown: There is no parameter "form". Did you mean "from"?',
      'kind type: kind must be one of bulk, tanker, tug.',
      'from type: from must be a whole number.',
      'active type: active must be true or false.',
      'unsigned type: unsigned must be true or false.',
      'sort unknown: sort does not take "nmae". Did you mean "name"?',
      'sort range: sort has the same column twice.',
    ]);
    const [far] = errorsOf(await ask('GET', '/operators?zebra=1'));
    expect(far).to.match(/^zebra unknown: There is no parameter "zebra"\. There are: .*\bfields\b.*\.$/);
    const [none] = errorsOf(await ask('DELETE', '/vessels/5?zebra=1'));
    expect(none).to.equal('zebra unknown: There is no parameter "zebra". It takes none.');
    expect(errorsOf(await ask('GET', '/vessels?page=0&size=9'))).to.deep.equal([
      'size range: size must be a whole number from 1 to 4.',
      'page range: page must be a whole number from 1 to 1000000000.',
    ]);
    expect((await ask('GET', '/vessels?page=1&page=2')).status).to.equal(400);
    expect((await ask('GET', '/vessels?q=%zz')).status).to.equal(400);
    expect((await ask('GET', '/operators/1?page=1')).status).to.equal(400);
    expect(errorsOf(await ask('GET', '/operators/1?fields=nmae'))).to.deep.equal([
      'fields unknown: There is no member "nmae". Did you mean "name"?',
    ]);
    expect(errorsOf(await ask('GET', '/operators/1?with=all'))[0]).to.match(/^with unknown/);
    expect((await askOffice({ unknownParameters: 'ignore' })('GET', '/vessels?utm=1')).status).to.equal(200);
  });

  it('refuses cursors that were tampered with', async () => {
    const { json } = await ask('GET', '/feed');
    const { next } = (json() as { page: { next: string } }).page;
    for (const after of [
      'x',
      `${next}x`,
      next.slice(2),
      Buffer.from('["callSign",null]').toString('base64url'),
    ]) {
      const answered = await ask('GET', `/feed?after=${after}`);
      expect(answered.status, after).to.equal(400);
      expect(errorsOf(answered)[0]).to.match(/^after unknown: after is no cursor/);
    }
  });

  it('answers 304 to who has it already (RFC 9110, section 13.1.2)', async () => {
    const tag = (await ask('GET', '/vessels/1')).headers.get('etag') ?? '';
    for (const known of [tag, `W/${tag}`, '*', `"other", ${tag}`]) {
      const { status, text, headers } = await ask('GET', '/vessels/1', { 'if-none-match': known });
      expect([status, text, headers.get('etag')]).to.deep.equal([304, '', tag]);
      expect(headers.get('content-type')).to.equal(null);
    }
    expect((await ask('GET', '/vessels/1', { 'if-none-match': '"other"' })).status).to.equal(200);
    expect((await ask('GET', '/vessels/1', { 'if-none-match': tag, accept: 'text/xml' })).status).to.equal(
      200,
    );
  });

  it('answers HEAD as GET, without the body', async () => {
    const get = await ask('GET', '/vessels/1');
    const head = await ask('HEAD', '/vessels/1');
    expect(head.text).to.equal('');
    expect(head.headers.get('content-length')).to.equal(String(Buffer.byteLength(get.text)));
    for (const name of ['etag', 'content-type', 'vary'])
      expect(head.headers.get(name)).to.equal(get.headers.get(name));
    expect((await ask('HEAD', '/vessels/99')).status).to.equal(404);
  });

  it('finds named paths before parameters, and children under their parents', async () => {
    expect((await ask('GET', '/vessels/options')).json()).to.have.length(5);
    expect((await ask('GET', '/vessels/1/calls')).json()).to.have.length(3);
    expect((await ask('GET', '/vessels/3/calls')).json()).to.deep.equal([]);
    expect((await ask('GET', '/vessels/99/calls')).status).to.equal(404);
    expect((await ask('GET', `/vessels/1/calls/${callId(1)}`)).status).to.equal(200);
    expect((await ask('GET', `/vessels/2/calls/${callId(1)}`)).status).to.equal(404);
  });

  it('keeps what it says about caching true (RFC 9111)', async () => {
    const caching = askOffice({ cache: { 'operators.list': 60, 'vessels.list': 60, books: 60 } });
    const said = async (path: string, headers = {}): Promise<string | null> =>
      (await caching('GET', path, headers)).headers.get('cache-control');
    expect(await said('/operators'), 'somebody was told apart').to.equal('private, max-age=60');
    expect(await said('/books', { 'x-audience': 'office' })).to.equal('private, max-age=60');
    expect(await said('/operators/1')).to.equal('private, no-cache');
    expect(await said('/operators/99')).to.equal('no-store');
  });

  it('announces what will go (RFC 9745, RFC 8594)', async () => {
    const { headers, json } = await ask('GET', '/wrapped');
    expect(headers.get('deprecation')).to.equal('@1767225600');
    expect(headers.get('sunset')).to.equal('Thu, 31 Dec 2026 23:59:59 GMT');
    expect(headers.get('link')).to.equal('</operators>; rel="successor-version"');
    expect(json()).to.deep.include({ total: 3 });
  });
});

const stockName = (id: number): string => {
  const { name } = { name: '', ...stockRows['vessel']?.[id - 1] };
  return name;
};

describe('serve: writing', () => {
  it('creates: 201, where it is, and the row', async () => {
    const ask = askOffice();
    const { status, headers, json } = await ask(
      'POST',
      '/vessels',
      JSON_BODY,
      JSON.stringify({ ...VESSEL, operator: { id: 3 } }),
    );
    expect(status).to.equal(201);
    expect(headers.get('location')).to.equal('/vessels/6');
    expect(headers.get('cache-control')).to.equal('no-store');
    expect(json()).to.deep.include({ id: 6, operator: { id: 3, name: 'Ostwick' } });
    const bare = await ask('POST', '/operators', JSON_BODY, '{"name":"Bare"}');
    expect([bare.status, bare.text, bare.headers.get('location')]).to.deep.equal([201, '', '/operators/4']);
  });

  it('makes no program for a request like one before: readers are kept, as writers are', async () => {
    const ask = askOffice();
    const create = async (name: string): Promise<number> =>
      (await ask('POST', '/operators', JSON_BODY, JSON.stringify({ name }))).status;
    expect(await create('First')).to.equal(201);
    const made: unknown[] = [];
    const real = globalThis.Function;
    globalThis.Function = new Proxy(real, {
      construct: (target, words) => {
        made.push(words);
        return Reflect.construct(target, words) as object;
      },
    });
    try {
      new Function('return 1');
      expect(made, 'programs are counted').to.have.length(1);
      for (let i = 0; i < 20; i++) expect(await create(`Kept ${i}`)).to.equal(201);
    } finally {
      globalThis.Function = real;
    }
    expect(made).to.have.length(1);
  });

  it('creates children under their parent', async () => {
    const ask = askOffice({ base: '/api/' });
    const call = JSON.stringify({ id: callId(9), eta: '2026-01-01T00:00:00Z', status: 'sailed' });
    const made = await ask('POST', '/api/vessels/3/calls', JSON_BODY, call);
    expect(made.status, made.text).to.equal(201);
    expect(made.headers.get('location')).to.equal(`/api/vessels/3/calls/${callId(9)}`);
    expect((await ask('GET', '/api/vessels/3/calls')).json()).to.have.length(1);
    expect((await ask('POST', '/api/vessels/99/calls', JSON_BODY, call)).status).to.equal(404);
    expect((await ask('DELETE', `/api/vessels/1/calls/${callId(9)}`)).status).to.equal(404);
    expect((await ask('DELETE', `/api/vessels/3/calls/${callId(9)}`)).status).to.equal(204);
    expect((await ask('GET', '/apivessels')).status).to.equal(404);
    expect((await ask('GET', '/vessels')).status).to.equal(404);
  });

  it('amends what is named, replaces everything', async () => {
    const ask = askOffice();
    const merge = { 'content-type': 'application/merge-patch+json; charset=utf-8' };
    expect((await ask('PATCH', '/vessels/1', merge, '{"name":"Amended"}')).json()).to.include({
      name: 'Amended',
      callSign: 'MR1',
    });
    const put = await ask('PUT', '/vessels/1', JSON_BODY, JSON.stringify(VESSEL));
    expect(put.json(), 'what is left out is cleared').to.include({ name: 'New One', callSign: null });
    expect(put.json(), 'in groups too').to.include({ operator: null });
    expect((await ask('PATCH', '/vessels/99', merge, '{"name":"A"}')).status).to.equal(404);
    expect(errorsOf(await ask('PATCH', '/vessels/1', merge, '{"built":1990}'))).to.deep.equal([
      '/built fixed: This is set once, when the vessel is created.',
    ]);
  });

  it('removes: 204, then 404', async () => {
    const ask = askOffice();
    expect((await ask('DELETE', '/vessels/5')).status).to.equal(204);
    expect((await ask('DELETE', '/vessels/5')).status).to.equal(404);
    const needed = await ask('DELETE', '/vessels/1');
    expect([needed.status, needed.json()]).to.deep.equal([
      409,
      { type: 'about:blank', title: 'Conflict', status: 409, detail: 'Others still need it.' },
    ]);
  });

  it('holds changes to what their caller knows (RFC 9110, section 13.1.1)', async () => {
    const ask = askOffice();
    const read = await ask('GET', '/vessels/1', { accept: 'application/xml' });
    const tag = read.headers.get('etag') ?? '';
    const amend = (headers: Record<string, string>, body = '{"name":"B"}') =>
      ask('PATCH', '/vessels/1', { ...JSON_BODY, ...headers }, body);
    expect((await amend({ 'if-match': '"old"' })).status).to.equal(412);
    expect((await amend({ 'if-match': `W/${tag}` })).status, 'only strong tags hold').to.equal(412);
    expect((await amend({ 'if-match': `"old", ${tag}` })).status).to.equal(200);
    expect((await amend({ 'if-match': tag })).status, 'it has another tag by now').to.equal(412);
    expect((await amend({ 'if-match': '*' })).status).to.equal(200);
    const unwanted = await amend({ 'if-none-match': '*' });
    expect(unwanted.status).to.equal(412);
    expect(await unwanted.json()).to.include({ detail: 'It is as the request says that it must not be.' });
    expect((await ask('DELETE', '/vessels/5', { 'if-match': tag })).status).to.equal(412);
    expect((await ask('DELETE', '/vessels/99', { 'if-match': '*' })).status).to.equal(404);
    const elsewhere = await ask('DELETE', `/vessels/2/calls/${callId(1)}`, { 'if-match': '*' });
    expect(elsewhere.status, 'the call is another vessel’s').to.equal(404);
    expect((await ask('DELETE', `/vessels/1/calls/${callId(1)}`, { 'if-match': tag })).status).to.equal(412);
  });

  it('asks a store to look at the row first only where the caller knows something of it', async () => {
    const guards: unknown[] = [];
    const { amend, ...methods } = openMethods();
    const watched = {
      ...methods,
      amend: (entity: string, key: Key, change: object, guard?: Guard) => {
        guards.push(guard?.check === undefined);
        return amend(entity, key, change, guard);
      },
    };
    const ask = askOffice({ store: watched });
    await ask('PATCH', '/vessels/1', JSON_BODY, '{"name":"B"}');
    await ask('PATCH', '/vessels/1', { ...JSON_BODY, 'if-match': '*' }, '{"name":"B"}');
    expect(guards).to.deep.equal([true, false]);
  });

  it('tells of conflicts by the members that they are about', async () => {
    const ask = askOffice();
    const reference = await ask(
      'POST',
      '/vessels',
      JSON_BODY,
      JSON.stringify({ ...VESSEL, operator: { id: 99 } }),
    );
    expect([reference.status, ...errorsOf(reference)]).to.deep.equal([
      409,
      '/operator/id conflict: This names something that is not there.',
    ]);
    const duplicate = await ask('POST', '/operators', JSON_BODY, '{"name":"Ostwick"}');
    expect([duplicate.status, ...errorsOf(duplicate)]).to.deep.equal([
      409,
      '/name conflict: Another one has this value already.',
    ]);
    const inside = { name: 'Fleet', fleet: [VESSEL, { ...VESSEL, operator: { id: 99 } }] };
    expect((await ask('POST', '/operators', JSON_BODY, JSON.stringify(inside))).status).to.equal(201);
    expect((await ask('GET', '/operators')).json(), 'nothing half done').to.have.length(4);
  });
});

describe('routes', () => {
  it('go back where a named part leads nowhere, and forget what they had taken', async () => {
    const Pair = shape(stock.pilotage, ({ portCallId, pilotId }) => ({ portCallId, pilotId }));
    const from = stock.pilotage;
    const office = api({
      title: 'Routes',
      version: '1',
      endpoints: {
        deep: endpoint('GET /a/b/{pilotId}/c', { from, returns: list(Pair) }),
        wide: endpoint('GET /a/{portCallId}/{pilotId}/d', { from, returns: list(Pair) }),
      },
    });
    const seen: object[] = [];
    const keep = ({ parameters }: { parameters: object }): [] => {
      seen.push(parameters);
      return [];
    };
    // A parameter that is a key has to be one, of a row that is there.
    const call = callId(1);
    const store = memoryStore(stock, {
      ...stockRows,
      pilotage: [{ portCallId: call, pilotId: 2 }],
    } as never);
    const handle = serve(office, { store, handlers: { deep: keep, wide: keep } });
    for (const path of ['/a/b/1/c', `/a/${call}/2/d`, `/a/${call}/2/c`]) {
      await handle(new Request(`http://r.test${path}`));
    }
    expect(seen).to.deep.equal([{ pilotId: '1' }, { portCallId: call, pilotId: '2' }]);
    const back = api({
      title: 'Back',
      version: '1',
      endpoints: {
        deep: endpoint(`GET /a/${call}/{pilotId}/c`, { from, returns: list(Pair) }),
        wide: endpoint('GET /a/{portCallId}/{pilotId}/d', { from, returns: list(Pair) }),
      },
    });
    const handleBack = serve(back, { store: memoryStore(stock), handlers: { deep: keep, wide: keep } });
    await handleBack(new Request(`http://r.test/a/${call}/2/d`));
    expect(seen.at(-1)).to.deep.equal({ portCallId: call, pilotId: '2' });
  });
});
