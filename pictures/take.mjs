// npm run pictures: takes those of docs/screenshots anew, all or the named ones, of the harbour as it was built last.
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { chromium } from 'playwright-core';
import { runServer } from '../packages/board/src/testing/run-server.js';
import { PAGES, TERMINALS } from './pictures.mjs';
import { drawn, typed } from './terminal.mjs';

const HARBOUR = resolve('examples/harbour');
const BIN = resolve('packages/cli/bin/gribo.js');
const executablePath = [
  process.env.CHROMIUM,
  '/usr/bin/chromium',
  '/usr/bin/chromium-browser',
  '/usr/bin/google-chrome',
].find((path) => path !== undefined && existsSync(path));
if (executablePath === undefined) throw new Error('There is no Chromium here: name one in CHROMIUM.');

const SERVERS = {
  board: () => runServer([BIN, 'serve', '--samples', '--port', '8099'], HARBOUR),
  quayside: () => runServer(['build/server.js'], resolve('examples/quayside')),
  workbench: () =>
    runServer(
      [resolve('node_modules/vite/bin/vite.js'), 'preview', '--port', '0', '--host', '127.0.0.1'],
      resolve('examples/workbench'),
    ),
};

const names = process.argv.slice(2);
const wanted = (all) => Object.entries(all).filter(([name]) => names.length === 0 || names.includes(name));
const pathOf = (name) => `docs/screenshots/${name}.png`;

/** When an answer was sent is of no interest, and another each day. */
const steady = (printed) => printed.replaceAll(/\r+\n/g, '\n').replaceAll(/^date: .*\n/gim, '');

const PROJECT = resolve('.cache/pictures');

/** A project with a database, and nothing else. */
const newProject = () => {
  const cache = join(HARBOUR, '.cache');
  typed('gribo show vessels.read --id 1', HARBOUR);
  const dump = readdirSync(cache).find((name) => /^harbour-.*\.tar$/.test(name));
  rmSync(PROJECT, { recursive: true, force: true });
  mkdirSync(join(PROJECT, 'harbour-db'), { recursive: true });
  execFileSync('tar', ['xf', join(cache, dump), '-C', join(PROJECT, 'harbour-db')], { stdio: 'ignore' });
  return PROJECT;
};

const browser = await chromium.launch({
  executablePath,
  args: ['--no-sandbox', '--disable-gpu', '--no-first-run', '--disable-background-networking'],
});
const page = await browser.newPage({
  viewport: { width: 1280, height: 800 },
  locale: 'en-GB',
  timezoneId: 'UTC',
});
try {
  for (const [name, { lines, folder: cwd, empty, served }] of wanted(TERMINALS)) {
    const server =
      served === undefined ? null : await runServer([BIN, 'serve', '--port', String(served)], HARBOUR);
    const at = empty ? newProject() : resolve(HARBOUR, cwd ?? '.');
    const printed = lines.map((line) => `$ ${line}\n${steady(typed(line, at))}`).join('\n');
    await server?.end();
    await drawn(page, printed, pathOf(name));
    console.log(pathOf(name));
  }
  const running = new Map();
  for (const [name, { of, place, act }] of wanted(PAGES)) {
    if (!running.has(of)) running.set(of, await SERVERS[of]());
    await page.goto('about:blank');
    await page.goto(running.get(of).address + place, { waitUntil: 'networkidle' });
    await act(page);
    await page.waitForTimeout(500);
    await page.screenshot({ path: pathOf(name) });
    console.log(pathOf(name));
  }
  for (const { end } of running.values()) await end();
} finally {
  await browser.close();
  rmSync(PROJECT, { recursive: true, force: true });
}
