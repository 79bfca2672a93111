import { spawn } from 'node:child_process';
import { expect } from 'chai';
import { BIN, HARBOUR } from '../testing/run-gribo.js';

describe('gribo play', () => {
  it('has the library, the configuration’s names and stored rows at hand', async () => {
    const child = spawn(process.execPath, [BIN, 'play'], { cwd: HARBOUR });
    let out = '';
    child.stdout.on('data', (chunk: Buffer) => {
      out += chunk.toString();
    });
    const ended = new Promise((resolve) => child.once('exit', resolve));
    const prompts = (): number => out.split('gribo> ').length - 1;
    const type = async (line: string): Promise<void> => {
      const before = prompts();
      if (line !== '') child.stdin.write(`${line}\n`);
      while (prompts() === before && child.exitCode === null)
        await new Promise((resolve) => setTimeout(resolve, 50));
    };
    await type('');
    await type("const vessel = await row('vessels.read', 3)");
    await type('writer(VesselCard).json(vessel)');
    await type("(await rows('berths.list', 2)).length + 40");
    await type('writer(shape(db.vessel, (v) => ({ called: upper(v.name) }))).json(vessel)');
    await type("await row('vessels.remove', 3)");
    await type("api.plan.title + ' ' + Object.keys(db).length");
    child.stdin.end();
    expect(await ended).to.equal(0);
    expect(out)
      .to.contain('"name":"Cormorant Rose"')
      .and.contain('{"called":"CORMORANT ROSE"}')
      .and.contain('42')
      .and.contain('vessels.remove sends no body.')
      .and.contain('Merrow Harbour Office 10');
  });
});
