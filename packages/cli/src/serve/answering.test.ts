import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { describeInBrowser } from '../../../board/src/testing/browser.js';
import { project } from '../testing/project.js';
import { BIN, gribo, HARBOUR } from '../testing/run-gribo.js';

/** An API whose editions are named in a header. */
const TIDES = `
import { api, apiNames, collection, entity, given, input, integer, list, memoryStore, model, shape, text } from 'gribo';
const { editionFrom } = apiNames({ editions: ['v1', 'v2'] });
const db = model({ tide: entity('tide', { id: integer().key().generated(), height: integer(), name: text() }) }, {});
const Tide = shape(db.tide, (t) => ({ id: t.id, height: given(editionFrom('v2'), { metres: t.height }, t.height) }), { name: 'Tide' });
export default {
  api: api({ title: 'Tides', version: '1', editions: ['v1', 'v2'], endpoints: {
    tides: collection('/tides', db.tide, { list: list(Tide), create: { takes: input(db.tide, (t) => ({ height: t.height, name: t.name })), returns: Tide } }),
  } }),
  model: db,
  editions: { by: 'header' },
  store: memoryStore(db),
};
`;

const FOLDER = mkdtempSync(join(tmpdir(), 'gribo-answering-'));
const FILE = join(FOLDER, 'traffic.har');

interface Serving {
  readonly address: string;
  ask(path: string, headers?: Readonly<Record<string, string>>, body?: string | FormData): Promise<Response>;
  end(): Promise<void>;
}

const serving = (...args: string[]): Promise<Serving> => servingIn(HARBOUR, ...args);

const servingIn = async (cwd: string, ...args: string[]): Promise<Serving> => {
  const child: ChildProcess = spawn(process.execPath, [BIN, 'serve', '--samples', '--port', '0', ...args], {
    cwd,
  });
  let printed = '';
  let wrong = '';
  child.stderr?.setEncoding('utf8').on('data', (text: string) => {
    wrong += text;
  });
  const isUp = new Promise<void>((resolve, reject) => {
    child.stdout?.setEncoding('utf8').on('data', (text: string) => {
      printed += text;
      if (printed.includes('Ctrl+C')) resolve();
    });
    child.once('close', () => reject(new Error(`it ended: ${wrong}`)));
  });
  await isUp;
  const address = /http:\/\/127\.0\.0\.1:\d+/.exec(printed)?.[0] ?? '';
  return {
    address,
    ask: (path, headers = {}, body) =>
      fetch(address + path, body === undefined ? { headers } : { method: 'POST', headers, body }),
    end: async () => {
      const gone = new Promise((resolve) => child.once('exit', resolve));
      child.kill('SIGINT');
      await gone;
    },
  };
};

describe('gribo serve, as a client wishes it', () => {
  let server: Serving;
  before(async () => {
    server = await serving('--record', FILE);
  });
  after(() => server.end());

  it('answers late, with a status, and slowly, by a header of the request', async () => {
    const began = performance.now();
    const late = await server.ask('/quays', { pretend: 'wait=400' });
    expect(late.status).to.equal(200);
    expect(performance.now() - began).to.be.above(390);
    const failing = await server.ask('/quays', {
      pretend: 'status=503, wait=10',
      accept: 'application/json',
    });
    expect([failing.status, failing.headers.get('retry-after')]).to.deep.equal([503, '2']);
    expect(await failing.json()).to.include({
      title: 'Service Unavailable',
      detail: 'It is only pretended.',
    });
    const refused = await server.ask('/quays', { pretend: 'status=401', accept: 'text/xml' });
    expect(await refused.text()).to.include('<title>Unauthorized</title>');
    const whole = await (await server.ask('/quays')).text();
    const slow = await server.ask('/quays', { pretend: `pace=${whole.length * 4}` });
    const paced = performance.now();
    expect(await slow.text()).to.equal(whole);
    expect(performance.now() - paced).to.be.above(150);
  });

  it('cuts the connection in the midst of a body', async () => {
    const response = await server.ask('/quays', { pretend: 'cut=20' });
    expect(response.status).to.equal(200);
    expect(await response.text().then(String, () => 'cut')).to.equal('cut');
  });

  it('says what may be pretended', async () => {
    for (const said of ['wait=-1', 'status=200', 'wiat=3', 'wait', '']) {
      const response = await server.ask('/quays', { pretend: said || 'wait=' });
      expect(response.status, said).to.equal(400);
      expect(((await response.json()) as { detail: string }).detail).to.include('status=<400 to 599>');
    }
    const called = await gribo(['serve', '--samples', '--pretend', 'wait=soon']);
    expect(called.code).to.equal(2);
    expect(called.err).to.include('"wait=soon" is none of wait=<0 to 120000>');
  });

  it('writes down what was asked and answered, and answers the same again', async () => {
    const headers = {
      'x-audience': 'harbourMaster',
      authorization: 'Bearer hush-hush',
      'content-type': 'application/json',
    };
    const read = await (await server.ask('/vessels/3', headers)).text();
    const csv = await (await server.ask('/vessels?size=3', { accept: 'text/csv' })).text();
    const wrong = await (await server.ask('/vessels', headers, '{"name":1}')).text();
    expect(readFileSync(FILE, 'utf8')).to.not.include('hush-hush');
    const again = await serving('--replay', FILE, '--pretend', 'wait=1');
    // Other rows than those that were recorded show whence the answer is.
    expect(await (await again.ask('/vessels/3', headers)).text()).to.equal(read);
    expect(await (await again.ask('/vessels?size=3', { accept: 'text/csv' })).text()).to.equal(csv);
    expect(await (await again.ask('/vessels', headers, '{"name":1}')).text()).to.equal(wrong);
    expect((await again.ask('/vessels/4')).status).to.equal(200);
    await again.end();
  });

  it('answers several answers to one request in their order', async () => {
    const har = JSON.parse(readFileSync(FILE, 'utf8')) as {
      log: { entries: { request: { url: string }; response: { content: { text?: string } } }[] };
    };
    const entry = har.log.entries.find(({ request }) => request.url.endsWith('/vessels/3'));
    const saying = (text: string) => ({ ...entry, response: { ...entry?.response, content: { text } } });
    const file = join(FOLDER, 'two.har');
    writeFileSync(
      file,
      JSON.stringify({ log: { version: '1.2', entries: [saying('first'), saying('second')] } }),
    );
    const again = await serving('--replay', file);
    const said: string[] = [];
    for (let i = 0; i < 3; i++)
      said.push(await (await again.ask('/vessels/3', { 'x-audience': 'harbourMaster' })).text());
    expect(said).to.deep.equal(['first', 'second', 'second']);
    await again.end();
  });

  it('answers in the edition that a header names, and to an upload whatever stands between its parts', async () => {
    const folder = await project(TIDES);
    const file = join(folder, 'traffic.har');
    const form = (...bytes: number[]): FormData => {
      const sent = new FormData();
      sent.append('chart', new Blob([Uint8Array.from(bytes)]), 'chart.bin');
      return sent;
    };
    const first = await servingIn(folder, '--record', file);
    for (const edition of ['v2', 'v1']) await first.ask('/tides', { edition });
    for (const byte of [0xfe, 0xff]) await first.ask('/tides', {}, form(0, byte));
    await first.end();
    interface Archive {
      log: {
        entries: { request: { postData?: { text: string } }; response: { content: { text?: string } } }[];
      };
    }
    const har = JSON.parse(readFileSync(file, 'utf8')) as Archive;
    const [, , sent] = har.log.entries;
    expect(
      Buffer.from(sent?.request.postData?.text ?? '', 'base64').includes(Buffer.from([0, 0xfe])),
    ).to.equal(true);
    for (const [i, { response }] of har.log.entries.entries()) response.content = { text: `answer ${i}` };
    writeFileSync(file, JSON.stringify(har));
    const again = await servingIn(folder, '--replay', file);
    const said = async (...asked: Parameters<Serving['ask']>) => (await again.ask(...asked)).text();
    expect(await said('/tides', { edition: 'v1' })).to.equal('answer 1');
    expect(await said('/tides', { edition: 'v2' })).to.equal('answer 0');
    expect(await said('/tides', {}, form(0, 0xff))).to.equal('answer 3');
    expect(await said('/tides', {}, form(0, 0xfe))).to.equal('answer 2');
    expect(await said('/tides', {}, form(0, 0xfd))).to.not.contain('answer');
    await again.end();
    rmSync(folder, { recursive: true });
  });

  it('says what is wrong with a file of answers', async () => {
    const { code, err } = await gribo(['serve', '--samples', '--replay', join(HARBOUR, 'package.json')]);
    expect(code).to.equal(2);
    expect(err).to.include('could not be read as an HTTP Archive: it has no log.entries');
  });

  describeInBrowser('what was written down, read by others', (browsing) => {
    it('is answered by a browser that was handed the file', async () => {
      const { page } = browsing();
      await server.ask('/berths/options', { accept: '*/*' });
      await page.routeFromHAR(FILE, { url: '**/berths/options', notFound: 'abort' });
      await page.goto(`${server.address}/_board/`);
      const text = await page.evaluate(() => fetch('/berths/options').then((response) => response.text()));
      expect(JSON.parse(text)).to.be.an('array').with.length.above(0);
    });
  });
});
