import { createServer } from 'node:http';
import { expect } from 'chai';
import { api, collection, derive, list, memoryStore, shape, text } from 'gribo';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { nodeListener, serve, standardFormats } from '../index.js';
import { askOffice, JSON_BODY, keepingLog } from '../testing/ask.js';
import { hosted, raw } from '../testing/hosted.js';

describe('conditional requests (RFC 9110, section 13)', () => {
  const PATCH = { ...JSON_BODY };
  const body = '{"name":"Renamed"}';

  it('change nothing where If-None-Match names what is there', async () => {
    const ask = askOffice();
    const tag = (await ask('GET', '/vessels/5')).headers.get('etag') ?? '';
    for (const known of [tag, `W/${tag}`, `"other", ${tag}`, '*']) {
      const headers = { ...PATCH, 'if-none-match': known };
      expect((await ask('PATCH', '/vessels/5', headers, body)).status, known).to.equal(412);
      expect((await ask('DELETE', '/vessels/5', { 'if-none-match': known })).status, known).to.equal(412);
    }
    expect(
      (await ask('PATCH', '/vessels/5', { ...PATCH, 'if-none-match': '"other"' }, body)).status,
    ).to.equal(200);
    expect(
      (await ask('DELETE', '/vessels/5', { 'if-none-match': tag })).status,
      'it is another now',
    ).to.equal(204);
  });

  it('are evaluated in the order of section 13.2.2, and not at all where nothing is there', async () => {
    // What is sent, where `tag` is the current one; then the status of a GET, and of a PATCH.
    const TABLE: readonly (readonly [
      match: string | null,
      noneMatch: string | null,
      get: number,
      patch: number,
    ])[] = [
      [null, null, 200, 200],
      ['tag', null, 200, 200],
      ['*', null, 200, 200],
      ['"other"', null, 412, 412],
      ['"other", tag', null, 200, 200],
      ['W/tag', null, 412, 412],
      [null, 'tag', 304, 412],
      [null, 'W/tag', 304, 412],
      [null, '"other", tag', 304, 412],
      [null, '*', 304, 412],
      [null, '"other"', 200, 200],
      ['tag', '"other"', 200, 200],
      ['tag', 'tag', 304, 412],
      ['*', '*', 304, 412],
      ['"other"', 'tag', 412, 412],
      ['"other"', '"other"', 412, 412],
    ];
    for (const [match, noneMatch, get, patch] of TABLE) {
      const ask = askOffice();
      const tag = (await ask('GET', '/vessels/5')).headers.get('etag') ?? '';
      const headers = {
        ...(match === null ? {} : { 'if-match': match.replace('tag', tag) }),
        ...(noneMatch === null ? {} : { 'if-none-match': noneMatch.replace('tag', tag) }),
      };
      const said = `${match} ${noneMatch}`;
      expect((await ask('GET', '/vessels/5', headers)).status, said).to.equal(get);
      expect((await ask('PATCH', '/vessels/5', { ...PATCH, ...headers }, body)).status, said).to.equal(patch);
      // Where the answer would be another failure, conditions are not looked at (section 13.2.1).
      expect((await ask('GET', '/vessels/999', headers)).status, said).to.equal(404);
      expect((await ask('DELETE', '/vessels/999', headers)).status, said).to.equal(404);
    }
  });

  it('match tags that a proxy weakened only where they are told to', async () => {
    for (const [weakenedTags, status] of [
      ['refuse', 412],
      ['match', 200],
    ] as const) {
      const ask = askOffice({ weakenedTags });
      const tag = (await ask('GET', '/vessels/5')).headers.get('etag') ?? '';
      expect((await ask('GET', '/vessels/5', { 'if-match': `W/${tag}` })).status).to.equal(status);
      const weak = { ...PATCH, 'if-match': `W/${tag}` };
      expect((await ask('PATCH', '/vessels/5', weak, body)).status).to.equal(status);
      expect((await ask('PATCH', '/vessels/5', { ...weak, 'if-match': 'W/"other"' }, body)).status).to.equal(
        412,
      );
    }
  });

  it('read nothing where If-Match names something else', async () => {
    const ask = askOffice();
    const tag = (await ask('GET', '/vessels/1')).headers.get('etag') ?? '';
    for (const method of ['GET', 'HEAD']) {
      expect((await ask(method, '/vessels/1', { 'if-match': tag })).status).to.equal(200);
      expect((await ask(method, '/vessels/1', { 'if-match': '*' })).status).to.equal(200);
      for (const other of ['"other"', `W/${tag}`]) {
        expect((await ask(method, '/vessels/1', { 'if-match': other })).status, other).to.equal(412);
      }
      // If-Match goes first (section 13.2.2).
      const both = { 'if-match': '"other"', 'if-none-match': tag };
      expect((await ask(method, '/vessels/1', both)).status).to.equal(412);
    }
  });
});

describe('requests as others send them', () => {
  const ask = askOffice();

  it('may repeat a parameter whose value is a list', async () => {
    const ids = async (query: string): Promise<unknown> =>
      ((await ask('GET', `/vessels?size=4&${query}`)).json() as { items: { id: number }[] }).items.map(
        ({ id }) => id,
      );
    expect(await ids('kind=bulk&kind=tug')).to.deep.equal(await ids('kind=bulk,tug'));
    expect(await ids('sort=name&sort=builtYear%20desc')).to.deep.equal(
      await ids('sort=name,builtYear%20desc'),
    );
    expect((await ask('GET', '/vessels/1?fields=id&fields=name')).text).to.equal('{"id":1,"name":"Anselma"}');
    expect((await ask('GET', '/vessels?from=1&from=2')).status, 'one value').to.equal(400);
  });

  it('may have an empty Accept, and say nothing by it', async () => {
    const { status, headers } = await ask('GET', '/vessels/1', { accept: '' });
    expect([status, headers.get('content-type')]).to.deep.equal([200, 'application/json']);
  });

  it('may not send a part of a body (section 14.4)', async () => {
    const headers = { ...JSON_BODY, 'content-range': 'bytes 0-10/100' };
    const { status, text: told } = await ask('PATCH', '/vessels/1', headers, '{"name":"A"}');
    expect([status, told.includes('Content-Range')]).to.deep.equal([400, true]);
  });

  it('are answered without content where they are HEAD, also where it is a problem (section 9.3.2)', async () => {
    for (const path of ['/vessels/99', '/nothing', '/vessels?x=1']) {
      const got = await ask('GET', path);
      const head = await ask('HEAD', path);
      expect([head.status, head.text]).to.deep.equal([got.status, '']);
      expect(head.headers.get('content-type')).to.equal(got.headers.get('content-type'));
    }
  });

  it('may be of HTTP/1.0, and name no host', async () => {
    const at = await hosted(
      createServer(nodeListener(serve(names, { store: memoryStore(stock, stockRows) }))),
    );
    expect(await raw(at.port, 'GET /names HTTP/1.0\r\n\r\n')).to.match(/^HTTP\/1\.1 200 /);
    await at.close();
  });
});

const Name = shape(
  stock.operator,
  (o) => ({
    id: o.id,
    loud: derive([o.name], text(), (name) => {
      if (name === 'Broken') throw new Error('it cannot be loud');
      return name.toUpperCase();
    }),
  }),
  { name: 'Name' },
);
const Plain = shape(stock.operator, ({ id }) => ({ id }), { name: 'Plain' });
const names = api({
  title: 'Names',
  version: '1',
  endpoints: {
    names: collection('/names', stock.operator, { list: list(Name) }),
    old: collection('/old', stock.operator, {
      list: list(Plain),
      read: Plain,
      deprecated: { since: '2026-01-01', instead: 'https://names.example/new list' },
    }),
    oldest: collection('/oldest', stock.operator, {
      list: list(Plain),
      deprecated: { since: '2026-01-01', instead: '/nämes/a%20b' },
    }),
    older: collection('/older', stock.operator, {
      list: list(Plain),
      deprecated: { since: '2026-01-01', instead: 'https://names.example/new' },
    }),
  },
});

describe('what is told of failures and endings', () => {
  for (const { mediaTypes } of standardFormats) {
    const [accept = ''] = mediaTypes;
    it(`names the row that a member fails at, as ${accept}`, async () => {
      const { log, told } = keepingLog();
      async function* rows(): AsyncGenerator<object> {
        for (let id = 0; id < 700; id++) yield { id, name: id === 650 ? 'Broken' : `N${id}`, parentId: null };
      }
      const handle = serve(names, {
        store: memoryStore(stock, stockRows),
        log,
        handlers: { 'names.list': rows },
      });
      const response = await handle(new Request('http://n.test/names', { headers: { accept } }));
      await response.text().catch(() => '');
      expect(told[0]?.about).to.have.nested.property('err.path', 'Name[650].loud');
      expect(told[0]?.about).to.have.nested.property('err.message').that.contains('Name[650].loud');
    });
  }

  it('links to what is used instead, where that is a path or a URL (RFC 8288)', async () => {
    const handle = serve(names, { store: memoryStore(stock, stockRows) });
    const linkOf = async (path: string): Promise<string | null> =>
      (await handle(new Request(`http://n.test${path}`))).headers.get('link');
    expect(await linkOf('/older')).to.equal('<https://names.example/new>; rel="successor-version"');
    expect(await linkOf('/old'), 'no URL has a space').to.equal(null);
    expect(await linkOf('/oldest'), 'what is escaped stays so').to.equal(
      '</n%C3%A4mes/a%20b>; rel="successor-version"',
    );
  });
});
