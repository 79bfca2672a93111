import { createReadStream, existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { extname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { type BrowserContext, chromium, type Page } from 'playwright-core';

/** Where Chromium may be; the tests in a browser are skipped where it is nowhere. */
const PLACES = [
  process.env['CHROMIUM'],
  '/usr/bin/chromium',
  '/usr/bin/chromium-browser',
  '/usr/bin/google-chrome',
];

const executablePath = PLACES.find((path) => path !== undefined && existsSync(path));

const AXE = readFileSync(fileURLToPath(import.meta.resolve('axe-core/axe.min.js')), 'utf8');

/** A browser with one page, and what went wrong in it. */
export class Browsing {
  readonly page: Page;
  /** Errors on the console, failures of scripts, and requests that went elsewhere. */
  readonly wrong: string[] = [];
  /** Whether answers that say no are expected just now. */
  #expectsRefusals = false;
  readonly #context: BrowserContext;
  readonly #folder: string;

  private constructor(context: BrowserContext, page: Page, folder: string) {
    this.#context = context;
    this.page = page;
    this.#folder = folder;
    page.on('console', (message) => {
      const isRefusal = message.text().startsWith('Failed to load resource') && this.#expectsRefusals;
      if (message.type() === 'error' && !isRefusal) this.wrong.push(message.text());
    });
    page.on('pageerror', (error) => this.wrong.push(error.message));
    page.on('request', (request) => {
      if (!/^(?:http:\/\/127\.0\.0\.1:|data:|blob:|about:)/.test(request.url()))
        this.wrong.push(`asked ${request.url()}`);
    });
  }

  static async open(): Promise<Browsing> {
    const folder = mkdtempSync(join(tmpdir(), 'gribo-browser-'));
    const context = await chromium.launchPersistentContext(folder, {
      ...(executablePath === undefined ? {} : { executablePath }),
      headless: true,
      viewport: { width: 1280, height: 800 },
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    });
    context.setDefaultTimeout(300_000);
    return new Browsing(context, await context.newPage(), folder);
  }

  /** Does something that the API answers with a problem: browsers write that to the console. */
  async refused<T>(work: () => Promise<T>): Promise<T> {
    this.#expectsRefusals = true;
    const done = await work();
    await this.page.waitForTimeout(100);
    this.#expectsRefusals = false;
    return done;
  }

  /** Fails where something is wrong for those who cannot see well, or use no mouse. */
  async checkAccess(): Promise<void> {
    // What moves in is only half there, and half as strong in colour.
    await this.page.waitForTimeout(350);
    await this.page.evaluate(AXE);
    const found = (await this.page.evaluate(
      // Runs in the page, where the line above has put it.
      "axe.run(document, { resultTypes: ['violations'] }).then(({ violations }) => violations.map(({ id, impact, nodes }) => ({ id, impact, where: nodes.map(({ html }) => html.slice(0, 160)) })))",
    )) as readonly { readonly id: string; readonly impact: string; readonly where: readonly string[] }[];
    const serious = found.filter(({ impact }) => impact === 'serious' || impact === 'critical');
    expect(serious.map(({ id, where }) => `${id}: ${where.join('\n')}`)).to.deep.equal([]);
  }

  /** Fails where the page is wider than the screen. */
  async checkWidth(): Promise<void> {
    const [page, screen] = await this.page.evaluate(
      () => [document.documentElement.scrollWidth, window.innerWidth] as const,
    );
    expect(page, 'the page is as wide as the screen').to.be.at.most(screen);
  }

  async close(): Promise<void> {
    await this.#context.close();
    rmSync(this.#folder, { recursive: true, force: true });
  }
}

/** Describes what is seen in a browser; where there is none, it is left out. */
export const describeInBrowser = (what: string, tests: (browsing: () => Browsing) => void): void => {
  describe(`${what} (in a browser)`, () => {
    let browsing: Browsing | null = null;
    before(async function () {
      if (executablePath === undefined) return this.skip();
      browsing = await Browsing.open();
    });
    after(async () => browsing?.close());
    afterEach(() => {
      expect(browsing?.wrong.splice(0) ?? []).to.deep.equal([]);
    });
    tests(() => {
      if (browsing === null) throw new Error('the browser is not open');
      return browsing;
    });
  });
};

const TYPES: Readonly<Record<string, string>> = {
  '.html': 'text/html',
  '.js': 'text/javascript',
  '.css': 'text/css',
  '.json': 'application/json',
};

/** Hands out the files of a folder, as any web server does. */
export const serveFolder = async (
  folder: string,
): Promise<{ readonly address: string; readonly end: () => void }> => {
  const server = createServer((request, response) => {
    const { pathname } = new URL(request.url ?? '/', 'http://127.0.0.1');
    const path = join(folder, pathname === '/' ? 'index.html' : pathname);
    if (!existsSync(path)) return response.writeHead(404).end();
    response.writeHead(200, { 'content-type': TYPES[extname(path)] ?? 'application/octet-stream' });
    createReadStream(path).pipe(response);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  return { address: `http://127.0.0.1:${port}`, end: () => server.close() };
};
