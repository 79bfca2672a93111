import { execFileSync } from 'node:child_process';
import { readFileSync, rmSync, utimesSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';
import type { Page } from 'playwright-core';
import { picture } from '../../../examples/harbour/src/picture.js';
import { describeInBrowser, serveFolder } from './testing/browser.js';
import { type Running, runServer } from './testing/run-server.js';

const BIN = fileURLToPath(new URL('../../cli/bin/gribo.js', import.meta.url));
const HARBOUR = fileURLToPath(new URL('../../../examples/harbour/', import.meta.url));
const COPY = join(HARBOUR, '.cache', 'board');

/** The members that `gribo table` says an audience sees somewhere. */
const tableSays = (entity: string, audience: string): readonly string[] => {
  const out = execFileSync(process.execPath, [BIN, 'table', entity, '--audience', audience, '--json'], {
    cwd: HARBOUR,
    encoding: 'utf8',
  });
  return (JSON.parse(out) as { member: string }[]).map(({ member }) => member);
};

const shown = (page: Page): Promise<readonly string[]> =>
  page.locator('[data-testid=members] th.member').allInnerTexts();

describeInBrowser('the board', (browsing) => {
  let running: Running;
  before(async () => {
    running = await runServer([BIN, 'serve', '--samples', '--port', '0'], HARBOUR);
  });
  after(async () => running?.end());

  const open = async (place: string): Promise<Page> => {
    const { page } = browsing();
    await page.goto('about:blank');
    await page.goto(`${running.address}/_board/#${place}`);
    await page.waitForSelector('h1');
    return page;
  };

  it('removes exactly the members that gribo table says, when the audience is switched', async () => {
    for (const entity of ['vessel', 'berth', 'portCall']) {
      const page = await open(`view=table&entity=${entity}&audience=harbourMaster`);
      await page.waitForSelector('[data-testid=members]');
      const before = await shown(page);
      expect(before).to.deep.equal(tableSays(entity, 'harbourMaster'));
      await page.getByLabel('Audience').selectOption('public');
      const after = await shown(page);
      expect(after).to.deep.equal(tableSays(entity, 'public'));
      expect(before.length, entity).to.be.above(after.length);
    }
  });

  it('shows which rows callers see and change, as gribo table --rows says', async () => {
    const page = await open('view=rows&audience=agent');
    const table = page.getByTestId('rows');
    await table.waitFor();
    const out = execFileSync(process.execPath, [BIN, 'table', 'portCall', '--rows', '--json'], {
      cwd: HARBOUR,
      encoding: 'utf8',
    });
    const lines = JSON.parse(out) as { audience: string; see: string; change: string }[];
    const agents = lines.find(({ audience }) => audience === 'agent');
    const chosen = await table.locator('tr.chosen').allInnerTexts();
    expect(chosen).to.have.length(4);
    const calls = chosen.find((line) => line.includes(agents?.see ?? ''));
    expect(calls).to.contain(agents?.change);
    await page.getByText('so they are everybody’s: operator').waitFor();
  });

  it('keeps its tabs in one place, whatever else a view has to choose', async () => {
    const page = await open('view=table&entity=vessel');
    const places = new Set<number>();
    for (const name of ['Table', 'Rows', 'Beside', 'Try', 'Draft', 'Contract']) {
      await page.getByRole('tab', { name, exact: true }).click();
      await page.getByRole('tab', { name, exact: true, selected: true }).waitFor();
      places.add((await page.getByRole('tab', { name: 'Table', exact: true }).boundingBox())?.x ?? 0);
    }
    expect([...places]).to.have.length(1);
  });

  it('sends a file, and shows a picture that comes', async () => {
    const page = await open('view=try&endpoint=vessels.setPhoto&audience=harbourMaster');
    await page.getByLabel('vesselId').fill('9');
    await page
      .locator('input[type=file]')
      .setInputFiles({ name: 'ship.png', mimeType: 'image/png', buffer: Buffer.from(picture()) });
    await page.getByRole('button', { name: 'PUT /2026-05/vessels/9/photo' }).click();
    await page.getByTestId('response').getByText('204').waitFor();
    const shown = await open('view=try&endpoint=vessels.photo');
    await shown.getByLabel('vesselId').fill('9');
    await shown.getByRole('button', { name: 'GET /2026-05/vessels/9/photo' }).click();
    const image = shown.getByAltText('What was sent');
    await image.waitFor();
    expect(
      await image.evaluate((one: HTMLImageElement) => [one.naturalWidth, one.naturalHeight]),
    ).to.deep.equal([64, 40]);
  });

  it('asks as a caller that the configuration names', async () => {
    const totalOf = async (place: string): Promise<number> => {
      const page = await open(`view=try&endpoint=portCalls.list&${place}`);
      await page.getByRole('button', { name: 'GET /2026-05/port-calls' }).click();
      const response = page.getByTestId('response');
      await response.getByText('200').first().waitFor();
      return Number(/"total": (\d+)/.exec(await response.innerText())?.[1]);
    };
    const [lantern, office] = [await totalOf('caller=lantern'), await totalOf('caller=office')];
    expect(lantern).to.be.within(1, office - 1);
    const page = await open('view=beside&endpoint=portCalls.list&audience=public');
    await page.getByLabel('Audience').selectOption('as lantern');
    await page.getByLabel('Beside another response').selectOption('as office');
    await page.getByTestId('other').getByText('as office', { exact: false }).last().waitFor();
    expect(page.url()).to.contain('caller=lantern').and.not.contain('audience=');
  });

  it('keeps the pages of other sites from writing', async () => {
    const { page } = browsing();
    const count = async (): Promise<unknown> => {
      const { page: told } = (await (await fetch(`${running.address}/vessels`)).json()) as { page: object };
      return (told as { total: number }).total;
    };
    const before = await count();
    const elsewhere = createServer((_request, response) => {
      const action = `${running.address}/vessels`;
      response.setHeader('content-type', 'text/html');
      response.end(`<form id="f" method="post" action="${action}"><input name="name" value="Forged"></form>
        <form id="p" method="post" enctype="text/plain" action="${action}"><input name='{"name":"' value='Forged"}'></form>`);
    });
    await new Promise<void>((resolve) => elsewhere.listen(0, '127.0.0.1', resolve));
    const address = `http://localhost:${(elsewhere.address() as AddressInfo).port}/`;
    await browsing().refused(async () => {
      for (const form of ['f', 'p']) {
        await page.goto(address);
        const [response] = await Promise.all([
          page.waitForResponse((one) => one.request().method() === 'POST'),
          page.evaluate((id) => (document.getElementById(id) as HTMLFormElement).submit(), form),
        ]);
        expect(response.status(), form).to.equal(403);
        // The answer is no page: what the browser shows for it must be there before it is left.
        await page.waitForTimeout(500);
        await page.goto('about:blank');
      }
      await page.goto(address);
      await page.evaluate(
        (url) => fetch(url, { method: 'POST', mode: 'no-cors', body: '{"name":"Forged"}' }).catch(() => null),
        `${running.address}/vessels`,
      );
    });
    elsewhere.close();
    elsewhere.closeAllConnections();
    browsing().wrong.splice(0);
    expect(await count()).to.equal(before);
  });

  it('tells the way back to the column, by mouse and by keyboard', async () => {
    const page = await open('entity=berth&audience=harbourMaster');
    await page.getByRole('button', { name: 'gateCode at berths.read: unsealed' }).hover();
    await page.getByText('sealed: security').first().waitFor();
    expect(await page.locator('.mantine-Popover-dropdown').innerText()).to.contain('berth.gateCode as it is');
    await page.mouse.move(0, 0);
    await page.getByRole('button', { name: 'quay at berths.list: quay.name' }).focus();
    await page.getByText('quay.name as it is').waitFor();
  });

  it('finds members, and keeps its place in the address', async () => {
    const page = await open('entity=vessel&audience=agent');
    await page.getByLabel('Search').fill('shorten');
    expect(await shown(page)).to.deep.equal(['notes']);
    await page.getByLabel('Search').fill('no such thing');
    await page.getByText('No member has this in it.').waitFor();
    await page.getByLabel('Entity').selectOption('berth');
    await page.getByRole('tab', { name: 'Beside' }).click();
    await page.getByLabel('Endpoint').selectOption('berths.read');
    await page.reload();
    expect(await page.getByLabel('Endpoint').inputValue()).to.equal('berths.read');
    expect(await page.getByLabel('Audience').inputValue()).to.equal('agent');
    await page.goBack();
    await page.waitForSelector('[data-testid=members]');
  });

  it('shows a stored row beside the response, in every format, for every audience', async () => {
    const page = await open('view=beside&endpoint=vessels.read&audience=public');
    await page.waitForSelector('[data-testid=beside]');
    const sides = page.locator('[data-testid=beside]');
    await sides.getByText('sealed: personal').first().waitFor();
    expect(await sides.getByLabel('sent', { exact: true }).innerText()).not.to.contain('masterPhone');
    await page.getByLabel('Audience').selectOption('harbourMaster');
    await sides.getByLabel('sent', { exact: true }).getByText('masterPhone').waitFor();
    expect(await sides.locator('path.unsealed').count()).to.equal(1);
    await page.getByText('xml', { exact: true }).click();
    await page.getByText('<?xml').waitFor();
    await page.getByLabel('Endpoint').selectOption('vessels.list');
    await page.getByText('csv', { exact: true }).click();
    await page.getByText('id,name,callSign').waitFor();
    await page.getByLabel('with=operator').check();
    await page.getByText('operatorName,operator.id').waitFor();
    await page.getByLabel('Record').selectOption({ index: 2 });
    await page.waitForURL(/key=/);
    expect(await page.getByLabel('Bytes by member').locator('tr').count()).to.be.above(5);
  });

  it('leaves the row behind where another endpoint is chosen, and says where there is no such row', async () => {
    const page = await open('view=beside&endpoint=vessels.read&key=3');
    await page.getByRole('tab', { name: 'Try' }).click();
    await page.getByLabel('Endpoint').selectOption('portCalls.read');
    await page.getByRole('tab', { name: 'Beside' }).click();
    await page.waitForSelector('[data-testid=beside]');
    expect(await page.getByLabel('Endpoint').inputValue()).to.equal('portCalls.read');
    expect(page.url()).not.to.contain('key=');
    await browsing().refused(async () => {
      await open('view=beside&endpoint=vessels.read&key=99999');
      await page.getByRole('alert').getByText('There is no vessel with the key 99999.').waitFor();
    });
  });

  it('shows one response beside another: for another audience, at another endpoint', async () => {
    const page = await open('view=beside&endpoint=vessels.read&audience=public');
    await page.getByLabel('Beside another response').selectOption('for harbourMaster');
    const other = page.getByTestId('other');
    await other.getByText('Only for harbourMaster: masterPhone').waitFor();
    expect(await other.innerText()).to.contain('Nothing is only at vessels.read for public.');
    await page.getByLabel('Beside another response').selectOption('at vessels.list');
    await other.getByText(/^Only at vessels\.read for public: .*imoNumber, builtYear, age/).waitFor();
    expect(await other.getByLabel('The other response').innerText()).not.to.contain('imoNumber');
    await page.getByLabel('Beside another response').selectOption('in xml');
    await other.getByLabel('The other response').getByText('<?xml').waitFor();
  });

  it('shows another edition, asks in it, and puts it beside the newest', async () => {
    const page = await open('view=table&entity=vessel&audience=agent');
    expect(await shown(page))
      .to.include('registeredOn')
      .and.not.include('enteredOn');
    await page.getByLabel('Edition').selectOption('2025-11');
    await page.getByText('enteredOn').first().waitFor();
    expect(await shown(page))
      .to.include('enteredOn')
      .and.not.include('registeredOn');
    await page.getByRole('tab', { name: 'Beside' }).click();
    await page.getByLabel('Endpoint').selectOption('portCalls.read');
    // What the API answers is of the edition that is shown.
    const response = page.getByLabel('The response', { exact: true });
    await response.getByText('"dues"').waitFor();
    expect(JSON.parse(await response.innerText()))
      .to.have.property('dues')
      .that.is.a('number');
    await page.getByLabel('Beside another response').selectOption('in 2026-05');
    const other = page.getByTestId('other');
    await other.getByText('Only in 2026-05: ').waitFor();
    expect(await other.innerText()).to.contain('dues.amount, dues.currency');
    await page.getByRole('tab', { name: 'Try' }).click();
    await page.getByLabel('Endpoint').selectOption('pilots.list');
    await page.getByLabel('Audience').selectOption('harbourMaster');
    await page.getByRole('button', { name: 'GET /2025-11/pilots' }).click();
    await page
      .getByText('200 OK')
      .or(page.getByText(/^200\b/))
      .first()
      .waitFor();
    expect(await page.getByText('deprecation', { exact: true }).count()).to.equal(1);
  });

  it('sends what a form says, and shows what is wrong at its members', async () => {
    const page = await open('view=try&endpoint=vessels.create&audience=agent');
    await page.getByLabel(/^imoNumber/).fill('12');
    await browsing().refused(async () => {
      await page.getByRole('button', { name: 'POST /2026-05/vessels' }).click();
      await page.getByText('Expected a string that matches ^\\d{7}$, got "12".').first().waitFor();
    });
    await page.getByLabel(/^imoNumber/).fill('7654321');
    await page.getByLabel(/^name/).fill('Merel');
    await page.getByLabel(/^kind/).selectOption('tug');
    await page.getByLabel(/^flag/).fill('QM');
    await page.getByLabel(/^builtYear/).fill('1999');
    await page.getByLabel(/^length/).fill('30.5');
    await page.getByLabel(/^draught/).fill('3');
    await page.getByLabel(/^tonnage/).fill('99.5');
    // Agents enter the vessels of their own operator.
    await page.getByLabel(/^id/).fill('2');
    await page.getByRole('button', { name: 'POST /2026-05/vessels' }).click();
    await page.getByTestId('response').getByText('201').waitFor();
    expect(await page.getByTestId('response').innerText())
      .to.contain('location')
      .and.contain('"name": "Merel"');
    await page.getByText('Text', { exact: true }).click();
    await page.getByRole('textbox', { name: 'Body' }).fill('{"name": 3}');
    await browsing().refused(async () => {
      await page.getByRole('button', { name: 'POST /2026-05/vessels' }).click();
      await page.getByTestId('response').getByText('422').first().waitFor();
    });
  });

  it('sends a row of a list, and shows what is wrong with it', async () => {
    const page = await open('view=try&endpoint=positions.create&audience=agent');
    await page.getByText('It takes a list: the form is one row of it.').waitFor();
    for (const [label, text] of Object.entries({
      vesselId: '1',
      at: '2026-03-01T06:30:00Z',
      lat: '95',
      lon: '1.5',
      speedKn: '0',
    }))
      await page.getByLabel(new RegExp(`^${label}`)).fill(text);
    await browsing().refused(async () => {
      await page.getByRole('button', { name: 'POST /2026-05/positions' }).click();
      await page.getByText('Expected a number from -90 to 90, got 95.').first().waitFor();
    });
    await page.getByLabel(/^lat/).fill('54.2');
    await page.getByRole('button', { name: 'POST /2026-05/positions' }).click();
    await page.getByText('201').first().waitFor();
  });

  it('tries reads too, with a path and a query', async () => {
    const page = await open('view=try&endpoint=vessels.read&audience=harbourMaster');
    await page.getByLabel(/^id/).fill('1');
    await page.getByRole('combobox', { name: 'fields' }).click();
    await page.getByRole('option', { name: 'name', exact: true }).click();
    await page.getByRole('option', { name: 'masterPhone', exact: true }).click();
    await page.getByRole('button', { name: 'GET /2026-05/vessels/1?fields=name,masterPhone' }).click();
    await page.getByTestId('response').getByText('200').waitFor();
    expect(await page.getByTestId('response').innerText())
      .to.contain('masterPhone')
      .and.contain('etag');
  });

  it('has a field for everything that a list may be asked, and lines that ask the same', async () => {
    const page = await open('view=try&endpoint=vessels.list&audience=agent');
    await page.getByLabel('builtAfter').fill('1990');
    await page.getByLabel('size').fill('3');
    await page.getByRole('combobox', { name: 'sort' }).click();
    await page.getByRole('option', { name: 'name desc', exact: true }).click();
    await page.keyboard.press('Escape');
    await page.getByRole('combobox', { name: 'fields' }).click();
    for (const name of ['name', 'flag']) await page.getByRole('option', { name, exact: true }).click();
    await page.keyboard.press('Escape');
    await page
      .getByRole('button', {
        name: /^GET \/2026-05\/vessels\?builtAfter=1990&size=3&sort=name\+desc&fields=name,flag$/,
      })
      .click();
    await page.getByTestId('response').getByText('200').waitFor();
    const shown: unknown = JSON.parse(await page.getByRole('region', { name: 'The response' }).innerText());
    const line = await page.getByRole('region', { name: 'As a line for a shell' }).innerText();
    expect(
      JSON.parse(execFileSync('sh', ['-c', line.replace('curl', 'curl -s')], { encoding: 'utf8' })),
    ).to.deep.equal(shown);
    const call = await page.getByRole('region', { name: 'With the client' }).innerText();
    const { connect } = (await import('../../../examples/harbour/generated/client.js')) as unknown as {
      connect(settings: object): (...given: unknown[]) => Promise<unknown>;
    };
    const client = connect({ base: `${running.address}/2026-05`, headers: { 'x-audience': 'agent' } });
    const work = new Function('call', `return (async () => ${call})();`) as (
      call: unknown,
    ) => Promise<unknown>;
    expect(await work(client)).to.deep.equal(shown);
  });

  it('says facts about the caller, and pretends', async () => {
    const page = await open('view=try&endpoint=vessels.list&audience=agent');
    await page.getByText('Late, slow or failing').click();
    await page.getByLabel('status').fill('503');
    await browsing().refused(async () => {
      await page.getByRole('button', { name: 'GET /2026-05/vessels' }).click();
      await page.getByTestId('response').getByText('503', { exact: true }).first().waitFor();
    });
    expect(await page.getByTestId('response').innerText()).to.contain('It is only pretended.');
    await page.getByLabel('status').fill('');
    await page.getByText('Facts about the caller').click();
    await page.getByLabel('caller.operatorId').fill('many');
    await browsing().refused(async () => {
      await page.getByRole('button', { name: 'GET /2026-05/vessels' }).click();
      await page.getByTestId('response').getByText('x-facts: operatorId must be a whole number.').waitFor();
    });
    await page.getByLabel('caller.operatorId').fill('3');
    await page.getByRole('button', { name: 'GET /2026-05/vessels' }).click();
    await page.getByTestId('response').getByText('200').waitFor();
  });

  it('tries row rules on stored rows', async () => {
    const page = await open('view=rows&entity=portCall&caller=halvane');
    const tried = page.getByTestId('tried');
    await tried.getByText(/^halvane sees \d+ of 30\.$/).waitFor();
    const seen = await tried.getByRole('img', { name: 'seen', exact: true }).count();
    const told = Number(/sees (\d+)/.exec(await tried.innerText())?.[1]);
    expect(seen).to.equal(told);
    const list = await fetch(`${running.address}/port-calls?size=100`, {
      headers: { 'x-caller': 'halvane' },
    });
    expect(((await list.json()) as { page: { total: number } }).page.total).to.equal(told);
    const changed = await tried.getByRole('img', { name: 'changed', exact: true }).count();
    expect(changed).to.be.below(told);
    await page.getByLabel('Audience').selectOption('for harbourMaster');
    await tried.getByText('harbourMaster sees 30 of 30.').waitFor();
  });

  describe('drafts', () => {
    const file = join(HARBOUR, 'src/board-draft.ts');
    after(() => rmSync(file, { force: true }));

    it('show what would be sent and taken, and are written as a file that says the same', async () => {
      const page = await open('view=draft&entity=vessel&audience=agent');
      const drafted = page.getByTestId('drafted');
      const table = page.getByTestId('draft');
      for (const name of ['id', 'masterPhone'])
        await table.getByRole('checkbox', { name, exact: true }).check();
      await drafted.getByText('vessel.masterPhone is sealed (personal): say for whom it is.').waitFor();
      await page.getByRole('combobox', { name: 'masterPhone is for' }).click();
      await page.getByRole('option', { name: 'agent', exact: true }).click();
      await page.keyboard.press('Escape');
      await page.getByLabel('id is called').fill('number');
      await table.getByLabel('operator', { exact: true }).selectOption('flat');
      await table.getByRole('checkbox', { name: 'name', exact: true }).last().check();
      await table.getByLabel('portCalls', { exact: true }).selectOption('nest');
      await table.getByRole('checkbox', { name: 'status', exact: true }).check();
      await page.getByRole('combobox', { name: 'portCalls is at' }).click();
      await page.getByRole('listbox', { name: 'portCalls is at' }).getByText('read', { exact: true }).click();
      await page.keyboard.press('Escape');
      await page.getByLabel('builtYear', { exact: true }).last().selectOption('optional');
      const shown = drafted.getByRole('region', { name: 'The response' });
      await shown.getByText('operatorName').waitFor();
      expect(await shown.innerText()).to.not.contain('portCalls');
      await page.getByLabel('Shown at').selectOption('read');
      await shown.getByText('portCalls').waitFor();
      const response = await shown.innerText();
      await page.getByLabel('As a new file').fill('src/board-draft.ts');
      await page.getByRole('button', { name: 'Write it' }).click();
      await page.getByText('src/board-draft.ts is written.').waitFor();
      await browsing().refused(async () => {
        await page.getByRole('button', { name: 'Write it' }).click();
        await page.getByText('src/board-draft.ts is there already: choose another name.').waitFor();
      });
      // What was written declares what was shown.
      const { VesselCard, NewVesselCard } = (await import(file)) as Record<string, { plan: object }>;
      const { samples, loadPlan, memoryStore, writer } = await import('gribo');
      const { db } = await import('../../../examples/harbour/src/model.js');
      const config = (await import('../../../examples/harbour/gribo.config.js')).default;
      const situation = { endpoint: 'vessels.read', audience: 'agent' };
      const body = VesselCard as unknown as Parameters<typeof loadPlan>[0];
      const store = memoryStore(db, samples(db, config.samples) as never);
      const row = await store.read(loadPlan(body, situation), [1]);
      expect(JSON.parse(writer(body, situation as never).json(row as never))).to.deep.equal(
        JSON.parse(response),
      );
      expect(JSON.stringify(NewVesselCard?.plan)).to.include('builtYear');
    });

    it('are written by the board alone, into the project alone', async () => {
      const wish = {
        entity: 'vessel',
        name: 'X',
        members: [{ kind: 'column', column: 'id', name: 'id', audiences: [], endpoints: [] }],
        takes: [],
        audience: null,
        endpoint: null,
        key: null,
        model: './model.js',
      };
      const post = async (headers: Record<string, string>, name: string): Promise<string> => {
        const sent = {
          method: 'POST',
          headers: { 'content-type': 'application/json', ...headers },
          body: JSON.stringify({ wish, file: name }),
        };
        const response = await fetch(`${running.address}/_board/draft`, sent);
        return `${response.status} ${await response.text()}`;
      };
      expect(await post({}, 'src/x.ts')).to.match(/^403/);
      expect(await post({ origin: 'https://elsewhere.example' }, 'src/x.ts')).to.match(/^403/);
      const own = { origin: running.address };
      expect(await post({ ...own, 'sec-fetch-site': 'cross-site' }, 'src/x.ts')).to.match(/^403/);
      const twice = { ...wish, members: [...wish.members, ...wish.members] };
      const wrong = await fetch(`${running.address}/_board/draft`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', origin: running.address },
        body: JSON.stringify({ wish: twice, file: 'src/x.ts' }),
      });
      expect([wrong.status, await wrong.text()]).to.deep.equal([
        422,
        '{"detail":"Two members of X are called id: give one of them another name."}',
      ]);
      for (const name of ['../../x.ts', 'src/x.js', 'node_modules/x.ts', '/tmp/../../x.ts'])
        expect(await post(own, name), name).to.match(/^422 .*(A draft is written as|There is no folder)/);
    });
  });

  it('shows findings and hands out the document', async () => {
    const page = await open('view=contract');
    await page.getByText('vessel.updatedAt').waitFor();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByText('OpenAPI document, JSON').click(),
    ]);
    const document = JSON.parse(readFileSync(await download.path(), 'utf8')) as { openapi: string };
    expect(document.openapi).to.equal('3.1.0');
  });

  it('loads anew when declarations change', async () => {
    const page = await open('entity=vessel');
    await page.waitForSelector('[data-testid=members]');
    await page.waitForTimeout(500);
    const again = page.waitForResponse((response) => response.url().includes('/_board/data'));
    const now = new Date();
    utimesSync(join(HARBOUR, 'src', 'shapes.ts'), now, now);
    expect((await again).status()).to.equal(200);
    await page.waitForSelector('[data-testid=members]');
    await open('view=beside&endpoint=vessels.read&audience=public');
    await page.getByLabel('Beside another response').selectOption('before the last save');
    await page.getByTestId('other').getByText('Nothing is only before the last save.').waitFor();
  });

  it('can be used by everybody, in light and dark, and on a phone', async () => {
    const places = [
      'entity=vessel&audience=harbourMaster',
      'view=rows&audience=agent',
      'view=beside&endpoint=vessels.read',
      'view=try&endpoint=portCalls.create',
      'view=draft&entity=vessel',
      'view=contract',
    ];
    const { page } = browsing();
    for (const colorScheme of ['light', 'dark'] as const) {
      await page.emulateMedia({ colorScheme });
      for (const place of places) {
        await open(place);
        await page.waitForTimeout(400);
        await browsing().checkAccess();
      }
    }
    await page.emulateMedia({ colorScheme: 'light' });
    await page.setViewportSize({ width: 390, height: 844 });
    for (const place of places) {
      await open(place);
      await page.waitForTimeout(400);
      await browsing().checkWidth();
    }
    await page.setViewportSize({ width: 1280, height: 800 });
  });

  it('says what is wrong where its server is gone', async () => {
    const { page } = browsing();
    await page.route('**/_board/data*', (route) =>
      route.fulfill({ status: 500, body: '{"detail":"The store is closed."}' }),
    );
    await browsing().refused(async () => {
      await page.goto('about:blank');
      await page.goto(`${running.address}/_board/`);
      await page.getByRole('alert').getByText('The store is closed.').waitFor();
    });
    await page.unroute('**/_board/data*');
  });

  it('can be copied, to be handed around', async () => {
    rmSync(COPY, { recursive: true, force: true });
    execFileSync(process.execPath, [BIN, 'board', '--out', COPY], { cwd: HARBOUR });
    const copy = await serveFolder(COPY);
    const { page } = browsing();
    await page.goto(`${copy.address}/#entity=berth&audience=harbourMaster`);
    expect(await shown(page)).to.include('gateCode');
    await page.getByRole('tab', { name: 'Beside' }).click();
    await page.waitForSelector('[data-testid=beside]');
    await page.getByRole('tab', { name: 'Try' }).click();
    await page.getByText('There is no API behind it.').waitFor();
    await page.goto('about:blank');
    copy.end();
    rmSync(COPY, { recursive: true, force: true });
  });
});
