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
    await open(new URL(page.url()).hash);
    await page.locator('section[aria-label=Response]').getByText('"shared"').first().waitFor();
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
