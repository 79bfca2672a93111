import { expect } from 'chai';
import { list } from 'gribo';
import { callId, stockRows } from '../../gribo/src/testing/stock.js';
import { receive, respond } from './index.js';
import { keepingLog, saidCaller } from './testing/ask.js';
import { CallLine, office } from './testing/office.js';

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
