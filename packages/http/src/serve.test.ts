import { expect } from 'chai';
import { api, collection, endpoint, input, type Key, list, memoryStore, optional, shape } from 'gribo';
import type { Guard } from 'gribo/kit';
import { callId, stock, stockRows } from '../../gribo/src/testing/stock.js';
import { handlersWanted, Problem, receive, respond, serve } from './index.js';
import { askOffice, JSON_BODY, keepingLog, openStore, saidCaller } from './testing/ask.js';
import { CallLine, OperatorName, office, VESSEL } from './testing/office.js';

const errorsOf = (answered: { json(): unknown }): string[] => {
  const { errors = [] } = answered.json() as {
    errors?: { pointer?: string; parameter?: string; code: string; message: string }[];
  };
  return errors.map(({ pointer, parameter, code, message }) => `${pointer ?? parameter} ${code}: ${message}`);
};

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

describe('serve: refusing', () => {
  const ask = askOffice({ limits: { body: 200, url: 100 } });

  it('what is not there', async () => {
    for (const path of [
      '/',
      '/nothing',
      '/vessels/',
      '/vessels/1/2',
      '/vessels//calls',
      '/vessels/x',
      '/vessels/1.5',
      '/vessels/1/calls/x',
      '/VESSELS',
    ]) {
      expect((await ask('GET', path)).status, path).to.equal(404);
    }
    expect((await ask('GET', '/vessels/%zz')).status).to.equal(400);
    expect((await ask('GET', `/vessels?q=${'x'.repeat(100)}`)).status).to.equal(414);
  });

  it('methods, and says which there are', async () => {
    const wrong = await ask('POST', '/vessels/1', JSON_BODY, '{}');
    expect([wrong.status, wrong.headers.get('allow')]).to.deep.equal([
      405,
      'GET, PUT, PATCH, DELETE, HEAD, OPTIONS',
    ]);
    expect((await ask('PROPFIND', '/vessels')).status).to.equal(405);
    const options = await ask('OPTIONS', '/vessels/1');
    expect([options.status, options.headers.get('allow')]).to.deep.equal([
      204,
      'GET, PUT, PATCH, DELETE, HEAD, OPTIONS',
    ]);
    expect(options.headers.get('accept-patch')).to.contain('application/merge-patch+json');
    expect((await ask('OPTIONS', '/nothing')).status).to.equal(404);
  });

  it('bodies of other types, charsets and encodings, and says which it takes', async () => {
    const post = (headers: Record<string, string>, body: string | Uint8Array = '{}') =>
      ask('POST', '/operators', headers, body);
    for (const type of [
      'text/html',
      'application/jsonx',
      'text/csv',
      'application/x-ndjson',
      'json',
      '*/*',
    ]) {
      const answered = await post({ 'content-type': type });
      expect(answered.status, type).to.equal(415);
      expect(answered.headers.get('accept')).to.contain('application/json');
    }
    expect((await post({}, new TextEncoder().encode('{}'))).status, 'no type at all').to.equal(415);
    expect((await post({ 'content-type': 'application/json; charset=utf-16' })).status).to.equal(415);
    const zipped = await post({ ...JSON_BODY, 'content-encoding': 'gzip' });
    expect([zipped.status, zipped.headers.get('accept-encoding')]).to.deep.equal([415, 'identity']);
    const patch = await ask('PATCH', '/vessels/1', { 'content-type': 'text/plain' }, 'x');
    expect(patch.headers.get('accept-patch')).to.contain('application/merge-patch+json');
    expect(
      (await post({ 'content-type': 'Application/JSON; Charset="UTF-8"' }, '{"name":"Typed"}')).status,
    ).to.equal(201);
  });

  it('bodies that are none, too long, or wrong', async () => {
    const post = (body: string | Uint8Array) => ask('POST', '/operators', JSON_BODY, body);
    for (const body of [
      '',
      '{',
      '{"name":"A","name":"B"}',
      '{"name":',
      '\u0000',
      'nul',
      Uint8Array.of(0xff, 0xfe),
      '['.repeat(150),
      '{"name":"A"} x',
    ]) {
      const answered = await post(body);
      expect(answered.status, String(body)).to.be.oneOf([400, 413]);
    }
    expect((await post(`{"name":"${'x'.repeat(300)}"}`)).status).to.equal(413);
    expect(errorsOf(await post('{"nmae":"A","__proto__":{}}'))).to.deep.equal([
      '/nmae unknown: There is no such member. Did you mean "name"?',
      '/__proto__ unknown: There is no such member.',
      '/name required: This member is required: a string.',
    ]);
    expect((await post('[]')).status).to.equal(422);
    // A hundred are told, and that there are more: a limit of the answer, not of the body.
    const odd = Object.fromEntries(Array.from({ length: 120 }, (_, i) => [`m${i}`, 1]));
    const many = await askOffice()('POST', '/operators', JSON_BODY, JSON.stringify(odd));
    expect(many.status).to.equal(422);
    expect(errorsOf(many)).to.have.length(101);
  });

  it('in XML, as RFC 9457 has it, where that is preferred', async () => {
    const { headers, text } = await ask('GET', '/vessels?form=1', { accept: 'application/xml' });
    expect(headers.get('content-type')).to.equal('application/problem+xml');
    expect(text).to.contain(
      '<problem xmlns="urn:ietf:rfc:7807"><type>about:blank</type><title>Bad Request</title><status>400</status>',
    );
    expect(text).to.contain('<errors><i><parameter>form</parameter>');
    const both = await ask('GET', '/nothing', { accept: 'text/html;q=0.9, application/problem+json' });
    expect(both.headers.get('content-type')).to.equal('application/problem+json');
  });
});

describe('serve: failing', () => {
  const secret = 'select * from vessel where phone = 12345';
  const failing = (store: object) => {
    const { told, log } = keepingLog();
    return {
      told,
      ask: askOffice({ store: { ...openMethods(), ...store }, log, limits: { answering: 50, ending: 30 } }),
    };
  };

  it('tells nothing of the cause, and the log everything', async () => {
    const error = new Error(secret);
    const fail = async (): Promise<never> => {
      throw error;
    };
    const { ask, told } = failing({ read: fail, create: fail, list: fail, amend: fail });
    for (const [method, path, body] of [
      ['GET', '/vessels/1', undefined],
      ['GET', '/vessels', undefined],
      ['POST', '/operators', '{"name":"A"}'],
      ['PATCH', '/vessels/1', '{"name":"A"}'],
    ] as const) {
      const { status, text, json } = await ask(method, path, JSON_BODY, body);
      expect(status).to.equal(500);
      expect(text).to.not.match(/select|12345|Error:|\.ts|\.js/);
      const { instance } = json() as { instance: string };
      expect(told.at(-1)?.about).to.include({ err: error, method, instance });
    }
    expect(told).to.have.length(4);
  });

  it('is not kept waiting by a store that hangs', async () => {
    const hang = (): Promise<never> => new Promise(() => undefined);
    // biome-ignore lint/correctness/useYield: it never comes to that
    async function* stuck(): AsyncGenerator<object> {
      await hang();
    }
    const { ask, told } = failing({ read: hang, stream: stuck });
    for (const path of ['/vessels/1', '/operators']) {
      const { status, text } = await ask('GET', path);
      expect([status, text.includes('took too long')]).to.deep.equal([503, true]);
    }
    expect(told).to.have.length(2);
  });

  it('after its time was up is told to the log', async () => {
    const { ask, told } = failing({
      amend: async (): Promise<never> => {
        while (told.length === 0) await new Promise((resolve) => setTimeout(resolve, 5));
        throw new Error('the disk is full');
      },
    });
    expect((await ask('PATCH', '/vessels/1', JSON_BODY, '{"name":"A"}')).status).to.equal(503);
    while (told.length < 2) await new Promise((resolve) => setTimeout(resolve, 20));
    expect(told.map(({ message }) => message)).to.deep.equal([
      'The answer took too long. It was given up, but part of the way it may have been done: look before it is sent again.',
      'failed after its time was up',
    ]);
    expect(told[1]?.about).to.have.nested.property('err.message', 'the disk is full');
  });

  it('when rows do not fit their declaration, without showing them', async () => {
    const { ask, told } = failing({ read: async () => ({ id: 1, name: 'A-secret-name', operator: 5 }) });
    const { status, text } = await ask('GET', '/vessels/1');
    expect(status).to.equal(500);
    expect(text).to.not.contain('secret');
    expect(told[0]?.about).to.have.nested.property('err.code', 'ROW_MISSING');
  });

  it('opens a store once, and tries again where that failed', async () => {
    let opened = 0;
    const { log, told } = keepingLog();
    const ask = askOffice({
      log,
      store: async () => {
        opened++;
        if (opened === 1) throw new Error('not yet');
        return openStore();
      },
    });
    expect((await ask('GET', '/vessels/1')).status).to.equal(500);
    expect((await ask('GET', '/vessels/1')).status).to.equal(200);
    expect((await ask('GET', '/vessels/1')).status).to.equal(200);
    expect([opened, told.length]).to.deep.equal([2, 1]);
  });

  it('when caller() fails, turns away, or answers what is not declared', async () => {
    const { log, told } = keepingLog();
    const turning = askOffice({
      caller: () => {
        throw new Problem(401, { detail: 'Show a token.', headers: { 'www-authenticate': 'Bearer' } });
      },
    });
    const away = await turning('GET', '/vessels');
    expect([away.status, away.headers.get('www-authenticate'), told.length]).to.deep.equal([
      401,
      'Bearer',
      0,
    ]);
    const wrong = askOffice({ log, caller: () => ({ audience: 'nobody' as 'agent' }) });
    expect((await wrong('GET', '/vessels')).status).to.equal(500);
    expect(told[0]?.about).to.have.nested.property('err.message').that.contains('"nobody"');
    const none = serve(office, { store: openStore() });
    expect(
      (await none(new Request('http://o.test/books', { headers: { 'x-audience': 'office' } }))).status,
    ).to.equal(403);
  });
});

const openMethods = () => {
  const store = openStore();
  return {
    list: store.list.bind(store),
    stream: store.stream.bind(store),
    count: store.count.bind(store),
    read: store.read.bind(store),
    create: store.create.bind(store),
    createAll: store.createAll.bind(store),
    amend: store.amend.bind(store),
    remove: store.remove.bind(store),
  };
};

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

describe('respond and receive', () => {
  const request = (path: string, init: RequestInit = {}): Request =>
    new Request(`http://own.test${path}`, init);

  it('serve routes of one’s own', async () => {
    const row = { id: 1, name: 'Own' };
    const response = await respond(office, 'operators.read', row, {
      request: request('/x?fields=name&other=1', { headers: { accept: 'text/xml' } }),
    });
    expect(response.headers.get('content-type')).to.equal('text/xml; charset=utf-8');
    expect(await response.text()).to.contain('<name>Own</name></response>');
    const listed = await respond(office, 'operators.list', [row], {
      request: request('/x'),
      status: 203,
      headers: { 'x-mine': '1' },
    });
    expect([listed.status, listed.headers.get('x-mine'), await listed.text()]).to.deep.equal([
      203,
      '1',
      '[{"id":1,"name":"Own"}]',
    ]);
    const wrong = await respond(office, 'operators.read', row, {
      request: request('/x', { headers: { accept: 'text/html' } }),
    });
    expect(wrong.status).to.equal(406);
    const { log, told } = keepingLog();
    const broken = await respond(office, 'operators.read', { id: 1 }, { request: request('/x'), log });
    expect([broken.status, told.length]).to.deep.equal([500, 1]);
  });

  it('read requests of one’s own', async () => {
    const post = (body: string, type = 'application/json'): Request =>
      request('/x', { method: 'POST', body, headers: { 'content-type': type } });
    const got = await receive(
      office,
      'calls.create',
      post(JSON.stringify({ id: callId(5), eta: '2026-01-01T00:00:00Z', status: 'sailed' })),
    );
    expect(got).to.deep.equal({
      ok: true,
      files: null,
      value: { id: callId(5), eta: new Date('2026-01-01T00:00:00Z'), status: 'sailed' },
    });
    const lax = await receive(office, 'operators.create', post('{"name":"A","more":1}'), {
      policies: { unknown: 'ignore' },
    });
    expect(lax).to.deep.equal({ ok: true, value: { name: 'A' }, files: null });
    const wrong = await receive(office, 'operators.create', post('{}'));
    expect(wrong.ok ? 0 : wrong.response.status).to.equal(422);
    const typed = await receive(office, 'operators.create', post('{}', 'text/html'));
    expect(typed.ok ? 0 : typed.response.status).to.equal(415);
  });

  it('know the audience', async () => {
    const asked = request('/x', { headers: { 'x-audience': 'office' } });
    const row = { ...stockRows['vessel']?.[0], operator: null, portCalls: [] };
    const response = await respond(office, 'vessels.read', row, {
      request: asked,
      caller: saidCaller(asked),
    });
    expect(await response.json()).to.include({ weight: '1000' });
    expect(list(CallLine).plan.kind).to.equal('list');
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
    const handle = serve(office, { store: memoryStore(stock), handlers: { deep: keep, wide: keep } });
    // A parameter that is a key has to be one.
    const call = callId(1);
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

describe('limits', () => {
  it('stop a body that never ends', async () => {
    let sent = 0;
    const body = new ReadableStream<Uint8Array>({
      pull: (controller) => {
        sent += 1000;
        controller.enqueue(new Uint8Array(1000).fill(32));
      },
    });
    const handle = serve(office, { store: openStore(), limits: { body: 10_000 } });
    const init: RequestInit & { duplex: 'half' } = {
      method: 'POST',
      body,
      duplex: 'half',
      headers: JSON_BODY,
    };
    const refused = await handle(new Request('http://o.test/operators', init));
    // What comes behind it is not read: the connection is of no more use.
    expect([refused.status, refused.headers.get('connection')]).to.deep.equal([413, 'close']);
    expect(sent).to.be.below(50_000);
  });

  it('leave no timer behind', async () => {
    const timers = (): number => process.getActiveResourcesInfo().filter((kind) => kind === 'Timeout').length;
    const before = timers();
    const ask = askOffice();
    for (let i = 0; i < 50; i++) await ask('GET', '/vessels/1');
    // The test's own may have come meanwhile.
    expect(timers()).to.be.below(before + 5);
  });

  it('are for each row of a list, and not for a reader that takes its time', async () => {
    const pause = (milliseconds: number): Promise<void> =>
      new Promise((resolve) => setTimeout(resolve, milliseconds));
    async function* slowly(): AsyncGenerator<object> {
      for (let id = 0; id < 600; id++) yield { id, name: `Operator ${id}` };
      for (let id = 600; id < 606; id++) {
        await pause(200);
        yield { id, name: `Operator ${id}` };
      }
    }
    const { log, told } = keepingLog();
    const handle = serve(office, {
      store: openStore(),
      limits: { answering: 1000 },
      handlers: { 'operators.list': () => slowly() },
      log,
    });
    const response = await handle(
      new Request('http://o.test/operators', { headers: { accept: 'application/x-ndjson' } }),
    );
    await pause(1200);
    expect((await response.text()).trim().split('\n')).to.have.length(606);
    expect(told).to.deep.equal([]);
  });
});
