import { expect } from 'chai';
import { respond, serve } from '../index.js';
import { askOffice, openStore } from '../testing/ask.js';
import { office } from '../testing/office.js';

describe('caches', () => {
  const cache = { 'operators.list': 60, 'vessels.list': 60 };
  const asked = (path: string, headers = {}): Request =>
    new Request(`http://office.test${path}`, { headers });

  it('keep apart what callers who are told apart were sent', async () => {
    const ask = askOffice({ cache });
    const { headers } = await ask('GET', '/vessels', { 'x-audience': 'office' });
    expect(headers.get('vary')).to.equal('Accept, Authorization, Cookie, X-Audience');
    expect(headers.get('cache-control')).to.equal('private, max-age=60');
    const etag = headers.get('etag') ?? '';
    const known = await ask('GET', '/vessels', { 'x-audience': 'office', 'if-none-match': etag });
    expect([known.status, known.headers.get('vary')]).to.deep.equal([
      304,
      'Accept, Authorization, Cookie, X-Audience',
    ]);
  });

  it('may share what is the same for everybody, where nobody was told apart', async () => {
    const handle = serve(office, { store: openStore(), cache });
    const { headers } = await handle(asked('/operators'));
    expect([headers.get('vary'), headers.get('cache-control')]).to.deep.equal([
      'Accept',
      'public, max-age=60',
    ]);
    const personal = await handle(asked('/vessels'));
    expect(personal.headers.get('cache-control'), 'a member is for the office').to.equal(
      'private, max-age=60',
    );
  });

  it('are told the headers that the caller follows from', async () => {
    const ask = askOffice({ cache, decidedBy: ['X-Audience'] });
    expect((await ask('GET', '/vessels')).headers.get('vary')).to.equal('Accept, X-Audience');
    const mine = { request: asked('/operators'), caller: null, decidedBy: ['X-Audience'], cache: 60 };
    const { headers } = await respond(office, 'operators.list', [], mine);
    expect(headers.get('vary')).to.equal('Accept, X-Audience');
    expect(headers.get('cache-control')).to.equal('private, max-age=60');
    const open = await respond(office, 'operators.list', [], { request: asked('/operators'), cache: 60 });
    expect(open.headers.get('cache-control')).to.equal('public, max-age=60');
    expect(open.headers.get('vary')).to.equal('Accept');
  });

  it('and guesses of types: problems are not guessed at either', async () => {
    const { headers } = await askOffice()('GET', '/nothing');
    expect(headers.get('x-content-type-options')).to.equal('nosniff');
  });
});
