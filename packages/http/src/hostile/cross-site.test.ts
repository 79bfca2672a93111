import { createServer } from 'node:http';
import { expect } from 'chai';
import { form, nodeListener, receive, serve, standardFormats } from '../index.js';
import { type Ask, askOffice, JSON_BODY, openStore, saidCaller } from '../testing/ask.js';
import { hosted, raw } from '../testing/hosted.js';
import { office } from '../testing/office.js';

const NAME = '{"name":"From elsewhere"}';
const ELSEWHERE = { origin: 'https://elsewhere.example' };

/** What browsers say of where a request comes from. */
const FROM: readonly (readonly [string, Record<string, string>, boolean])[] = [
  ['no browser', {}, true],
  ['a page of this site', { origin: 'http://office.test', 'sec-fetch-site': 'same-origin' }, true],
  ['the address bar', { 'sec-fetch-site': 'none' }, true],
  ['another site', { ...ELSEWHERE, 'sec-fetch-site': 'cross-site' }, false],
  ['another site, by an old browser', ELSEWHERE, false],
  ['another site that hides its origin', { origin: 'null' }, false],
  ['a neighbour', { origin: 'http://other.office.test', 'sec-fetch-site': 'same-site' }, false],
  ['another port', { origin: 'http://office.test:8081' }, false],
  ['no origin, but another site', { 'sec-fetch-site': 'cross-site' }, false],
  ['an origin that is none', { origin: 'elsewhere' }, false],
];

describe('pages of other sites', () => {
  const create = (ask: Ask, headers: Record<string, string>) =>
    ask('POST', '/operators', { ...JSON_BODY, ...headers }, NAME);

  for (const [name, headers, isLetIn] of FROM) {
    it(`${isLetIn ? 'takes' : 'refuses'} what ${name} sends with cookies`, async () => {
      const store = openStore();
      const before = await store.count('operator');
      const { status, text } = await create(askOffice({ store }), { ...headers, cookie: 'session=7' });
      expect(status, text).to.equal(isLetIn ? 201 : 403);
      expect(await store.count('operator')).to.equal(before + (isLetIn ? 1 : 0));
      if (!isLetIn) expect(text).to.contain('A page of another site sent this request.');
    });
  }

  it('may read, and may write where no cookie says whom for', async () => {
    const ask = askOffice();
    expect((await ask('GET', '/operators', { ...ELSEWHERE, cookie: 'a=b' })).status).to.equal(200);
    expect((await create(ask, ELSEWHERE)).status).to.equal(201);
  });

  it('are refused every method that may change something', async () => {
    const ask = askOffice();
    const headers = { ...JSON_BODY, ...ELSEWHERE, cookie: 'a=b' };
    for (const method of ['PUT', 'PATCH', 'DELETE']) {
      const body = method === 'DELETE' ? undefined : '{}';
      expect((await ask(method, '/vessels/1', headers, body)).status, method).to.equal(403);
    }
  });

  it('are what the options say', async () => {
    const always = askOffice({ otherSites: 'refuse' });
    expect((await create(always, ELSEWHERE)).status, 'refuse').to.equal(403);
    const never = askOffice({ otherSites: 'allow' });
    expect((await create(never, { ...ELSEWHERE, cookie: 'a=b' })).status, 'allow').to.equal(201);
    const named = askOffice({ origins: [ELSEWHERE.origin] });
    const site = { ...ELSEWHERE, 'sec-fetch-site': 'cross-site', cookie: 'a=b' };
    expect((await create(named, site)).status, 'origins').to.equal(201);
    const nobody = serve(office, { store: openStore() });
    const request = new Request('http://office.test/operators', {
      method: 'POST',
      headers: { ...JSON_BODY, ...ELSEWHERE, cookie: 'a=b' },
      body: NAME,
    });
    expect((await nobody(request)).status, 'no audience').to.equal(201);
  });

  it('are refused by receive() too', async () => {
    const request = (): Request =>
      new Request('http://office.test/operators', {
        method: 'POST',
        headers: { ...JSON_BODY, ...ELSEWHERE, cookie: 'a=b' },
        body: NAME,
      });
    const got = await receive(office, 'operators.create', request(), { caller: { audience: 'agent' } });
    expect(got.ok ? 200 : got.response.status).to.equal(403);
    const open = await receive(office, 'operators.create', request());
    expect(open.ok).to.equal(true);
  });

  it('send no forms, unless forms are asked for', async () => {
    const headers = { 'content-type': 'application/x-www-form-urlencoded' };
    const send = (ask: Ask) => ask('POST', '/operators', headers, 'name=By+form');
    expect((await send(askOffice())).status).to.equal(415);
    expect((await send(askOffice({ formats: [...standardFormats, form] }))).status).to.equal(201);
  });

  it('are known by the Host that the socket was sent', async () => {
    const store = openStore();
    const at = await hosted(createServer(nodeListener(serve(office, { store, caller: saidCaller }))));
    const sent = (origin: string): Promise<string> =>
      raw(
        at.port,
        `POST /operators HTTP/1.1\r\nHost: office.test\r\nOrigin: ${origin}\r\nCookie: a=b\r\nContent-Type: application/json\r\nContent-Length: ${NAME.length}\r\nConnection: close\r\n\r\n${NAME}`,
      );
    expect(await sent('http://office.test')).to.match(/^HTTP\/1\.1 201 /);
    expect(await sent('http://elsewhere.example')).to.match(/^HTTP\/1\.1 403 /);
    await at.close();
  });
});
