import { execFile } from 'node:child_process';
import { rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect } from 'chai';
import { project } from '../testing/project.js';
import { gribo, HARBOUR, WORKSPACE } from '../testing/run-gribo.js';

describe('gribo draft', () => {
  it('prints a shape and an input that compile as they stand', async () => {
    const folder = await project('export default {};');
    after(() => rm(folder, { recursive: true }));
    const model = join(HARBOUR, 'src/model.js');
    const options = {
      strict: true,
      noEmit: true,
      module: 'nodenext',
      target: 'es2023',
      types: [],
      skipLibCheck: true,
      customConditions: ['@gribo/source'],
      lib: ['es2023', 'dom', 'dom.iterable'],
      noUnusedLocals: true,
    };
    await writeFile(
      join(folder, 'tsconfig.json'),
      JSON.stringify({ compilerOptions: options, include: ['*.ts'], exclude: ['gribo.config.ts'] }),
    );
    for (const entity of ['vessel', 'portCall', 'operator', 'pilotage']) {
      const { code, out } = await gribo(['draft', entity, '--model', model]);
      expect(code, entity).to.equal(0);
      await writeFile(join(folder, `${entity}.ts`), out);
    }
    const compiler = join(WORKSPACE, 'node_modules/typescript/bin/tsc');
    const said = await new Promise<string>((resolve) => {
      execFile(process.execPath, [compiler, '-p', folder], (_error, out) => resolve(out));
    });
    expect(said).to.equal('');
  });

  it('lists every column under what has to be decided', async () => {
    const { out } = await gribo(['draft', 'vessel']);
    const [shapeText = '', inputText = ''] = out.split('export const NewVessel');
    expect(shapeText).to.match(
      /\/\/ Sealed: [^\n]+\n +\/\/ masterPhone: unseal\('an audience', v\.masterPhone\), \/\/ personal/,
    );
    expect(shapeText).to.match(/\/\/ Long text: [^\n]+\n +notes: v\.notes,/);
    expect(shapeText).to.contain('// portCalls: count(v.portCalls),');
    expect(inputText).to.contain('callSign: optional(v.callSign),').and.contain('// id: assigned(v.id),');
    for (const column of ['imoNumber', 'grossTonnage', 'operatorId', 'createdAt'])
      expect(shapeText).to.contain(`${column}: v.${column},`);
    expect(await gribo(['draft', 'vesel'])).to.deep.include({
      code: 2,
      err: 'There is no entity "vesel". Did you mean "vessel"?\n',
    });
  });
});
