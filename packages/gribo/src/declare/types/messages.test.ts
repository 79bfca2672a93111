import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect } from 'chai';

const ROOT = fileURLToPath(new URL('../../../../..', import.meta.url));

const HEAD = `import { collection, entity, input, integer, model, shape, text, toMany, toOne } from 'gribo';
const db = model(
  {
    vessel: entity('vessel', { id: integer().key().generated(), name: text(), operatorId: integer().nullable() }),
    call: entity('call', { id: integer().key(), vesselId: integer() }),
    operator: entity('operator', { id: integer().key(), name: text() }),
  },
  { vessel: { calls: toMany('call', 'vesselId'), operator: toOne('operator', 'operatorId') } },
);
const Card = shape(db.vessel, (v) => ({ name: v.name }));
`;

/** A mistake to a line, and the sentence that the compiler shows for it. */
const MISTAKES: readonly (readonly [code: string, sentence: string])[] = [
  [
    'input(db.vessel, (v) => ({ name: v.name, id: v.id }));',
    'id is made by the database: leave it out, or say assigned(v.id)',
  ],
  ["collection('/vessels', db.vessel, { list: Card, read: Card });", 'expected list(shape) or page(shape)'],
  [
    'shape(db.vessel, (v) => ({ operator: v.operator }));',
    'this is a whole row: nest it with a shape, Shape(v.link), or name its columns',
  ],
  [
    'shape(db.vessel, (v) => ({ group: { calls: v.calls } }));',
    'these are many rows: nest them with a shape, Shape(v.links), or use count(v.links) or first(v.links, Shape)',
  ],
  ['shape(db.vessel, () => ({ card: Card }));', 'a shape is called with a row: Shape(v.link)'],
  [
    'shape(db.vessel, (v) => ({ operator: Card(v.operator) }));',
    'this is a shape over vessel: call it with a row of it, or with a link to it',
  ],
];

describe('the messages of types', () => {
  it('are the sentence of the run time, in one line', () => {
    const folder = mkdtempSync(join(ROOT, 'packages/gribo/.types-'));
    const file = join(folder, 'mistakes.ts');
    writeFileSync(file, HEAD + MISTAKES.map(([code]) => code).join('\n'));
    const flags = [
      '--noEmit',
      '--ignoreConfig',
      '--strict',
      '--module',
      'nodenext',
      '--target',
      'es2023',
      '--skipLibCheck',
    ];
    const { stdout } = spawnSync(
      join(ROOT, 'node_modules/.bin/tsc'),
      [...flags, '--customConditions', '@gribo/source', '--pretty', 'false', file],
      { cwd: folder, encoding: 'utf8' },
    );
    rmSync(folder, { recursive: true });
    const first = HEAD.split('\n').length;
    const lines = stdout.trim().split('\n');
    expect(lines, stdout).to.have.length(MISTAKES.length);
    for (const [i, [, sentence]] of MISTAKES.entries()) {
      expect(lines[i]).to.match(new RegExp(`^mistakes\\.ts\\(${first + i},`));
      expect(lines[i]?.endsWith(`'"${sentence}"'.`), lines[i]).to.equal(true);
    }
  });
});
