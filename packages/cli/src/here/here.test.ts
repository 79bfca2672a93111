import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { gribo, WORKSPACE } from '../testing/run-gribo.js';
import type { HereData } from './here-data.js';

const BUOYS = `
import { api, collection, endpoint, entity, input, integer, list, memoryStore, model, shape, text } from 'gribo';
const db = model({ buoy: entity('buoy', { id: integer().key().generated(), name: text() }) }, {});
const Buoy = shape(db.buoy, ({ id, name }) => ({ id, name }));
export default {
  api: api({ title: 'Buoys', version: '1', endpoints: {
    buoys: collection('/buoys', db.buoy, { list: list(Buoy), read: Buoy }),
    light: endpoint('POST /buoys/{id}/light', { from: db.buoy, returns: Buoy }),
  } }),
  store: () => { throw new Error('the store was opened'); },
};
`;

describe('gribo here', () => {
  it('says what a project has and what comes next, also without a command', async () => {
    const bare = await gribo([]);
    expect(bare).to.include({ code: 0, err: '' });
    expect(bare.out).to.equal((await gribo(['here'])).out);
    expect(bare.out)
      .to.match(/^Merrow Harbour Office \d+\.\d+\.\d+ {2}gribo\.config\.ts\n/)
      .and.match(/\n {2}audiences +public, agent, harbourMaster\n/)
      .and.match(/\n {2}gribo serve --samples +the API and its board/);
    const data = JSON.parse((await gribo(['here', '--json'])).out) as HereData;
    expect(data).to.deep.include({ title: 'Merrow Harbour Office', withoutHandler: [] });
    expect(data.next.map(({ what }) => what)).to.include.members(['gribo table', 'gribo check']);
    const checked = JSON.parse((await gribo(['check', '--no-drift', '--json'])).out) as HereData;
    expect(data.findings).to.have.length(checked.findings.length);
    // What it tells to run can be run.
    const [show = ''] = data.next.map(({ what }) => what).filter((what) => what.startsWith('gribo show'));
    expect((await gribo(show.split(' ').slice(1))).code).to.equal(0);
  });

  it('says what is missing, and opens no store', async () => {
    mkdirSync(join(WORKSPACE, '.cache'), { recursive: true });
    const folder = mkdtempSync(join(WORKSPACE, '.cache', 'here-'));
    writeFileSync(join(folder, 'gribo.config.ts'), BUOYS);
    const { code, out } = await gribo([], folder);
    expect(code).to.equal(0);
    expect(out)
      .to.contain('everybody is answered alike')
      .and.contain('the configuration names no model')
      .and.contain('none for light')
      .and.contain('not built yet: generated');
    rmSync(folder, { recursive: true });
  });

  it('says how a project begins where there is none', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'gribo-here-'));
    const { code, out } = await gribo([], folder);
    expect(code).to.equal(0);
    expect(out)
      .to.match(/^There is no gribo\.config\.ts here or above\.\n/)
      .and.contain('gribo scan');
    expect(JSON.parse((await gribo(['here', '--json'], folder)).out)).to.have.property('config', null);
    expect((await gribo(['shw'], folder)).err).to.contain("unknown command 'shw'");
    rmSync(folder, { recursive: true });
  });
});
