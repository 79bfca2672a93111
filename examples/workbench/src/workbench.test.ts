import { readdirSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { describeInBrowser, serveFolder } from '../../../packages/board/src/testing/browser.js';
import { packed, unpacked } from './share.js';

const DIST = fileURLToPath(new URL('../dist', import.meta.url));

describe('an edit in an address', () => {
  it('comes back as it was, whatever is in it', () => {
    const source = 'export const Ä = "港 ⚓";\n'.repeat(40);
    expect(unpacked(`#${packed(source)}`)).to.equal(source);
    expect(packed(source).length).to.be.below(source.length / 3);
    expect(packed(source)).to.match(/^[\w-]+$/);
    expect([unpacked(''), unpacked('#'), unpacked('#not packed')]).to.deep.equal([null, null, null]);
    expect(unpacked(`#${packed('x'.repeat(5_000_000))}`), 'one that unpacks to far more').to.equal(null);
  });
});

describeInBrowser('the workbench', (browsing) => {
  let served: { readonly address: string; readonly end: () => void };
  before(async () => {
    served = await serveFolder(DIST);
  });
  after(() => served?.end());

  const open = async (hash = '') => {
    const { page } = browsing();
    await page.goto('about:blank');
    await page.goto(`${served.address}/${hash}`);
    await page.getByLabel('Response', { exact: true }).and(page.locator('section')).waitFor();
    return page;
  };

  const type = async (text: string): Promise<void> => {
    const { page } = browsing();
    await page.locator('.cm-content').click();
    await page.keyboard.press('ControlOrMeta+a');
    await page.keyboard.insertText(text);
  };

  it('shows the response, its schema, its load plan and its size', async () => {
    const page = await open();
    const response = page.locator('section[aria-label=Response]');
    expect(await response.innerText())
      .to.contain('"operator":')
      .and.not.contain('masterPhone');
    await page.getByLabel('For').selectOption('harbourMaster');
    await response.getByText('masterPhone').first().waitFor();
    await page.getByLabel('Show').selectOption('CallLine');
    await response.filter({ hasNotText: '"flag"' }).waitFor();
    expect(await page.locator('section[aria-label=Schema]').innerText()).to.contain(
      'https://json-schema.org/draft/2020-12/schema',
    );
    expect(await page.locator('section[aria-label="Load plan"]').innerText())
      .to.contain('port_call: id, berth_id, status, eta')
      .and.contain('the row behind berth');
    await page.getByText(/bytes sent/).waitFor();
    await browsing().checkAccess();
  });

  it('says what is wrong with an edit, and goes on from the last that worked', async () => {
    const page = await open();
    await page.getByLabel('Begin with').selectOption('What is sealed stays inside');
    await page.locator('section[aria-label=Response]').getByText('"hint"').first().waitFor();
    await type(
      `import { shape } from 'gribo';\nimport { db } from './model.js';\nexport const Bad = shape(db.operator, (o) => ({ phone: o.phone }));`,
    );
    await page.getByText('this column is sealed (personal)').waitFor();
    await type('export const = 3;');
    await page.getByRole('alert').getByText('Unexpected token').waitFor();
    await type(
      `import { shape } from 'gribo';\nimport { db } from './model.js';\nexport const Good = shape(db.operator, (o) => ({ named: o.name }));`,
    );
    await page.locator('section[aria-label=Response]').getByText('"named"').first().waitFor();
    expect(await page.getByRole('alert').count()).to.equal(0);
  });

  it('knows types: what is wrong while it is typed, what something is, and what could follow', async () => {
    const loaded: string[] = [];
    browsing().page.on('request', (request) => loaded.push(request.url()));
    const page = await open();
    await page.waitForTimeout(800);
    expect(
      loaded.some((url) => url.includes('worker-')),
      'who reads loads no compiler',
    ).to.equal(false);
    const head = `import { shape } from 'gribo';\nimport { db } from './model.js';\n`;
    await type(
      `${head}export const V = shape(db.vessel, (v) => ({\n  title: v.nmae,\n  phone: v.masterPhone,\n}));`,
    );
    await page.locator('.cm-lintRange-error').nth(1).waitFor();
    expect(loaded.some((url) => url.includes('worker-'))).to.equal(true);
    await page.locator('.cm-lintRange-error').first().hover();
    await page.getByText("Property 'nmae' does not exist on type").waitFor();
    await type(`${head}export const V = shape(db.vessel, (v) => ({\n  built: v.builtYear,\n}));\n`);
    await page.locator('.cm-lintRange-error').first().waitFor({ state: 'detached' });
    const line = page.locator('.cm-line').filter({ hasText: 'builtYear' });
    const box = await line.boundingBox();
    // In the middle of the column's name, eight letters behind the margin of a line of 21.
    const width = await line.evaluate((element) => {
      const range = document.createRange();
      range.selectNodeContents(element);
      return range.getBoundingClientRect().width;
    });
    await page.mouse.move((box?.x ?? 0) + width * 0.75, (box?.y ?? 0) + (box?.height ?? 0) / 2, { steps: 3 });
    await page
      .locator('.hover')
      .getByText(/builtYear: Stored</)
      .waitFor();
    await page.keyboard.press('ControlOrMeta+End');
    await page.keyboard.type('const x = db.vess');
    await page.locator('.cm-tooltip-autocomplete').getByText('vessel', { exact: true }).waitFor();
  });

  it('has a gallery of problems, each at an address of its own, each without a mistake', async () => {
    const ids = readdirSync(fileURLToPath(new URL('./gallery', import.meta.url)))
      .map((file) => file.replace(/\.ts$/, ''))
      .filter((id) => id !== 'model');
    expect(ids).to.have.length(10);
    for (const id of ids) {
      const page = await open(`#problem=${id}`);
      await page.getByText(/bytes sent/).waitFor();
      expect(await page.getByRole('alert').count(), id).to.equal(0);
      const shown = await page.locator('section[aria-label=Response] pre').innerText();
      expect(JSON.parse(shown), id).to.have.length.above(0);
    }
  });

  it('takes rows and models of the edit, and shows an endpoint', async () => {
    const page = await open('#problem=own-rows');
    const response = page.locator('section[aria-label=Response]');
    await response.getByText('"Anselma"').first().waitFor();
    await page.goto(`${served.address}/#problem=short-and-long`);
    await page.reload();
    await response.getByText('"name"').first().waitFor();
    expect(await response.innerText()).to.not.contain('calls');
    await page.getByLabel('At').selectOption('list');
    await response.getByText('"calls"').first().waitFor();
    await type(
      `import { entity, integer, model as modelOf, shape, text } from 'gribo';\nexport const model = modelOf({ buoy: entity('buoy', { id: integer().key(), name: text() }) }, {});\nexport const rows = { buoy: [{ id: 7, name: 'North' }] };\nexport const Buoy = shape(model.buoy, (b) => ({ buoy: b.name }));`,
    );
    await response.getByText('"buoy": "North"').first().waitFor();
  });

  it('stops what never ends, and keeps edits from the page', async () => {
    const page = await open();
    await type('while (true) {}');
    await page.getByText('and was stopped').waitFor();
    await type(
      `import { constant, shape } from 'gribo';\nimport { db } from './model.js';\nexport const Seen = shape(db.operator, () => ({ page: constant(typeof document), origin: constant(String(self.origin)) }));`,
    );
    await page.locator('section[aria-label=Response]').getByText('"page": "undefined"').first().waitFor();
    expect(await page.locator('section[aria-label=Response]').innerText()).to.contain('"origin": "null"');
  });

  it('shares an edit by its address', async () => {
    const page = await open();
    await type(
      `import { shape } from 'gribo';\nimport { db } from './model.js';\nexport const Shared = shape(db.berth, (b) => ({ shared: b.code }));`,
    );
    await page.locator('section[aria-label=Response]').getByText('"shared"').first().waitFor();
    await page.getByRole('button', { name: 'Share' }).click();
    await page.getByText(/^The address is/).waitFor();
    const { hash } = new URL(page.url());
    await page.goto('about:blank');
    await page.goto(`${served.address}/${hash}`);
    await page.getByText('Somebody shared this edit').waitFor();
    await page.waitForTimeout(600);
    expect(await page.locator('section[aria-label=Response]').count(), 'nothing ran').to.equal(0);
    await browsing().checkAccess();
    await page.getByRole('button', { name: 'Run it' }).click();
    await page.locator('section[aria-label=Response]').getByText('"shared"').first().waitFor();
  });

  it('lets an edit reach no server, whatever it tries', async () => {
    const reached: string[] = [];
    const server = createServer((request, response) => {
      reached.push(`${request.method} ${request.url}`);
      response.writeHead(200, { 'access-control-allow-origin': '*' }).end('// there');
    });
    server.on('upgrade', (request, socket) => {
      reached.push(`upgrade ${request.url}`);
      socket.destroy();
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const at = `127.0.0.1:${(server.address() as AddressInfo).port}`;
    const page = await open();
    const tries: Readonly<Record<string, string>> = {
      fetch: `void fetch('http://${at}/fetch', { method: 'POST', mode: 'no-cors', body: 'x' }).catch(() => 0)`,
      xhr: `const x = new XMLHttpRequest(); x.open('POST', 'http://${at}/xhr'); x.send('x')`,
      WebSocket: `new WebSocket('ws://${at}/socket')`,
      EventSource: `new EventSource('http://${at}/events')`,
      importScripts: `importScripts('http://${at}/script')`,
      'import()': `void import('http://${at}/module').catch(() => 0)`,
      Worker: `new Worker('http://${at}/worker')`,
      'a worker of a blob': `new Worker(URL.createObjectURL(new Blob(["fetch('http://${at}/inner')"])))`,
      image: `const i = new Image(); i.src = 'http://${at}/image'`,
      sendBeacon: `navigator.sendBeacon('http://${at}/beacon', 'x')`,
      navigation: `self.location.href = 'http://${at}/away'`,
      'a message that asks the page': `postMessage({ source: "fetch('http://${at}/message')" })`,
    };
    for (const [name, code] of Object.entries(tries)) {
      await type(
        `import { constant, shape } from 'gribo';\nimport { db } from './model.js';\nlet tried = 'tried';\ntry { ${code} } catch (error) { tried = 'refused'; }\nexport const Tried = shape(db.operator, () => ({ ${JSON.stringify(name)}: constant(tried) }));`,
      );
      await page.locator('section[aria-label=Response]').getByText(`"${name}"`).first().waitFor();
      await page.waitForTimeout(100);
    }
    await page.waitForTimeout(500);
    // What runs in the frame itself is held to the same; only the frame's own script can.
    const frame = page.frames().find((one) => one !== page.mainFrame());
    await frame?.evaluate((server: string) => {
      void fetch(`http://${server}/frame-fetch`).catch(() => 0);
      navigator.sendBeacon(`http://${server}/frame-beacon`, 'x');
      new Image().src = `http://${server}/frame-image`;
      for (const rel of ['prefetch', 'preconnect', 'stylesheet', 'preload']) {
        const link = Object.assign(document.createElement('link'), {
          rel,
          href: `http://${server}/frame-${rel}`,
        });
        document.head.append(link);
      }
      document.head.append(
        Object.assign(document.createElement('script'), { src: `http://${server}/frame-script` }),
      );
      location.href = `http://${server}/frame-away`;
    }, at);
    await page.waitForTimeout(800);
    // What was refused is told on the console.
    browsing().wrong.splice(0);
    server.close();
    server.closeAllConnections();
    expect(reached).to.deep.equal([]);
  });

  it('takes no message for a result that is none', async () => {
    const page = await open();
    const forged = [
      `postMessage({ id: 1e9, ok: true, made: {} })`,
      `for (let id = 0; id < 50; id++) postMessage({ id, ok: true, made: { shapes: [{}], shape: {}, response: {}, schema: 1, load: [{}], weight: null, storedBytes: {} } })`,
      `for (let id = 0; id < 50; id++) postMessage({ id, ok: false, message: { toString: 1 } })`,
      `postMessage('ready'); postMessage('open'); postMessage(null); postMessage({ broken: {} })`,
    ];
    for (const code of forged) {
      await type(
        `import { shape } from 'gribo';\nimport { db } from './model.js';\n${code};\nexport const Forged = shape(db.operator, (o) => ({ named: o.name }));`,
      );
      await page.waitForTimeout(500);
      expect(await page.getByRole('heading', { name: 'Gribo workbench' }).count(), code).to.equal(1);
    }
    await type(
      `import { shape } from 'gribo';\nimport { db } from './model.js';\nexport const After = shape(db.operator, (o) => ({ after: o.name }));`,
    );
    await page.locator('section[aria-label=Response]').getByText('"after"').first().waitFor();
    // Messages of other windows are none of the frame's.
    await page.evaluate(() => window.postMessage({ result: { id: 1, ok: false, message: 'forged' } }, '*'));
    await page.waitForTimeout(200);
    expect(await page.getByText('forged').count()).to.equal(0);
  });

  it('can be used on a phone', async () => {
    const { page } = browsing();
    await page.setViewportSize({ width: 390, height: 844 });
    await open();
    await browsing().checkWidth();
    await browsing().checkAccess();
    await page.setViewportSize({ width: 1280, height: 800 });
  });
});
