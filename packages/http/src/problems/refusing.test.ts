import { expect } from 'chai';
import { serve } from '../index.js';
import { askOffice, errorsOf, JSON_BODY, keepingLog, openStore } from '../testing/ask.js';
import { office } from '../testing/office.js';

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
