// What docs/pictures.md shows, a row each: what is typed in the harbour, or what is done on a page of an example.

/** What a terminal shows after these lines; `setup` is done before, and not shown. */
export const TERMINALS = {
  demo: { lines: ['npm run demo'], folder: '.' },
  'show-beside': { lines: ['gribo show vessels.read --id 3 --audience harbourMaster --beside'] },
  'show-sql': {
    lines: [
      'gribo show portCalls.read --id d8acec86-e246-4130-be76-da0a4a84cf75 --audience agent --with cargo --sql',
    ],
  },
  table: { lines: ['gribo table berth'] },
  'table-rows': { lines: ['gribo table --rows', 'gribo table portCall --inputs'] },
  try: { lines: ['gribo try portCalls.create --body bodies/wrong-call.json'] },
  'try-steps': { lines: ['gribo try portCalls.create --body bodies/call.json'] },
  scan: {
    lines: [
      'gribo scan pglite:harbour-db --start',
      'gribo show vessel.list --limit 1',
      "grep -A9 'const pilot =' gribo/model.ts",
    ],
    empty: true,
  },
  trace: { lines: ['gribo trace vessel.masterPhone', 'gribo trace vessels.read/portCalls'] },
  check: { lines: ['gribo check'] },
  diff: { lines: ['gribo diff 2025-11 2026-05'] },
  serve: {
    served: 8099,
    lines: [
      "curl 'http://127.0.0.1:8099/vessels?size=3&sort=builtYear+desc' -H 'Accept: text/csv'",
      "curl http://127.0.0.1:8099/berths/2 -H 'Accept: application/xml' -H 'Authorization: Bearer demo-office'",
      "curl 'http://127.0.0.1:8099/vessels?flga=QM'",
      `curl http://127.0.0.1:8099/2026-05/vessels -H 'Content-Type: application/json' -H 'Authorization: Bearer demo-agent' -d '{"name":"Anselma","kind":"submarine"}'`,
      "curl http://127.0.0.1:8099/vessels/3 -X DELETE -H 'Cookie: session=7' -H 'Origin: https://elsewhere.example'",
      `curl 'http://127.0.0.1:8099/port-calls/34d8cdca-fb9f-4d81-ac05-7bac906bd6c5/cancel?dryRun' -H 'Content-Type: application/json' -H 'Authorization: Bearer demo-office' -d '{"reason":"storm"}'`,
      "curl -I 'http://127.0.0.1:8099/vessels?size=5'",
      "curl -D - -o /dev/null http://127.0.0.1:8099/2026-05/vessels/1/photo -H 'Range: bytes=0-63'",
      'curl http://127.0.0.1:8099/2027-01/vessels',
    ],
  },
};

const board = (place, act = async () => {}) => ({ of: 'board', place: `/_board/#${place}`, act });

const fillTry = async (page) => {
  await page.getByRole('textbox', { name: 'builtAfter' }).fill('1990');
  await page.getByRole('textbox', { name: 'size' }).fill('2');
  await page.getByRole('combobox', { name: 'fields' }).click();
  for (const name of ['id', 'name', 'operatorName'])
    await page.getByRole('option', { name, exact: true }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^GET / }).click();
  await page.getByTestId('response').getByText('200').first().waitFor();
};

const fillDraft = async (page) => {
  const table = page.getByTestId('draft');
  for (const name of ['id', 'masterPhone']) await table.getByRole('checkbox', { name, exact: true }).check();
  await table.getByRole('checkbox', { name: 'name', exact: true }).first().check();
  await page.getByRole('combobox', { name: 'masterPhone is for' }).click();
  await page.getByRole('option', { name: 'agent', exact: true }).click();
  await page.keyboard.press('Escape');
  await page.evaluate(() => window.scrollTo(0, 0));
};

/** What a page shows at a place, once something was done on it. */
export const PAGES = {
  'board-table': board('view=table&entity=vessel&audience=harbourMaster'),
  'board-beside': board('view=beside&endpoint=vessels.read&audience=harbourMaster'),
  'board-try': board('view=try&endpoint=vessels.list&audience=agent', fillTry),
  'board-draft': board('view=draft&entity=vessel&audience=agent', fillDraft),
  'board-contract': board('view=contract'),
  quayside: {
    of: 'quayside',
    place: '/#arrivals',
    act: (page) => page.waitForSelector('[data-testid=arrivals] li'),
  },
  workbench: {
    of: 'workbench',
    place: '/',
    act: (page) => page.locator('section[aria-label=Response]').getByText('"operator"').first().waitFor(),
  },
};
