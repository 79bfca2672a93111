import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import { describeInBrowser } from '../../../packages/board/src/testing/browser.js';
import { type Running, runServer } from '../../../packages/board/src/testing/run-server.js';

const HOME = fileURLToPath(new URL('..', import.meta.url));

describeInBrowser('the quayside', (browsing) => {
  let running: Running;
  before(async () => {
    running = await runServer(['build/server.js'], HOME);
  });
  after(async () => running?.end());

  const open = async (view: string) => {
    const { page } = browsing();
    await page.goto('about:blank');
    await page.goto(`${running.address}/#${view}`);
    return page;
  };

  it('is served under a policy that forbids code made from text', async () => {
    const response = await fetch(running.address);
    const policy = response.headers.get('content-security-policy') ?? '';
    expect(policy).to.contain("script-src 'self'").and.not.contain('unsafe-eval');
    expect((await fetch(`${running.address}/../server.js`)).status).to.equal(404);
    const page = await open('arrivals');
    // What the test itself runs may do it; what runs later in the page may not.
    const made = await page.evaluate(
      () =>
        new Promise((resolve) => {
          setTimeout(() => {
            try {
              resolve(new Function('return 1')());
            } catch {
              resolve('forbidden');
            }
          });
        }),
    );
    expect(made).to.equal('forbidden');
  });

  it('shows arrivals page by page, and more of them to agents', async () => {
    const page = await open('arrivals');
    await page.waitForSelector('[data-testid=arrivals] li');
    await page.getByText('Sailed', { exact: true }).click();
    await page.locator('li').getByText('sailed').first().waitFor();
    const hidden = page.getByText('not public yet');
    const next = page.getByLabel('next page');
    while ((await hidden.count()) === 0 && (await next.isEnabled())) {
      const first = await page.locator('li.line').first().innerText();
      await next.click();
      await page.waitForFunction(
        (text) => document.querySelector('li.line')?.textContent?.replaceAll(/\s/g, '') !== text,
        first.replaceAll(/\s/g, ''),
      );
    }
    expect(await hidden.count(), 'a call under embargo has no time for the public').to.be.above(0);
    await page.getByText('A ship’s agent').click();
    await hidden.first().waitFor({ state: 'detached' });
    await browsing().checkAccess();
  });

  it('cancels calls of the agent’s own, for a reason, and says first what would come of it', async () => {
    const page = await open('arrivals');
    await page.getByText('A ship’s agent').click();
    const buttons = page.getByRole('button', { name: 'Cancel …' });
    await buttons.first().waitFor();
    const told: string[] = [];
    // Short reasons and calls of others are refused on the way.
    await browsing().refused(async () => {
      for (let i = 0; i < (await buttons.count()) && !told.includes('done'); i++) {
        await buttons.nth(i).click();
        await page.getByRole('button', { name: 'Cancel the call' }).click();
        await page.getByText(/^Expected a string with a length from 3 to 200/).waitFor();
        await page.getByLabel('Reason').fill('storm');
        await page.getByRole('button', { name: 'What would come of it?' }).click();
        const alert = page.getByRole('dialog').locator('[role=alert], [role=status]');
        await alert.waitFor();
        const words = await alert.innerText();
        told.push(words);
        if (!words.includes('Cancelled: storm')) {
          await page.getByRole('button', { name: 'Leave it' }).click();
          await page.getByRole('dialog').waitFor({ state: 'detached' });
          continue;
        }
        await browsing().checkAccess();
        await page.getByRole('button', { name: 'Cancel the call' }).click();
        await page.getByRole('dialog').waitFor({ state: 'detached' });
        told.push('done');
      }
    });
    // Calls of others are refused, in the words of the rule.
    expect(told.filter((words) => words !== 'done').join()).to.match(
      /An agent changes the calls of its own operator|Cancelled: storm/,
    );
    await page.getByText('Cancelled', { exact: true }).click();
    await page.locator('li').getByText('cancelled').first().waitFor();
  });

  it('finds vessels, and tells about one', async () => {
    const page = await open('vessels');
    await page.getByLabel('Look for a vessel').fill('cormorant');
    await page.getByRole('button', { name: /Cormorant Rose/ }).click();
    await page.getByText('IMO number').waitFor();
    await browsing().checkAccess();
    await page.keyboard.press('Escape');
    await page.getByLabel('Look for a vessel').fill('no vessel at all');
    await page.getByText('No vessel is called so.').waitFor();
  });

  it('shows berths, on a phone too', async () => {
    const page = await open('berths');
    await page.getByRole('rowheader').first().waitFor();
    await browsing().checkAccess();
    await page.setViewportSize({ width: 390, height: 844 });
    for (const view of ['arrivals', 'vessels', 'berths', 'announce']) {
      await open(view);
      await page.waitForTimeout(400);
      await browsing().checkWidth();
    }
    await page.setViewportSize({ width: 1280, height: 800 });
  });

  it('checks an announcement before it is sent, and sends it', async () => {
    const page = await open('announce');
    await page.getByRole('button', { name: 'I am a ship’s agent' }).click();
    let sent = 0;
    page.on('request', (request) => {
      if (request.method() === 'POST') sent++;
    });
    await page.getByRole('button', { name: 'Add cargo' }).click();
    await page.getByLabel('Weight in kg').fill('a lot');
    const announce = page.getByRole('button', { name: 'Announce', exact: true });
    await announce.click();
    await page.getByText('Expected a whole number, got "a lot".').waitFor();
    expect(await page.getByText('This is needed.').count()).to.equal(4);
    expect(sent).to.equal(0);
    await browsing().checkAccess();
    const vessel = page.getByRole('combobox', { name: /^Vessel/ });
    // Of forty vessels, the two that this agent looks after.
    expect(await vessel.getByRole('option').count()).to.equal(1 + 2);
    await vessel.selectOption({ index: 2 });
    await page.getByLabel(/^Expected, in UTC/).fill('2026-07-01T06:30');
    await page.getByLabel('Commodity').fill('Rope');
    await page.getByLabel('Weight in kg').fill('1200');
    await page.getByLabel('Consignee').fill('Lantern Bay');
    await announce.click();
    await page.getByText('is announced.').waitFor();
    expect(sent).to.equal(1);
  });

  it('says what is wrong where the API does not answer', async () => {
    const { page } = browsing();
    await page.route('**/api/**', (route) =>
      route.fulfill({
        status: 503,
        contentType: 'application/problem+json',
        body: '{"detail":"The harbour sleeps."}',
      }),
    );
    await browsing().refused(async () => {
      await open('arrivals');
      await page.getByRole('alert').getByText('The harbour sleeps.').waitFor();
    });
    await page.unroute('**/api/**');
  });
});
