import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { declarationsOf } from './declarations.js';

describe('the places of declarations', () => {
  const folder = mkdtempSync(join(process.cwd(), '.copy-declarations-'));
  const config = join(folder, 'gribo.config.ts');
  after(() => rmSync(folder, { recursive: true }));

  it('are the lines that they stand on, however they are indented', async () => {
    const lines = [
      "const db = model({ vessel: entity('vessel', {",
      'id: integer().key(),',
      '  name: text(),',
      '} ) });',
      'const endpoints = {',
      "vessels: collection('/vessels', db.vessel, {}),",
      "  'operators': collection('/operators', db.operator, {}),",
      '};',
    ];
    writeFileSync(config, lines.join('\n'));
    const find = await declarationsOf(config);
    const lineOf = (place: string): number => find(place).line;
    const places = [
      'vessel',
      'vessel.id',
      'vessel.name',
      'vessel.other',
      'vessels',
      'operators.list/name',
      'none',
    ];
    expect(places.map(lineOf)).to.deep.equal([1, 2, 3, 1, 6, 7, 1]);
  });
});
