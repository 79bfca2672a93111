import { execFile } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { expect } from 'chai';
import { parse } from 'yaml';
import { BIN, gribo, HARBOUR, WORKSPACE } from '../testing/run-gribo.js';

const OUT = '.cache/build-test';
const FOLDER = join(HARBOUR, OUT);
const run = promisify(execFile);

const read = (path: string): string => readFileSync(join(FOLDER, path), 'utf8');

describe('gribo build', () => {
  const build = (...args: string[]) => gribo(['build', '--out', OUT, ...args]);
  before(() => rmSync(FOLDER, { recursive: true, force: true }));
  after(() => rmSync(FOLDER, { recursive: true, force: true }));

  it('writes every part, then only what changed, and removes what is left over', async () => {
    const first = await build();
    expect(first).to.include({ code: 0, err: '' });
    expect(readdirSync(FOLDER).sort()).to.deep.equal([
      'client.ts',
      'contract.json',
      'editions',
      'openapi.json',
      'openapi.yaml',
      'schemas',
      'serializers',
      'types.d.ts',
    ]);
    expect((await build()).out).to.match(/^\S+: 0 files written, \d+ unchanged\n$/);
    writeFileSync(join(FOLDER, 'types.d.ts'), 'stale');
    writeFileSync(join(FOLDER, 'schemas/own.json'), '{}');
    const gone = 'schemas/gone.read.response.json';
    writeFileSync(join(FOLDER, gone), read('schemas/berths.list.response.json'));
    // Serializers take the longest to make, and are what they were.
    const some = ['--only', 'types,schemas'];
    const check = await build('--check', ...some);
    expect(check.code).to.equal(1);
    expect(check.out).to.contain(`+ types.d.ts\n- ${gone}\n`);
    expect(check.err).to.equal('The build is stale: run gribo build.\n');
    expect(read('types.d.ts')).to.equal('stale');
    expect(JSON.parse((await build('--json', ...some)).out))
      .to.include({ folder: OUT })
      .and.deep.include({
        written: ['types.d.ts'],
        removed: [gone],
      });
    expect(existsSync(join(FOLDER, 'schemas/own.json')), 'what it did not make stays').to.equal(true);
    expect((await build('--check', ...some)).code).to.equal(0);
    writeFileSync(join(FOLDER, 'serializers/gone.read.js'), read('serializers/berths.list.js'));
    expect((await build()).out).to.match(/^- serializers\/gone\.read\.js\n\S+: 0 files written/);
  });

  it('says the same in JSON and YAML', () => {
    expect(parse(read('openapi.yaml'))).to.deep.equal(JSON.parse(read('openapi.json')));
    expect(JSON.parse(read('openapi.json'))).to.deep.include({
      servers: [{ url: 'http://127.0.0.1:8080/2026-05', description: 'npm start' }],
    });
  });

  it('writes types and a client that compile, and are of the audience', async () => {
    const use = `import { ApiProblem, connect } from './client.js';
const call = connect<'agent'>({ base: 'http://harbour.test' });
const vessel = await call('vessels.read', { path: { id: 3 } });
export const age: number = vessel.age;
const page = await call('vessels.list', { query: { with: ['operator'], sort: ['name desc'], flag: 'QM' } });
export const first: string | undefined = page.items[0]?.name;
export const gone: null = await call('vessels.remove', { path: { id: 3 } });
await call('vessels.amend', { path: { id: 3 }, body: { name: 'Merel' } });
export const problem = (error: unknown): readonly string[] =>
  error instanceof ApiProblem ? (error.problem.errors ?? []).map(({ message }) => message) : [];
// @ts-expect-error its path has a parameter
await call('vessels.read');
// @ts-expect-error agents do not see it
vessel.masterPhone;
// @ts-expect-error there is no such choice
await call('vessels.amend', { path: { id: 3 }, body: { kind: 'submarine' } });
import { json } from './serializers/vessels.read.agent.js';
export const text: string = json({});
`;
    writeFileSync(join(FOLDER, 'use.ts'), use);
    writeFileSync(join(FOLDER, 'package.json'), '{"type":"module"}');
    const tsc = join(WORKSPACE, 'node_modules/typescript/bin/tsc');
    const flags =
      '--ignoreConfig --noEmit --strict --exactOptionalPropertyTypes --module nodenext --target es2022 --lib es2023,dom,dom.iterable --types';
    await run(process.execPath, [tsc, ...flags.split(' '), 'node', 'use.ts'], { cwd: FOLDER }).catch(
      (error: { stdout: string }) => expect.fail(error.stdout),
    );
  });

  it('writes some parts only, and knows their names', async () => {
    rmSync(FOLDER, { recursive: true, force: true });
    expect((await build('--only', 'contract,types')).code).to.equal(0);
    expect(readdirSync(FOLDER).sort()).to.deep.equal(['contract.json', 'editions', 'types.d.ts']);
    const wrong = await build('--only', 'contracts');
    expect(wrong).to.include({ code: 2 });
    expect(wrong.err).to.contain('There is no part "contracts". Did you mean "contract"?');
  });

  it('keeps the committed contract, types and client of the harbour up to date', async () => {
    const { out } = await gribo(['build', '--only', 'types,client,contract,openapi', '--check', '--json']);
    const { written, removed } = JSON.parse(out) as Record<'written' | 'removed', string[]>;
    // Those of earlier editions are published, and not built into the repository.
    const stale = written.filter((path) => !path.startsWith('editions/') && !path.endsWith('.yaml'));
    expect([stale, removed], 'npm run generate -w examples/harbour').to.deep.equal([[], []]);
  });

  it('changes nothing where a file cannot be written, and says which', async () => {
    await build('--only', 'contract,types');
    const before = [read('contract.json'), read('types.d.ts')];
    for (const path of ['contract.json', 'types.d.ts']) writeFileSync(join(FOLDER, path), 'stale');
    // No file may have more than 8 blocks: as on a disk that is full, what is longer fails midway.
    const command = `ulimit -f 8; exec ${process.execPath} ${BIN} build --out ${OUT} --only contract,types`;
    const { code, stderr } = await run('bash', ['-c', command], {
      cwd: HARBOUR,
      env: { ...process.env, LC_ALL: 'C' },
    }).then(
      () => ({ code: 0, stderr: '' }),
      (error: { code: number; stderr: string }) => error,
    );
    expect(code).to.equal(2);
    expect(stderr).to.match(
      /^\S*(?:contract\.json|types\.d\.ts) could not be written, so nothing was: EFBIG/,
    );
    expect(readdirSync(FOLDER).sort()).to.deep.equal(['contract.json', 'editions', 'types.d.ts']);
    expect([read('contract.json'), read('types.d.ts')]).to.deep.equal(['stale', 'stale']);
    expect((await build('--only', 'contract,types')).code).to.equal(0);
    expect([read('contract.json'), read('types.d.ts')]).to.deep.equal(before);
  });

  it('names the members whose functions no module exports, and writes the rest', async () => {
    const folder = join(WORKSPACE, '.cache', 'build-functions');
    mkdirSync(folder, { recursive: true });
    writeFileSync(
      join(folder, 'gribo.config.ts'),
      `import { api, collection, derive, entity, integer, list, memoryStore, model, shape, text } from 'gribo';
const db = model({ tide: entity('tide', { id: integer().key(), height: integer() }) }, {});
const Tide = shape(db.tide, (t) => ({ id: t.id, words: derive([t.height], text(), (height) => height + ' m') }), { name: 'Tide' });
const Plain = shape(db.tide, (t) => ({ id: t.id }), { name: 'Plain' });
export default {
  api: api({ title: 'Tides', version: '1.0.0', endpoints: { 'tides/../now': collection('/tides', db.tide, { list: list(Plain), read: Tide }) } }),
  store: memoryStore(db),
};
`,
    );
    const { code, err } = await gribo(['build', '--only', 'serializers'], folder);
    expect(code).to.equal(1);
    expect(err).to.contain('1 member calls a function').and.contain('  Tide.words');
    expect(readdirSync(join(folder, 'generated/serializers'))).to.deep.equal([
      'tides_.._now.list.d.ts',
      'tides_.._now.list.js',
    ]);
    rmSync(folder, { recursive: true, force: true });
  });

  it('writes nothing where two endpoints would be one file', async () => {
    const folder = join(WORKSPACE, '.cache', 'build-alike');
    mkdirSync(folder, { recursive: true });
    writeFileSync(
      join(folder, 'gribo.config.ts'),
      `import { api, endpoint, entity, integer, list, memoryStore, model, shape } from 'gribo';
const db = model({ tide: entity('tide', { id: integer().key() }) }, {});
const Tide = shape(db.tide, (t) => ({ id: t.id }), { name: 'Tide' });
export default {
  api: api({ title: 'Tides', version: '1.0.0', endpoints: {
    'tides/now': endpoint('GET /tides', { from: db.tide, returns: list(Tide) }),
    'Tides_now': endpoint('GET /others', { from: db.tide, returns: list(Tide) }),
  } }),
  store: memoryStore(db),
};
`,
    );
    const { code, err } = await gribo(['build', '--only', 'schemas'], folder);
    expect(code).to.equal(2);
    expect(err)
      .to.contain('schemas/tides_now.response.json and schemas/Tides_now.response.json')
      .and.contain('give one of them another name');
    expect(existsSync(join(folder, 'generated'))).to.equal(false);
    rmSync(folder, { recursive: true, force: true });
  });
});
