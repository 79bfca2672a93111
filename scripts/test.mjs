// Runs the tests: all of them, or those that are named. `--laws`: the laws alone, each with all of its cases. `--days`: what looks at
// dates, on other days and in other places. With `GRIBO_DAY=2031-03-30T01:30` tests find that day, whatever day it is.
import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';

const MOCHA = 'node_modules/mocha/bin/mocha.js';
const REPORTER = './scripts/summing-reporter.cjs';

/** A leap day; the night of a change to summer time, at an hour that it leaves out; the day after an edition of the demo has ended. */
const DAYS = [
  { GRIBO_DAY: '2028-02-29T23:45', TZ: 'Asia/Kathmandu', LC_ALL: 'C.UTF-8' },
  { GRIBO_DAY: '2031-03-30T01:30', TZ: 'Europe/Lisbon', LC_ALL: 'de_DE.UTF-8' },
  { GRIBO_DAY: '2027-01-02T00:30', TZ: 'Pacific/Apia', LC_ALL: 'ar_EG.UTF-8' },
];

const FOLDERS = ['docs', 'packages', 'examples'];

/** The files of tests whose text has a pattern. */
const filesWith = (pattern) =>
  FOLDERS.flatMap((folder) => readdirSync(folder, { recursive: true }).map((file) => join(folder, file)))
    .filter((file) => file.endsWith('.test.ts') && !file.includes('node_modules'))
    .filter((file) => pattern.test(readFileSync(file, 'utf8')));

/** Mocha, for some files. */
const SOME = ['--config', '.mocharc.one.json', '--parallel', '--jobs', '2', '--reporter', REPORTER];

/** Where the tests find another day, so does all that they start. */
const environment = (env) => {
  if (env.GRIBO_DAY === undefined) return env;
  const loaded = `--import=${pathToFileURL('scripts/another-day.mjs').href}`;
  return { ...env, NODE_OPTIONS: `${env.NODE_OPTIONS ?? ''} ${loaded}`.trim() };
};

const mocha = (args, more = {}) => {
  const env = environment({ ...process.env, ...more });
  const { status } = spawnSync(process.execPath, [MOCHA, ...args], { stdio: 'inherit', env });
  if (status !== 0) process.exitCode = 1;
};

/** What is looked at again on other days: what makes, reads or says dates. */
const DATED = /new Date\b|sunset|toLocale|stamped|answersOf|LATER/;
/** A server has a day of its own, and so has a browser. */
const WITHOUT = { GRIBO_POSTGRES: undefined, GRIBO_MARIADB: undefined, CHROMIUM: undefined };

const [first, ...rest] = process.argv.slice(2);
if (first === '--laws')
  mocha([...SOME, ...rest, ...filesWith(/\/testing\/cases\.js'/)], { GRIBO_LAWS: 'all' });
else if (first === '--days')
  for (const day of DAYS) {
    console.log(
      `\n${Object.entries(day)
        .map((one) => one.join('='))
        .join(' ')}`,
    );
    const files = filesWith(DATED).filter((file) => !file.includes('board'));
    mocha([...SOME, ...rest, ...files], { ...WITHOUT, ...day });
  }
else mocha(['--reporter', REPORTER, ...process.argv.slice(2)]);
