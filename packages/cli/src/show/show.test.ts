import { spawn } from 'node:child_process';
import { rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import { project } from '../testing/project.js';
import { BIN, gribo, griboProcess } from '../testing/run-gribo.js';

const CONFIG = `
import { api, bytes, endpoint, entity, integer, list, model, shape, text } from 'gribo';
import { Thing } from './shapes.js';
import { db } from './model.js';
const rows = [{ id: 1, name: 'One', secret: 'hush' }, { id: 2, name: 'Two', secret: 'hush' }];
export default {
  api: api({ title: 'Things', version: '1', endpoints: {
    'things.list': endpoint('GET /things', { from: db.thing, returns: list(Thing) }),
    'things.read': endpoint('GET /things/{id}', { from: db.thing, returns: Thing }),
  } }),
  store: { list: async (plan, { limit }) => rows.slice(0, limit), count: async () => rows.length, read: async (plan, [id]) => rows.find((row) => row.id === id) ?? null },
};
`;
const MODEL = `
import { entity, integer, model, text } from 'gribo';
export const db = model({ thing: entity('thing', { id: integer().key(), name: text(), secret: text().sealed('why not') }) }, {});
`;
const shapes = (member: string): string => `
import { shape } from 'gribo';
import { db } from './model.js';
export const Thing = shape(db.thing, (t) => ({ id: t.id, ${member}: t.name }), { name: 'Thing' });
`;

const things = async (): Promise<string> => {
  const folder = await project(CONFIG);
  await writeFile(join(folder, 'model.ts'), MODEL);
  await writeFile(join(folder, 'shapes.ts'), shapes('label'));
  return folder;
};

describe('gribo show', () => {
  const folders: string[] = [];
  after(() => Promise.all(folders.map((folder) => rm(folder, { recursive: true }))));

  it('shows it as a caller of the configuration sees it', async () => {
    const callsOf = async (...whom: string[]) => {
      const shown = await gribo(['show', 'portCalls.list', '--limit', '100', '--json', ...whom]);
      return JSON.parse(shown.out) as { items: { status: string; eta?: string }[]; page: { total: number } };
    };
    const [open, own, all] = await Promise.all([
      callsOf('--as', 'public'),
      callsOf('--as', 'lantern'),
      callsOf('--audience', 'harbourMaster'),
    ]);
    expect(open.page.total).to.be.below(own.page.total);
    expect(own.page.total).to.be.below(all.page.total);
    expect(open.items.some(({ status }) => status === 'announced')).to.equal(false);
    expect(open.items.some(({ eta }) => eta === undefined)).to.equal(true);
    expect((await gribo(['show', 'portCalls.list', '--as', 'lantrn'])).err).to.contain(
      'Did you mean "lantern"?',
    );
    const inherited = await gribo(['show', 'portCalls.list', '--as', 'constructor']);
    expect(inherited.err).to.contain('There is no caller "constructor".');
    const both = await gribo(['show', 'portCalls.list', '--as', 'public', '--audience', 'agent']);
    expect(both.code).to.not.equal(0);
    expect(both.err).to.contain('--as').and.to.contain('--audience');
  });

  it('shows what an endpoint sends for a stored row', async () => {
    const { code, out } = await gribo(['show', 'vessels.read', '--id', '3']);
    expect(code).to.equal(0);
    expect(out).to.match(
      /^vessels\.read {2}GET \/vessels\/3\n\n\{\n {2}"id": 3,\n {2}"name": "Cormorant Rose"/,
    );
    expect(out).to.match(/\d+ bytes as sent, by the generated engine\n$/);
  });

  it('prints only the response with --json, the same whatever the engine', async () => {
    const [generated, interpreted] = await Promise.all(
      ['generated', 'interpreted'].map((engine) =>
        gribo(['show', 'vessels.list', '--limit', '2', '--json', '--engine', engine]),
      ),
    );
    expect(generated?.out).to.equal(interpreted?.out);
    const { items, page } = JSON.parse(generated?.out ?? '');
    expect(items).to.have.length(2);
    expect(page).to.deep.equal({ number: 1, size: 2, total: 40, pages: 20 });
  });

  it('puts the stored row next to the response', async () => {
    const { code, out } = await gribo(['show', 'vessels.read', '--id', '4', '--beside']);
    expect(code).to.equal(0);
    const lines = out.split('\n').map((line) => line.trimEnd());
    const marked = (mark: string): string =>
      lines.find((line) => line.includes(` ${mark} `) || line.endsWith(` ${mark}`)) ?? '';
    expect(marked('kept')).to.match(/^id +4 +kept +id +4$/);
    expect(marked('renamed')).to.match(/^flagState +"\w\w" +renamed +flag +"\w\w"$/);
    expect(marked('flattened')).to.match(/^operator\.name +flattened operatorName +null$/);
    expect(marked('computed')).to.match(/^builtYear +\d+ +computed +age +\d+$/);
    expect(marked('dropped')).to.match(/^operatorId +null +dropped$/);
    expect(marked('sealed')).to.match(/^masterPhone +\(sealed: personal\) +sealed$/);
    expect(Math.max(...lines.map((line) => line.length))).to.be.at.most(100);
    expect(out).to.not.contain('+00 555');
  });

  it('shows each row of a list beside what is sent of it', async () => {
    const { out } = await gribo([
      'show',
      'pilots.list',
      '--audience',
      'harbourMaster',
      '--limit',
      '2',
      '--beside',
    ]);
    expect(out.match(/stored pilot/g)).to.have.length(2);
    expect(out).to.match(/licence +"A" +converted licence +"any vessel"/);
  });

  it('shows the response for an audience, with what was asked and the fields that were wanted', async () => {
    const read = async (...args: string[]) =>
      JSON.parse((await gribo(['show', 'berths.read', '--id', '2', '--json', ...args])).out);
    const [open, office] = [await read(), await read('--audience', 'harbourMaster')];
    expect(open).to.not.have.any.keys('gateCode', 'calls');
    expect(office).to.include.keys('gateCode', 'calls');
    const asked = [
      'show',
      'vessels.list',
      '--with',
      'operator',
      '--fields',
      'id,operator.name',
      '--limit',
      '1',
      '--json',
    ];
    const [item] = JSON.parse((await gribo(asked)).out).items;
    expect(item).to.have.all.keys('id', 'operator');
    expect(item.operator).to.have.all.keys('name');
    const head = (
      await gribo(['show', 'berths.read', '--id', '2', '--audience', 'agent', '--fields', 'code'])
    ).out;
    expect(head).to.match(/^berths\.read {2}GET \/berths\/2\?fields=code {2}for agent\n/);
  });

  it('shows the children of a parent', async () => {
    const [call] = JSON.parse(
      (await gribo(['show', 'portCalls.list', '--limit', '1', '--json', '--audience', 'agent'])).out,
    ).items;
    const { code, out } = await gribo(['show', 'cargo.list', '--under', call.id, '--json']);
    expect(code).to.equal(0);
    expect(JSON.parse(out)).to.be.an('array');
  });

  it('says in one sentence what was called wrongly, with the nearest names, and exits with 2', async () => {
    const cases: readonly [readonly string[], string][] = [
      [['show', 'vessels.lst'], 'There is no endpoint "vessels.lst". Did you mean "vessels.list"?\n'],
      [['show', 'vessels.read', '--id', 'x'], 'The key id is a whole number, not "x".\n'],
      [['show', 'portCalls.read', '--id', '7'], 'The key id is a UUID, not "7".\n'],
      [['show', 'vessels.read', '--id', '300'], 'There is no vessel with the key 300.\n'],
      [
        ['show', 'vessels.read', '--audience', 'agnt'],
        'There is no audience "agnt". Did you mean "agent"?\n',
      ],
      [
        ['show', 'vessels.list', '--with', 'operatr'],
        'There is nothing called "operatr" to ask for. Did you mean "operator"?\n',
      ],
      [['show', 'vessels.list', '--fields', 'id,nmae'], 'There is no member "nmae". Did you mean "name"?\n'],
      [['show', 'pilots.list'], 'pilots.list answers harbourMaster only: add --audience harbourMaster\n'],
      [['show', 'cargo.list'], 'cargo.list is under a portCall: add --under and its key.\n'],
      [['show', 'berths.list', '--under', '3'], 'berths.list is no child collection: leave out --under.\n'],
      [['show', 'vessels.list', '--limit', '101'], 'size must be a whole number from 1 to 100.\n'],
      [['show', 'vessels.remove'], 'vessels.remove sends no body.\n'],
      [['table', 'berht'], 'No endpoint sends a "berht". Did you mean "berth"?\n'],
      [['show', 'vessels.list', '--config', 'nowhere.ts'], 'There is no file nowhere.ts.\n'],
    ];
    for (const [args, sentence] of cases) {
      const { code, out, err } = await gribo(args);
      expect({ code, out, err }).to.deep.equal({ code: 2, out: '', err: sentence });
    }
    expect((await gribo(['show', 'zzz'])).err).to.contain('There are: vessels.list, ');
    expect((await gribo(['shw'])).err).to.contain("unknown command 'shw'");
    expect((await gribo(['show', 'vessels.list', '--limit', '0'])).code).to.equal(2);
    expect((await gribo(['show', 'vessels.list'], '/')).err).to.contain(
      'Found no gribo.config.ts here or above',
    );
    expect((await gribo(['--help'])).code).to.equal(0);
  });

  it('says what is wrong with a configuration, without a stack trace', async () => {
    const throwing = await project("throw new Error('the database is asleep');");
    const empty = await project('export default { title: 1 };');
    folders.push(throwing, empty);
    expect(await gribo(['show', 'x'], throwing)).to.deep.equal({
      code: 2,
      out: '',
      err: 'gribo.config.ts could not be loaded.\nthe database is asleep\n',
    });
    expect((await gribo(['show', 'x'], empty)).err).to.contain('must export { api, store } as its default');
  });

  it('says so where a configuration or a store never comes, and does not end without a word', async () => {
    const never = await project('await new Promise(() => undefined); export default {};');
    const [head, rest = ''] = CONFIG.split('store:');
    expect(rest).to.not.equal('');
    const stuck = await things();
    await writeFile(
      join(stuck, 'gribo.config.ts'),
      CONFIG.replace(/store: .*/, 'store: () => new Promise(() => undefined),'),
    );
    folders.push(never, stuck);
    expect(head).to.contain('api');
    expect(await griboProcess(['show', 'x'], never)).to.deep.equal({
      code: 2,
      out: '',
      err: 'gribo.config.ts could not be loaded.\nIt waits for something that never comes: look at each `await` in it.\n',
    });
    const { code, err } = await griboProcess(['show', 'things.list'], stuck);
    expect([code, err.includes('waited for something that never comes')]).to.deep.equal([2, true]);
  });

  it('lists what is wrong with a declaration, and exits with 1 where a row does not fit', async () => {
    const folder = await things();
    folders.push(folder);
    await writeFile(join(folder, 'shapes.ts'), shapes('label').replace('t.name', 't.secret'));
    const wrong = await gribo(['show', 'things.list'], folder);
    expect(wrong.code).to.equal(2);
    expect(wrong.err).to.contain('Thing.label: this column is sealed (why not)');
    expect(wrong.err).to.not.contain('    at ');
    await writeFile(
      join(folder, 'shapes.ts'),
      shapes('label').replace('t.name', 't.id').replace('id: t.id', 'id: t.name'),
    );
    await writeFile(join(folder, 'gribo.config.ts'), CONFIG.replace("name: 'One'", 'name: 1'));
    const bad = await gribo(['show', 'things.list'], folder);
    expect(bad).to.deep.include({ code: 1, err: 'Thing[0].id: expected a string, got 1\n' });
  });

  it('prints again when a declaration is saved, errors included', async () => {
    const folder = await things();
    folders.push(folder);
    const child = spawn(process.execPath, [BIN, 'show', 'things.read', '--id', '1', '--watch'], {
      cwd: folder,
    });
    let out = '';
    child.stdout.on('data', (chunk: Buffer) => {
      out += chunk.toString();
    });
    const shown = async (text: string): Promise<void> => {
      while (!out.includes(text) && child.exitCode === null)
        await new Promise((resolve) => setTimeout(resolve, 50));
      expect(out).to.contain(text);
    };
    await shown('"label": "One"');
    await shown('Watching');
    await writeFile(join(folder, 'shapes.ts'), shapes('title'));
    await shown('"title": "One"');
    await writeFile(join(folder, 'shapes.ts'), shapes('title').replace('t.name', 't.nme'));
    await shown('Did you mean "name"?');
    await writeFile(join(folder, 'shapes.ts'), shapes('again'));
    await shown('"again": "One"');
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill('SIGINT');
    expect(await ended).to.equal(0);
  });
});
