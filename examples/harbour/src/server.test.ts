import { type ChildProcess, spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { NOW } from './data.js';

const SERVER = fileURLToPath(new URL('../build/server.js', import.meta.url));

/** A server that has been started, as soon as it has said where it answers. */
const started = async () => {
  const child = spawn(process.execPath, [SERVER], { env: { ...process.env, PORT: '0' } });
  let printed = '';
  child.stdout?.setEncoding('utf8').on('data', (text) => {
    printed += String(text);
  });
  while (!printed.includes('submarine') && child.exitCode === null) {
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  return { child, printed, address: /http:\/\/127\.0\.0\.1:\d+/.exec(printed)?.[0] ?? '' };
};

const ended = async (child: ChildProcess): Promise<unknown> => {
  const code = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  return code;
};

describe('the server', () => {
  let child: ChildProcess;
  let printed = '';
  let address = '';

  before(async () => {
    ({ child, printed, address } = await started());
  });

  after(async () => expect(await ended(child), 'it ends by itself').to.equal(0));

  it('says how it is', async () => {
    const health = await fetch(`${address}/health`);
    expect([health.status, health.headers.get('content-type')]).to.deep.equal([
      200,
      'application/health+json',
    ]);
  });

  it('answers what it was asked when it is told to end, and resets nothing', async () => {
    const other = await started();
    const path = (i: number): string => (i % 2 === 0 ? '/vessels?size=100' : '/berths');
    expect((await fetch(`${other.address}/vessels/3`)).status).to.equal(200);
    const sent = Array.from({ length: 60 }, (_, i) => fetch(other.address + path(i)));
    await Promise.race(sent);
    const over = ended(other.child);
    const answers = await Promise.all(
      sent.map(async (one) => [(await one).status, (await (await one).text()).length > 0]),
    );
    expect(new Set(answers.map(String))).to.deep.equal(new Set(['200,true']));
    expect(await over).to.equal(0);
  });

  it('prints its address and four lines to try', () => {
    expect(address).to.not.equal('');
    expect(printed.match(/^ {2}curl /gm)).to.have.length(4);
  });

  it('answers in JSON, CSV and XML, and tells what is wrong with a body', async () => {
    const json = await fetch(`${address}/vessels/3`);
    expect(await json.json()).to.include({ id: 3, name: 'Cormorant Rose' });
    const csv = await fetch(`${address}/vessels?size=5&sort=builtYear+desc`, {
      headers: { accept: 'text/csv' },
    });
    expect((await csv.text()).split('\r\n')).to.have.length(7);
    const headers = { accept: 'application/xml', authorization: 'Bearer demo-office' };
    expect(await (await fetch(`${address}/berths/2`, { headers })).text()).to.contain('<gateCode>');
    const body = JSON.stringify({ name: 'Anselma', kind: 'submarine' });
    const type = { 'content-type': 'application/json', authorization: 'Bearer demo-agent' };
    const wrong = await fetch(`${address}/vessels`, { method: 'POST', headers: type, body });
    expect(wrong.status).to.equal(422);
    expect(await wrong.text()).to.contain('"pointer":"/kind","code":"choice"');
  });

  it('keeps what is not public from the public', async () => {
    expect((await fetch(`${address}/pilots`)).status).to.equal(403);
    for (const token of ['made-up', 'constructor', '__proto__', '']) {
      const { status } = await fetch(`${address}/pilots`, { headers: { authorization: `Bearer ${token}` } });
      expect(status, token).to.equal(401);
    }
    expect(
      (await fetch(`${address}/pilots`, { headers: { authorization: 'Bearer demo-office' } })).status,
    ).to.equal(200);
    expect(await (await fetch(`${address}/berths/2`)).json()).to.not.have.property('gateCode');
  });

  it('keeps who changed what, and when', async () => {
    const as = (token: string, method: string, body?: object) =>
      fetch(`${address}/port-calls/${call}`, {
        method,
        headers: { authorization: `Bearer ${token}`, 'content-type': 'application/merge-patch+json' },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      });
    const own = await fetch(`${address}/port-calls?size=100`, {
      headers: { authorization: 'Bearer demo-agent' },
    });
    const { items } = (await own.json()) as { items: { id: string; status: string }[] };
    const call = items.find(({ status }) => status === 'announced')?.id;
    expect((await as('demo-agent', 'PATCH', { remarks: 'Two tugs.' })).status).to.equal(200);
    const { changed } = (await (await as('demo-office', 'GET')).json()) as {
      changed: { at: string; by: string };
    };
    expect(changed.by).to.equal('lantern');
    expect(changed.at).to.equal(NOW.toISOString());
    expect(await (await as('demo-agent', 'GET')).json()).to.not.have.property('changed');
  });

  it('streams the position reports', async () => {
    const response = await fetch(`${address}/positions?format=ndjson`);
    expect((await response.text()).trim().split('\n')).to.have.length(5000);
  });
});
