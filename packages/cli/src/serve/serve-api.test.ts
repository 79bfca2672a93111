import { type ChildProcess, spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { request as httpRequest } from 'node:http';
import { join } from 'node:path';
import { expect } from 'chai';
import type { BesideData } from '../board/beside-data.js';
import { BIN, gribo, HARBOUR, WORKSPACE } from '../testing/run-gribo.js';

/** The command at work in a folder, as soon as it has said where it answers. */
const serving = async (
  folder: string,
): Promise<{ readonly child: ChildProcess; readonly printed: string; readonly address: string }> => {
  const child = spawn(process.execPath, [BIN, 'serve', '--samples', '--port', '0'], { cwd: folder });
  let printed = '';
  child.stdout?.setEncoding('utf8').on('data', (text) => {
    printed += String(text);
  });
  while (!printed.includes('Ctrl+C') && child.exitCode === null)
    await new Promise((resolve) => setTimeout(resolve, 50));
  return { child, printed, address: /http:\/\/127\.0\.0\.1:\d+/.exec(printed)?.[0] ?? '' };
};

const ended = async (child: ChildProcess): Promise<unknown> => {
  const code = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGINT');
  return code;
};

const BUOYS = `
import { api, collection, endpoint, entity, input, integer, list, memoryStore, model, shape, text } from 'gribo';
const db = model({ buoy: entity('buoy', { id: integer().key().generated(), name: text(), colour: text() }) }, {});
const Buoy = shape(db.buoy, ({ id, name }) => ({ id, name }));
const NewBuoy = input(db.buoy, ({ name }) => ({ name }));
export default {
  api: api({ title: 'Buoys', version: '1', endpoints: {
    buoys: collection('/buoys', db.buoy, { list: list(Buoy), create: { takes: NewBuoy, returns: Buoy } }),
    light: endpoint('POST /buoys/{id}/light', { from: db.buoy, returns: Buoy }),
  } }),
  model: db,
  store: () => memoryStore(db),
};
`;

describe('gribo serve, without the handlers of a program', () => {
  it('answers where none is needed, and says where one is', async () => {
    mkdirSync(join(WORKSPACE, '.cache'), { recursive: true });
    const folder = mkdtempSync(join(WORKSPACE, '.cache', 'project-'));
    writeFileSync(join(folder, 'gribo.config.ts'), BUOYS);
    const { child, address } = await serving(folder);
    const post = async (path: string): Promise<unknown> => {
      const headers = { 'content-type': 'application/json' };
      const answered = await fetch(address + path, { method: 'POST', headers, body: '{"name":"North"}' });
      const { detail } = (await answered.json()) as { detail: string };
      return [answered.status, detail];
    };
    const rows = (await (await fetch(`${address}/buoys`)).json()) as readonly object[];
    expect(rows.length).to.be.above(0);
    expect(await post('/buoys')).to.deep.equal([
      501,
      'buoys.create has no handler here: its input does not set colour, so no row can be made: take it in the input, mark it .defaulted() where the database sets it, or give the endpoint a handler that does. The configuration takes handlers too.',
    ]);
    // What a command of its own would send is a sample; what it would do, nobody can tell.
    const lit = await fetch(`${address}/buoys/1/light`, { method: 'POST' });
    expect([lit.status, Object.keys((await lit.json()) as object)]).to.deep.equal([200, ['id', 'name']]);
    expect((await fetch(`${address}/buoys/99/light`, { method: 'POST' })).status).to.equal(404);
    expect(await ended(child)).to.equal(0);
    rmSync(folder, { recursive: true });
  });
});

const EDITIONS = `
import { api, collection, editionBefore, editionFrom, endpoint, entity, given, integer, list, memoryStore, model, page, shape, text } from 'gribo';
const db = model({ buoy: entity('buoy', { id: integer().key(), name: text() }) }, {});
const Buoy = shape(db.buoy, ({ id, name }) => ({ id, name }));
export default {
  api: api({ title: 'Buoys', version: '1',
    editions: [{ name: '2025-11', deprecated: { sunset: '2026-12-31' } }, '2026-05'],
    endpoints: {
      buoys: collection('/buoys', db.buoy, { list: list(Buoy) }),
      lit: given(editionFrom('2026-05'),
        endpoint('GET /lit', { from: db.buoy, returns: page(Buoy, { size: 5 }) }),
        endpoint('GET /lit', { from: db.buoy, returns: list(Buoy) })),
      sunk: given(editionBefore('2026-05'), endpoint('GET /sunk', { from: db.buoy, returns: list(Buoy) })),
    } }),
  model: db,
  now: () => new Date('2026-11-29T00:00:00Z'),
  store: () => memoryStore(db),
};
`;

describe('gribo serve, of an API with editions', () => {
  it('says how they are named, and stands in for handlers of each', async () => {
    mkdirSync(join(WORKSPACE, '.cache'), { recursive: true });
    const folder = mkdtempSync(join(WORKSPACE, '.cache', 'project-'));
    writeFileSync(join(folder, 'gribo.config.ts'), EDITIONS);
    const { child, address, printed } = await serving(folder);
    expect(printed)
      .to.contain('in 2026-05')
      .and.contain('Editions: 2025-11 (until 2026-12-31), 2026-05, as the first part of the path.')
      .and.contain('Who names none is answered in 2025-11.')
      .and.contain(`curl ${address}/2026-05/buoys`);
    const got = async (path: string): Promise<unknown> => (await fetch(address + path)).json();
    expect(await got('/2026-05/lit'))
      .to.have.property('items')
      .with.length.above(0);
    expect(await got('/2025-11/lit'))
      .to.be.an('array')
      .with.length.above(0);
    expect(await got('/2025-11/sunk'))
      .to.be.an('array')
      .with.length.above(0);
    expect((await fetch(`${address}/2026-05/sunk`)).status).to.equal(404);
    expect(await ended(child)).to.equal(0);
    rmSync(folder, { recursive: true });
  });
});

describe('gribo serve', () => {
  let child: ChildProcess;
  let printed = '';
  let address = '';

  before(async () => {
    ({ child, printed, address } = await serving(HARBOUR));
  });

  after(async () => expect(await ended(child), 'it ends by itself').to.equal(0));

  const ask = (path: string, init?: RequestInit) => fetch(address + path, init);

  const createVessel = (imoNumber: string) =>
    ask('/vessels', {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-caller': 'office' },
      body: JSON.stringify({
        imoNumber,
        name: 'Merel',
        kind: 'tug',
        flag: 'QM',
        builtYear: 1999,
        size: { length: 20, draught: 2, tonnage: '50.0' },
        operator: { id: null },
      }),
    });

  const removeVessel = (id: number) =>
    ask(`/vessels/${id}`, { method: 'DELETE', headers: { 'x-audience': 'harbourMaster' } });

  it('says where it is, and what there is', () => {
    expect(printed)
      .to.contain('Merrow Harbour Office answers at http://127.0.0.1:')
      .and.match(/^ {2}DELETE \/vessels\/\{id\} +vessels\.remove +for harbourMaster$/m)
      .and.contain('on sample rows');
    expect(printed).to.match(/ {2}GET {4}\/vessels\/\{id\} +vessels\.read\n/);
  });

  it('answers every endpoint on sample rows', async () => {
    const vessels = (await (await ask('/vessels?size=3')).json()) as { items: object[]; page: object };
    expect(vessels.items).to.have.length(3);
    expect(vessels.page).to.include({ total: 20 });
    for (const path of [
      '/vessels/1',
      '/operators/1',
      '/port-calls',
      '/berths',
      '/berths/1',
      '/berths/options',
      '/quays',
      '/positions',
    ]) {
      expect((await ask(path)).status, path).to.equal(200);
    }
    expect((await ask('/berths?format=csv')).headers.get('content-type')).to.contain('text/csv');
  });

  it('lets no page of another site or port write', async () => {
    const form = { 'content-type': 'application/x-www-form-urlencoded' };
    const pages: readonly Record<string, string>[] = [
      { origin: 'https://elsewhere.example', 'sec-fetch-site': 'cross-site' },
      { origin: 'http://127.0.0.1:3000', 'sec-fetch-site': 'same-site' },
      { origin: 'http://127.0.0.1:3000' },
      { origin: 'null' },
    ];
    for (const headers of pages) {
      for (const type of ['application/json', 'text/plain', form['content-type']]) {
        const sent = { method: 'POST', headers: { ...headers, 'content-type': type }, body: '{}' };
        expect((await ask('/vessels', sent)).status, JSON.stringify(sent.headers)).to.equal(403);
      }
      expect((await ask('/vessels/1', { method: 'DELETE', headers })).status).to.equal(403);
    }
    expect(
      (await ask('/vessels', { method: 'POST', headers: { ...form, 'x-caller': 'office' }, body: 'name=x' }))
        .status,
    ).to.equal(415);
    const own = {
      origin: address,
      'sec-fetch-site': 'same-origin',
      'content-type': 'application/json',
      'x-caller': 'office',
    };
    expect((await ask('/vessels', { method: 'POST', headers: own, body: '{}' })).status).to.equal(422);
    expect((await ask('/_board/data', { method: 'POST' })).status).to.equal(405);
  });

  it('takes writes in memory', async () => {
    const made = await createVessel('1234567');
    expect(made.status).to.equal(201);
    const { id } = (await made.json()) as { id: number };
    expect(await (await ask(`/vessels/${id}`)).json()).to.include({ name: 'Merel' });
    expect(
      (await ask(`/vessels/${id}`, { method: 'DELETE' })).status,
      'for the harbour master only',
    ).to.equal(403);
    expect((await removeVessel(id)).status).to.equal(204);
  });

  it('takes the word of callers for whom they are', async () => {
    const phone = async (headers: Record<string, string>) =>
      Object.keys((await (await ask('/vessels/1', { headers })).json()) as object).includes('masterPhone');
    expect(await phone({})).to.equal(false);
    expect(await phone({ 'x-audience': 'harbourMaster' })).to.equal(true);
    expect(await phone({ authorization: 'Bearer demo-office' })).to.equal(true);
    const wrong = await ask('/vessels/1', { headers: { 'x-audience': 'captain' } });
    expect(wrong.status).to.equal(400);
    expect(await wrong.text()).to.contain('public, agent, harbourMaster');
  });

  it('answers to names of this machine only', async () => {
    const { port } = new URL(address);
    const status = await new Promise((resolve, reject) => {
      const asked = httpRequest(
        { host: '127.0.0.1', port, path: '/_board/data', headers: { host: 'elsewhere.test' } },
        (response) => {
          response.resume();
          resolve(response.statusCode);
        },
      );
      asked.once('error', reject);
      asked.end();
    });
    expect(status).to.equal(421);
    expect((await fetch(`http://localhost:${port}/_board/data`)).status).to.equal(200);
  });

  it('has the board beside the API', async () => {
    const page = await ask('/_board');
    expect(page.url).to.equal(`${address}/_board/`);
    expect((await ask('/_board?a=1')).url).to.equal(`${address}/_board/?a=1`);
    expect(page.headers.get('content-security-policy')).to.contain("default-src 'self'");
    expect((await ask('/_board/../package.json')).status).to.equal(404);
    expect((await ask('/_board/%2e%2e/index.js')).status).to.equal(404);
    expect((await ask('/_board/openapi.yaml')).headers.get('content-type')).to.equal('application/yaml');
    expect((await ask('/_board/beside?endpoint=vessels.remove')).status).to.equal(404);
    const pilots = await ask('/_board/beside?endpoint=vessels.read&with=nothing');
    expect(pilots.status).to.equal(422);
    expect(await pilots.text()).to.contain('nothing called');
    const missing = await ask('/_board/beside?endpoint=vessels.read&key=99999');
    expect([missing.status, await missing.json()]).to.deep.equal([
      422,
      { detail: 'There is no vessel with the key 99999.' },
    ]);
  });

  it('shows the row that was asked for, though there are more than it lets people choose from', async () => {
    const ids: number[] = [];
    for (let i = 0; i < 45; i++) {
      const made = await createVessel(String(7_000_000 + i));
      ids.push(((await made.json()) as { id: number }).id);
    }
    const last = String(ids.at(-1));
    const asked = await ask(`/_board/beside?endpoint=vessels.read&key=${last}`);
    const { key, keys, stored } = (await asked.json()) as BesideData;
    expect([key, keys[0]?.key, keys.length]).to.deep.equal([last, last, 61]);
    expect(stored.find(({ path }) => path === 'imoNumber')?.text).to.contain('7000044');
    for (const id of ids) expect((await removeVessel(id)).status).to.equal(204);
  });

  it('says what is wrong with its options', async () => {
    expect((await gribo(['serve', '--port', '99999'])).code).to.equal(2);
    expect((await gribo(['serve', '--samples', '--audience', 'agnet'])).err).to.contain(
      'Did you mean "agent"?',
    );
    const { port } = new URL(address);
    const taken = await gribo(['serve', '--samples', '--port', port]);
    expect(taken.err).to.contain(`port ${port}`);
    expect(taken.code).to.equal(2);
  });
});
