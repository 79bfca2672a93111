import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import type { Retiring } from '../retire/retiring.js';
import { gribo, WORKSPACE } from '../testing/run-gribo.js';

/** A project of two editions; `also` is what else the shape of both has. */
const project = (also = ''): string => `
import { api, collection, constant, editionBefore, editionFrom, entity, given, input, integer, list, memoryStore, model, page, preset, shape, text } from 'gribo';
const db = model({ buoy: entity('buoy', { id: integer().key(), name: text(), light: text(), depth: integer() }) }, {});
const Buoy = shape(db.buoy, (b) => ({
  id: b.id,
  name: given(editionBefore('2026-05'), b.name),
  title: given(editionFrom('2026-05'), b.name),
  depth: given(editionFrom('2026-05'), { value: b.depth, unit: constant('m') }, b.depth),
  ${also}
}), { name: 'Buoy' });
const NewBuoy = input(db.buoy, (b) => ({
  id: b.id,
  name: given(editionBefore('2026-05'), b.name),
  title: given(editionFrom('2026-05'), b.name),
  light: given(editionFrom('2026-05'), b.light, preset(b.light, 'red')),
  depth: b.depth,
}), { name: 'NewBuoy' });
export default {
  api: api({ title: 'Buoys', version: '1.0.0',
    editions: [{ name: '2025-11', deprecated: { sunset: '2026-12-31' } }, '2026-05'],
    endpoints: {
      buoys: collection('/buoys', db.buoy, {
        list: given(editionFrom('2026-05'), page(Buoy, { size: 2 }), list(Buoy)),
        read: Buoy,
        create: { takes: NewBuoy, returns: Buoy },
      }),
    } }),
  model: db,
  samples: { seed: 'buoys', rows: { buoy: 2 } },
  now: () => new Date(process.env.GRIBO_TEST_NOW ?? '2026-11-29T00:00:00Z'),
  store: () => memoryStore(db, { buoy: [{ id: 1, name: 'Spar', light: 'red', depth: 7 }] }),
};
`;

describe('editions on the command line', () => {
  let folder = '';
  const run = (...args: string[]) => gribo(args, folder);
  before(() => {
    mkdirSync(join(WORKSPACE, '.cache'), { recursive: true });
    folder = mkdtempSync(join(WORKSPACE, '.cache', 'editions-'));
    writeFileSync(join(folder, 'gribo.config.ts'), project());
  });
  after(() => rmSync(folder, { recursive: true }));

  it('are shown one by one', async () => {
    const shown = async (...edition: string[]) =>
      JSON.parse((await run('show', 'buoys.read', '--id', '1', '--json', ...edition)).out) as object;
    expect(await shown('--edition', '2025-11')).to.deep.equal({ id: 1, name: 'Spar', depth: 7 });
    expect(await shown()).to.deep.equal({ id: 1, title: 'Spar', depth: { value: 7, unit: 'm' } });
    expect((await run('table', 'buoy', '--edition', '2025-11')).out)
      .to.contain('name')
      .and.not.contain('title');
    expect((await run('trace', 'buoy.name', '--edition', '2025-11')).out)
      .to.contain('buoys.list, ')
      .and.not.contain('title');
    writeFileSync(join(folder, 'body.json'), '{ "id": 2, "name": "Can", "depth": 3 }');
    const tried = async (...edition: string[]) =>
      run('try', 'buoys.create', '--body', 'body.json', ...edition);
    expect((await tried('--edition', '2025-11')).out)
      .to.contain('name')
      .and.contain('Can');
    const refused = await tried();
    expect([refused.code, refused.out + refused.err]).to.satisfy(
      ([code, out]: [number, string]) => code === 1 && out.includes('title') && out.includes('light'),
    );
    const wrong = await run('show', 'buoys.read', '--edition', '2027');
    expect(wrong).to.deep.include({
      code: 2,
      err: 'There is no edition "2027". There are: 2025-11, 2026-05.\n',
    });
  });

  it('are built, the newest where the only one would be', async () => {
    expect((await run('build', '--only', 'contract,types,client,schemas')).code).to.equal(0);
    const out = join(folder, 'generated');
    expect(readdirSync(out).sort()).to.deep.equal([
      'client.ts',
      'contract.json',
      'editions',
      'schemas',
      'types.d.ts',
    ]);
    const contract = (path: string) =>
      (JSON.parse(readFileSync(join(out, path, 'contract.json'), 'utf8')) as { edition: string }).edition;
    expect([contract(''), contract('editions/2025-11')]).to.deep.equal(['2026-05', '2025-11']);
    expect(readFileSync(join(out, 'editions/2025-11/client.ts'), 'utf8')).to.contain(
      'export const edition = "2025-11";',
    );
    // What is left over in the folder of an edition goes too.
    writeFileSync(
      join(out, 'editions/2025-11/schemas/gone.json'),
      readFileSync(join(out, 'editions/2025-11/schemas/buoys.read.response.json')),
    );
    expect((await run('build', '--only', 'contract,types,client,schemas')).out).to.contain(
      '- editions/2025-11/schemas/gone.json',
    );
  });

  it('do not change once they are published', async () => {
    const first = await run('publish', '2025-11');
    expect(first).to.deep.include({ code: 0, err: '' });
    expect(first.out).to.contain('+ contracts/2025-11.json: 2025-11 with 3 endpoints, 1 shape, 1 input');
    expect((await run('publish', '2025-11')).out).to.equal(
      'contracts/2025-11.json: 2025-11 is as it was published.\n',
    );
    const kept = readFileSync(join(folder, 'contracts/2025-11.json'), 'utf8');
    expect((await run('check')).out).to.not.contain('published-changed');

    writeFileSync(join(folder, 'gribo.config.ts'), project('light: b.light,'));
    const checked = await run('check');
    expect(checked.code).to.equal(1);
    expect(checked.out)
      .to.contain('error  published-changed')
      .and.match(/edition 2025-11\/buoys\.list\/light +It is new\./);
    const sarif = JSON.parse((await run('check', '--sarif')).out) as {
      runs: { results: { ruleId: string }[] }[];
    };
    expect(sarif.runs[0]?.results.map(({ ruleId }) => ruleId)).to.contain('published-changed');
    const refused = await run('publish', '2025-11');
    expect(refused.code).to.equal(1);
    expect(refused.out).to.contain('light  It is new.');
    expect(refused.err).to.contain('give it back what it had, or keep what it is now with --again');
    expect(readFileSync(join(folder, 'contracts/2025-11.json'), 'utf8')).to.equal(kept);
    expect((await run('publish', '2025-11', '--again')).code).to.equal(0);
    expect((await run('check')).out).to.not.contain('published-changed');
    // In the later one alone, it is none of the published one's business.
    writeFileSync(
      join(folder, 'gribo.config.ts'),
      project("light: b.light,\n  more: given(editionFrom('2026-05'), b.light),"),
    );
    expect((await run('check')).out).to.not.contain('published-changed');
    rmSync(join(folder, 'contracts'), { recursive: true });
    writeFileSync(join(folder, 'gribo.config.ts'), project());
  });

  it('are compared, with notes for those who move', async () => {
    const compared = await run('diff', '2025-11', '2026-05');
    // Nobody has to leave the one for the other.
    expect(compared).to.include({ code: 0, err: '' });
    expect(compared.out).to.contain('name  It is not there any more.');
    const { out } = await run('diff', '2025-11', '2026-05', '--notes');
    expect(out)
      .to.contain('# Buoys: from 2025-11 to 2026-05')
      .and.contain('begin paths with `/2026-05` instead of `/2025-11`')
      .and.contain('until the end of 2026-12-31, and with 410 after that')
      .and.contain('### `name` → `title` in answers')
      .and.contain('**Read `title` instead of `name`.**')
      .and.contain('### `name` → `title` in what you send')
      .and.contain('**Send `title` instead of `name`.**')
      .and.contain('"unit": "m"')
      .and.contain('It is required; it was preset to "red". **Send `light` always.**')
      .and.contain('the rows are its `items`');
    // Of a list that became a page, each member is not told as gone.
    expect(out).to.not.contain('`items` in answers');
    expect((await run('diff', '2026-05', '2026-05', '--notes')).out).to.contain('Nothing differs.');
    // A folder that is called as an edition is no contract.
    mkdirSync(join(folder, '2026-05'), { recursive: true });
    expect((await run('diff', '2025-11', '2026-05')).out).to.equal(compared.out);
    rmSync(join(folder, '2026-05'), { recursive: true });
    const both = await run('diff', '2025-11', '2026-05', '--notes', '--json');
    expect([both.code, both.err]).to.deep.equal([
      2,
      "option '--notes' cannot be used with option '--json'\n",
    ]);
    const files = await run('diff', 'none.json', '--notes');
    expect(files).to.include({ code: 2 });
  });

  it('say what goes with them, and that they have ended', async () => {
    const lines = JSON.parse((await run('retire', '2025-11', '--json')).out) as Retiring[];
    expect(lines.map(({ condition, holds }) => [condition, holds])).to.deep.equal([
      ["editionBefore('2026-05')", false],
      ["editionFrom('2026-05')", true],
      ["editionFrom('2026-05')", true],
      ["editionBefore('2026-05')", false],
      ["editionFrom('2026-05')", true],
      ["editionFrom('2026-05')", true],
      ["editionFrom('2026-05')", true],
    ]);
    const { out } = await run('retire', '2025-11');
    expect(out)
      .to.match(/gribo\.config\.ts:6 +name: given\(editionBefore\('2026-05'\), b\.name\),/)
      .and.contain('Never holds then: drop what is given')
      .and.contain('7 conditions of 2025-11');
    expect((await run('retire', '2026-05')).err).to.equal(
      'Editions go oldest first: gribo retire 2025-11. There are: 2025-11, 2026-05.\n',
    );
    const elsewhere = `light: given(editionFrom(NEXT), b.light),
  marked: given(editionBefore(
    "2026-05",
  ), b.light),`;
    writeFileSync(join(folder, 'gribo.config.ts'), `const NEXT = '2026-05';${project(elsewhere)}`);
    const unsure = (await run('retire', '2025-11')).out;
    expect(unsure)
      .to.match(/marked: given\(editionBefore\(\n/)
      .and.match(
        /look whether it is this one or the next\n {2}gribo\.config\.ts:\d+ +light: given\(editionFrom\(NEXT\)/,
      )
      .and.contain('8 conditions of 2025-11');
    writeFileSync(join(folder, 'gribo.config.ts'), project());
    process.env['GRIBO_TEST_NOW'] = '2027-01-01T00:00:00Z';
    const ended = await run('check');
    writeFileSync(
      join(folder, 'gribo.config.ts'),
      `import { api, editionFrom, endpoint, entity, given, integer, list, memoryStore, model, shape } from 'gribo';
const db = model({ buoy: entity('buoy', { id: integer().key(), depth: integer() }) }, {});
const Buoy = shape(db.buoy, (b) => ({ id: b.id, depth: given(editionFrom('2026-05'), b.depth) }), { name: 'Buoy' });
export default {
  api: api({ title: 'Buoys', version: '1', editions: [{ name: '2025-11', deprecated: { sunset: '2026-12-31' } }, '2026-05'],
    endpoints: { all: endpoint('GET /buoys', { from: db.buoy, returns: list(Buoy) }) } }),
  model: db,
  now: () => new Date('2027-01-01T00:00:00Z'),
  store: () => memoryStore(db),
};
`,
    );
    expect((await run('check')).out).to.match(/1\s+condition\s+is\s+there/);
    writeFileSync(join(folder, 'gribo.config.ts'), project());
    delete process.env['GRIBO_TEST_NOW'];
    expect(ended.out)
      .to.contain('edition-ended')
      .and.match(/7\s+conditions\s+are\s+there/);
    expect(existsSync(join(folder, 'contracts'))).to.equal(false);
  });
});
