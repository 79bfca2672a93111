import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { describeInBrowser, serveFolder } from '../packages/board/src/testing/browser.js';

const DIST = fileURLToPath(new URL('./dist', import.meta.url));
const pages = readdirSync(DIST, { recursive: true, encoding: 'utf8' }).filter(
  (file) => file.endsWith('.html') && !file.startsWith('workbench/'),
);
const html = new Map(pages.map((page) => [page, readFileSync(join(DIST, page), 'utf8')]));

describe('the site', () => {
  it('has every page of docs/ and every public name', () => {
    for (const file of readdirSync(fileURLToPath(new URL('../docs', import.meta.url))))
      if (file.endsWith('.md')) expect(html.has(file.replace(/\.md$/, '.html')), file).to.equal(true);
    for (const name of [
      'gribo/variables/shape',
      'gribo/functions/api',
      '@gribo/http/variables/serve',
      '@gribo/testing/functions/assertAnswer',
    ])
      expect(
        [...html.keys()].some(
          (page) =>
            page.endsWith(`${name}.html`) || page.endsWith(`${name.replace('functions', 'variables')}.html`),
        ),
        name,
      ).to.equal(true);
  });

  it('comes with the map of rooms as the code is', async () => {
    const { drawRooms } = (await import('./rooms.mjs' as string)) as { drawRooms(): Promise<string> };
    expect(await drawRooms()).to.equal(
      readFileSync(fileURLToPath(new URL('../docs/rooms.svg', import.meta.url)), 'utf8'),
      'npm run rooms draws it anew',
    );
  });

  it('comes with schemas of what commands print, as the types are', async () => {
    const { schemas } = (await import('./schemas.mjs' as string)) as {
      schemas(): Readonly<Record<string, string>>;
    };
    const folder = fileURLToPath(new URL('../packages/cli/schemas/', import.meta.url));
    const kept = readdirSync(folder).map((file) => [file, readFileSync(folder + file, 'utf8')]);
    expect(Object.fromEntries(kept), 'npm run schemas makes them anew').to.deep.equal(schemas());
  });

  it('has no link that leads nowhere: to no page, or to no heading of one', () => {
    const ids = new Map(
      [...html].map(([page, text]) => [
        page,
        new Set([...text.matchAll(/ id="([^"]+)"/g)].map(([, id]) => id)),
      ]),
    );
    // What the workbench opens is a problem of its gallery, each a file.
    const gallery = fileURLToPath(new URL('../examples/workbench/src/gallery/', import.meta.url));
    const opens = (hash: string): boolean =>
      hash === '' || existsSync(join(gallery, `${/^#problem=([\w-]+)$/.exec(hash)?.[1]}.ts`));
    const broken: string[] = [];
    for (const [page, text] of html) {
      for (const [, href = ''] of text.matchAll(/<a [^>]*?href="([^"]+)"/g)) {
        const { origin, pathname, hash } = new URL(href, `http://site.test/${page}`);
        if (origin !== 'http://site.test') continue;
        const target = decodeURIComponent(
          pathname === '/' || pathname.endsWith('/') ? `${pathname}index.html` : pathname,
        ).slice(1);
        const isFile = existsSync(join(DIST, target));
        const isThere = target.startsWith('workbench/')
          ? isFile && opens(hash)
          : (hash === '' && isFile) || ids.get(target)?.has(decodeURIComponent(hash.slice(1))) === true;
        if (!isThere) broken.push(`${page}: ${href}`);
      }
    }
    expect(broken).to.deep.equal([]);
  });
});

describeInBrowser('the site in a browser', (browsing) => {
  let site: Awaited<ReturnType<typeof serveFolder>>;
  before(async () => {
    site = await serveFolder(DIST);
  });
  after(() => site.end());

  for (const scheme of ['light', 'dark'] as const) {
    for (const width of [1280, 390]) {
      it(`can be read by everybody: ${scheme}, ${width} wide`, async () => {
        const { page } = browsing();
        await page.emulateMedia({ colorScheme: scheme });
        await page.setViewportSize({ width, height: 800 });
        for (const name of ['index', 'start', 'endpoints', 'check', 'reference/gribo/variables/shape']) {
          await page.goto(`${site.address}/${name}.html`);
          await browsing().checkAccess();
          await browsing().checkWidth();
        }
      });
    }
  }

  it('finds a message, an error code and a name', async () => {
    const { page } = browsing();
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.goto(`${site.address}/index.html`);
    for (const [asked, found] of [
      ['the row has no', 'messages'],
      ['ROW_NULL', 'errors'],
      ['assertAnswer', 'testing'],
    ] as const) {
      await page.getByRole('button', { name: 'Search' }).click();
      await page.getByRole('searchbox').fill(asked);
      await page.locator(`.results a[href*="${found}"]`).first().waitFor();
      await page.keyboard.press('Escape');
    }
  });

  it('leads to the workbench', async () => {
    const { page } = browsing();
    await page.goto(`${site.address}/index.html`);
    await page.getByRole('link', { name: 'Try it' }).first().click();
    await page
      .getByRole('heading', { name: 'Workbench' })
      .or(page.getByText('workbench', { exact: false }))
      .first()
      .waitFor();
  });
});
