import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { compile, copyHarbour, emptyFolder, installPacked, NEWEST, ROOT, VERSIONS } from './workshop.js';

/** A server over the harbour, with every kind of handler: what its types have to let through. */
const SERVER = `import { type BodyIn, type Change, memoryStore, type ResponseOf, type RowFor, type RowsOf, situationOf, writer } from 'gribo';
import { respond, serve } from '@gribo/http';
import { harbour } from './api.js';
import { NewVessel } from './inputs.js';
import { db } from './model.js';
import { VesselCard } from './shapes.js';

const stored: RowFor<typeof db.pilotage> = { portCallId: 'x', pilotId: 1, boardedAt: new Date() };
const rows: RowsOf<typeof VesselCard> = { id: 1, name: 'Anselma', operator: null, portCalls: [] };
const body: BodyIn<typeof NewVessel> = {
  imoNumber: '1234567', name: 'Anselma', kind: 'tug', flag: 'QA', builtYear: 1990,
  size: { length: 10, draught: 2, tonnage: '10.0' }, operator: { id: null },
};
type Read = ResponseOf<typeof harbour, 'vessels.read', 'agent'>;
export const nameOf = ({ name }: Read): string => name;
export const changeOf = ({ name }: Change<typeof NewVessel>): string => name;
export const text: string = writer(VesselCard, situationOf(harbour, { audience: 'public' })).json(rows);
export const handle = serve(harbour, {
  store: memoryStore(db),
  caller: () => ({ audience: 'agent' }),
  cache: { 'berths.list': 60 },
  handlers: {
    'vessels.create': async ({ input, proceed }) => proceed({ ...input, name: input.name.trim(), notes: 'here' }),
    'vessels.read': ({ key, load }) => load.row(...(key ?? [])),
    'vessels.list': ({ load, proceed }) => (text === '' ? proceed() : { items: [{ id: 1, name: stored.portCallId }] }),
    'vessels.remove': async ({ proceed }) => {
      await proceed();
    },
    'positions.create': async ({ input, proceed }) => {
      const kept: unknown[] = [];
      for await (const row of input) kept.push(row.lat);
      return proceed();
    },
    'berths.options': ({ load }) => load.rows({ where: { inService: true }, sort: ['code desc'] }),
  },
});
export const answer = (request: Request): Promise<Response> => respond(harbour, 'vessels.read', rows, { request, caller: { audience: 'agent' } });
export { body };
`;

describe('the packed types', () => {
  let folder = '';
  let files: readonly string[] = [];
  before(() => {
    installPacked();
    folder = emptyFolder('versions');
    const laws = readFileSync(join(ROOT, 'packages/gribo/src/declare/types/output.types.ts'), 'utf8');
    writeFileSync(join(folder, 'laws.ts'), laws.replaceAll("'../../index.js'", "'gribo'"));
    writeFileSync(join(folder, 'server.ts'), SERVER);
    files = [...copyHarbour(folder), 'laws.ts', 'server.ts'];
  });

  const settings = VERSIONS.flatMap((version) =>
    (['nodenext', 'bundler'] as const).flatMap((module) =>
      [true, false].map((isExact) => ({ version, module, isExact })),
    ),
  );
  // Each compiler with both ways of resolving and both readings of optional members; the newest with each pair of them.
  const tried = settings.filter(
    ({ version, module, isExact }) => version === NEWEST || (module === 'nodenext') === isExact,
  );
  for (const { version, module, isExact } of tried) {
    it(`compile with TypeScript ${version}, ${module}, ${isExact ? 'exact' : 'loose'} optional members`, () => {
      const resolution =
        module === 'bundler' ? { module: 'esnext', moduleResolution: 'bundler' } : { module };
      const { said } = compile(folder, files, version, {
        ...resolution,
        exactOptionalPropertyTypes: isExact,
        skipLibCheck: false,
      });
      expect(said).to.equal('');
    });
  }

  const PROGRAM = `import { entity, integer, model, shape, text, writer } from 'gribo';
import { serve } from '@gribo/http';
const db = model({ buoy: entity('buoy', { id: integer().key(), name: text() }) }, {});
console.log(writer(shape(db.buoy, ({ name }) => ({ name }))).json({ name: 'North' }), typeof serve);
`;
  for (const version of VERSIONS.filter((each) => each !== '5.5')) {
    it(`compile and run in a CommonJS project, TypeScript ${version}`, () => {
      const common = emptyFolder('common');
      writeFileSync(join(common, 'program.cts'), PROGRAM);
      // The declarations themselves are looked at above: here it is how they are found.
      const emitted = { noEmit: false, outDir: 'out', rootDir: '.', skipLibCheck: true };
      expect(compile(common, ['program.cts'], version, emitted).said).to.equal('');
      expect(readFileSync(join(common, 'out/program.cjs'), 'utf8')).to.include('require("gribo")');
      const ran = spawnSync(process.execPath, [join(common, 'out/program.cjs')], { encoding: 'utf8' });
      expect(ran.stdout, ran.stderr).to.equal('{"name":"North"} function\n');
    });
  }
});
