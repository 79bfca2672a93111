import { spawnSync } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { HOME, programOf } from './load.js';

const FOLDER = join(HOME, '.cache/runners');

/** A test that passes and one that does not, for whichever runner has `test`. */
const source = (head: string): string => `${head}
import { api, collection, entity, integer, list, model, shape, text } from 'gribo';
import { assertAnswer, factory, testServer } from '@gribo/testing';

const db = model({ buoy: entity('buoy', { id: integer().key(), name: text(), code: text().sealed('credential') }) }, {});
const Buoy = shape(db.buoy, ({ id, name }) => ({ id, name }));
const buoys = api({ title: 'Buoys', version: '1', endpoints: { buoys: collection('/buoys', db.buoy, { list: list(Buoy), read: Buoy }) } });
const make = factory(db);
make('buoy', { id: 1, name: 'North' });
const server = testServer(buoys, db, { rows: make.rows() });

test('it is exact', async () => {
  const response = await server.ask('GET /buoys/1');
  assertAnswer(buoys, 'buoys.read', await response.json());
});
test('it leaks', async () => {
  const response = await server.ask('GET /buoys/1');
  assertAnswer(buoys, 'buoys.read', { ...(await response.json()), code: 'hush' });
});
`;

const bin = (name: string): string => join(HOME, 'node_modules/.bin', name);

const RUNNERS: readonly (readonly [
  name: string,
  head: string,
  command: string,
  args: readonly string[],
  passed: RegExp,
])[] = [
  [
    'node:test',
    "import { test } from 'node:test';",
    process.execPath,
    ['--test', 'exact.test.mjs'],
    /pass 1\b/,
  ],
  [
    'Vitest',
    "import { test } from 'vitest';",
    bin('vitest'),
    ['run', '--root', FOLDER, 'exact.test.mjs'],
    /1 passed/,
  ],
  [
    'Jest',
    '',
    process.execPath,
    [
      '--experimental-vm-modules',
      bin('jest'),
      '--rootDir',
      FOLDER,
      '--config',
      '{"testMatch":["**/exact.test.mjs"],"transform":{}}',
    ],
    /1 passed/,
  ],
];

describe('the testing kit in runners of others', () => {
  for (const [name, head, command, args, passed] of RUNNERS) {
    it(name, function () {
      if (args[0] !== '--test' && programOf(name.toLowerCase()) === null) return this.skip();
      rmSync(FOLDER, { recursive: true, force: true });
      mkdirSync(FOLDER, { recursive: true });
      writeFileSync(join(FOLDER, 'exact.test.mjs'), source(head));
      const env = { ...process.env, NO_COLOR: '1', FORCE_COLOR: '0', NODE_OPTIONS: '' };
      const { status, stdout, stderr } = spawnSync(command, args, { cwd: FOLDER, env, encoding: 'utf8' });
      const said = stdout + stderr;
      expect(status, said).to.equal(1);
      expect(said).to.match(passed);
      expect(said)
        .to.include('+ code  a string  not declared here: buoy.code, sealed (credential)')
        .and.not.include('hush"');
    });
  }
});
