import { cpSync, mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { largeApi, largeBodies, largeModel } from './large-api.js';
import { compile, copyHarbour, emptyFolder, filesBelow, installPacked } from './workshop.js';

const EMITTED = {
  noEmit: false,
  declaration: true,
  emitDeclarationOnly: true,
  composite: true,
  incremental: true,
  rootDir: '.',
  outDir: 'out',
};

/** What the declarations of a program weigh, in bytes. */
const weightOf = (folder: string): number =>
  filesBelow(join(folder, 'out'), '.d.ts').reduce(
    (sum, file) => sum + statSync(join(folder, 'out', file)).size,
    0,
  );

const kilobytes = (bytes: number): string => `${(bytes / 1000).toFixed(1)} kB`;

/** A program of another package, over the declarations alone. */
const SECOND = `import type { AudienceIn, NameIn, RequestOf, ResponseOf, RowFor } from 'gribo';
import { memoryStore } from 'gribo';
import { serve } from '@gribo/http';
import { large } from 'large/api.js';
import { db, type Large } from 'large/model.js';
import { Detail7 } from 'large/bodies.js';
import { shape } from 'gribo';

type Names = NameIn<typeof large>;
export const named: Names = 'e59.amend';
export const whom: AudienceIn<typeof large> = 'agent';
export const read = (one: ResponseOf<typeof large, 'e7.read', 'agent'>): string | null => one.c2;
export const listed = (page: ResponseOf<typeof large, 'e7.list'>): number => page.items.length + page.page.total;
export const made = (change: RequestOf<typeof large, 'e7.create'>): Date => change.c3;
export const row: Pick<RowFor<typeof db.e7>, 'id' | 'nextId'> = { id: 1, nextId: null };
export const More = shape(db.e6, (r) => ({ id: r.id, next: Detail7(r.next), far: r.next.next.c1 }));
export const handle = serve(large, {
  store: memoryStore(db),
  handlers: { 'e7.create': ({ input, proceed }) => proceed({ ...input, c1: input.c1.trim() }) },
});
export type Model = Large;
// @ts-expect-error there is no such endpoint
export type Missing = ResponseOf<typeof large, 'e60.read'>;
`;

describe('declarations', () => {
  before(installPacked);

  it('of the harbour weigh no more than 60 kB', () => {
    const folder = emptyFolder('harbour');
    const files = copyHarbour(folder);
    expect(compile(folder, files, undefined, EMITTED).said).to.equal('');
    const weight = weightOf(folder);
    console.log(`      the harbour's declarations: ${kilobytes(weight)} (at most 60 kB)`);
    expect(weight).to.be.below(60_000);
  });

  it('of 60 entities of 40 columns, in one API, weigh no more than 1 MB, and are used from another package', () => {
    const size = { entities: 60, columns: 40 };
    const folder = emptyFolder('large');
    writeFileSync(join(folder, 'model.ts'), largeModel(size));
    writeFileSync(join(folder, 'bodies.ts'), largeBodies(size));
    writeFileSync(join(folder, 'api.ts'), largeApi(size));
    const files = ['model.ts', 'bodies.ts', 'api.ts'];
    const checked = compile(folder, files);
    expect(checked.said).to.equal('');
    const emitted = compile(folder, files, undefined, EMITTED);
    expect(emitted.said).to.equal('');
    const weight = weightOf(folder);
    const times = `checked in ${checked.total} s, emitted in ${emitted.total} s (aim: twice as long at most)`;
    console.log(`      60 entities of 40 columns, one API: ${kilobytes(weight)} (at most 1000 kB), ${times}`);
    expect(weight).to.be.below(1_000_000);

    const second = emptyFolder('second');
    const large = join(second, 'node_modules/large');
    mkdirSync(large, { recursive: true });
    cpSync(join(folder, 'out'), large, { recursive: true });
    writeFileSync(
      join(large, 'package.json'),
      '{ "name": "large", "type": "module", "exports": { "./*.js": "./*.d.ts" } }',
    );
    writeFileSync(join(second, 'program.ts'), SECOND);
    const used = compile(second, ['program.ts'], undefined, { skipLibCheck: false });
    expect(used.said).to.equal('');
    expect(readFileSync(join(large, 'api.d.ts'), 'utf8')).to.not.contain('Column<');
  });
});
