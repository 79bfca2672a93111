import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { expectGolden } from './golden.js';
import { LanguageServer, MARK } from './language-server.js';
import { copyHarbour, emptyFolder, installPacked } from './workshop.js';

/** A file of the harbour with the mark in it: what stands there, and where in it a reader points. */
type Place = readonly [title: string, file: string, found: string, marked: string];

const M = MARK;

const HOVERS: readonly Place[] = [
  ['a shape', 'shapes.ts', 'export const VesselCard', `export const Vessel${M}Card`],
  ['a shape with conditions', 'shapes.ts', 'export const Berth =', `export const Ber${M}th =`],
  ['the row that a shape is given', 'shapes.ts', '(v) => ({\n    id: v.id', `(${M}v) => ({\n    id: v.id`],
  ['a column', 'shapes.ts', 'flag: v.flagState', `flag: v.flag${M}State`],
  [
    'a column behind a link',
    'shapes.ts',
    'operatorName: v.operator.name',
    `operatorName: v.operator.na${M}me`,
  ],
  ['a row behind a link', 'shapes.ts', 'OperatorBrief(v.operator)', `OperatorBrief(v.opera${M}tor)`],
  ['rows behind a link', 'shapes.ts', 'count(b.portCalls)', `count(b.port${M}Calls)`],
  ['an input', 'inputs.ts', 'export const NewCargo', `export const New${M}Cargo`],
  ['a merge patch', 'inputs.ts', 'export const EditVessel', `export const Edit${M}Vessel`],
  ['the model', 'model.ts', 'export const db', `export const d${M}b`],
  [
    'an audience',
    'shapes.ts',
    "given(audience('agent', 'harbourMaster'), c.remarks)",
    `given(aud${M}ience('agent', 'harbourMaster'), c.remarks)`,
  ],
  ['a response', 'uses.ts', 'type Reply', `type Re${M}ply`],
  ['a list of responses', 'uses.ts', 'type Listed', `type List${M}ed`],
  ['a change', 'uses.ts', 'type Entered', `type Ent${M}ered`],
  ['a body as it is sent', 'uses.ts', 'type Sent', `type Se${M}nt`],
  ['a stored row', 'uses.ts', 'type Stored', `type Sto${M}red`],
  ['the input of a handler', 'uses.ts', 'async ({ input, proceed })', `async ({ in${M}put, proceed })`],
];

const COMPLETIONS: readonly Place[] = [
  ['the columns and links of a row', 'shapes.ts', 'flag: v.flagState', `flag: v.${M}`],
  ['the endpoints of at', 'shapes.ts', 'maxLength: at({ read: b.maxLengthM })', `maxLength: at({ ${M} })`],
  [
    'the audiences of audience',
    'shapes.ts',
    "given(audience('agent', 'harbourMaster'), c.remarks)",
    `given(audience('${M}'), c.remarks)`,
  ],
  [
    'the audiences of unseal',
    'shapes.ts',
    "unseal('harbourMaster', b.gateCode)",
    `unseal('${M}', b.gateCode)`,
  ],
  ['what may be asked for', 'shapes.ts', "asked('cargo')", `asked('${M}')`],
  [
    'what rows are sorted by',
    'shapes.ts',
    "{ sort: ['eta desc'], limit: 3 }",
    `{ sort: ['${M}'], limit: 3 }`,
  ],
  ['the options of a collection', 'api.ts', "under: 'portCall',\n      list: list(CargoLine),", M],
  ['the parents of a collection', 'api.ts', "under: 'portCall'", `under: '${M}'`],
  ['the columns of sort', 'api.ts', "sort: ['eta', 'status', 'vessel.name']", `sort: ['${M}']`],
  [
    'the options of a page',
    'api.ts',
    "page(Arrival, { size: 20, sort: ['eta desc', 'id'] })",
    `page(Arrival, { ${M} })`,
  ],
  ['the columns of a to-one link', 'model.ts', "toOne('vessel', 'vesselId')", `toOne('vessel', '${M}')`],
  ['the entities of a link', 'model.ts', "toMany('vessel', 'operatorId')", `toMany('${M}', 'operatorId')`],
  [
    'the endpoints of ResponseOf',
    'uses.ts',
    "ResponseOf<typeof harbour, 'vessels.read', 'agent'>",
    `ResponseOf<typeof harbour, '${M}', 'agent'>`,
  ],
  [
    'the audiences of ResponseOf',
    'uses.ts',
    "ResponseOf<typeof harbour, 'vessels.read', 'agent'>",
    `ResponseOf<typeof harbour, 'vessels.read', '${M}'>`,
  ],
  ['the handlers of serve', 'uses.ts', "'vessels.create': async", `'${M}': async`],
  [
    'the audiences of a situation',
    'uses.ts',
    "{ audience: 'agent', fields: ['id'] }",
    `{ audience: '${M}', fields: ['id'] }`,
  ],
  [
    'the fields of a situation',
    'uses.ts',
    "{ audience: 'agent', fields: ['id'] }",
    `{ audience: 'agent', fields: ['${M}'] }`,
  ],
  ['the endpoints of situationOf', 'uses.ts', "endpoint: 'vessels.read'", `endpoint: '${M}'`],
  ['the columns that rows are loaded by', 'uses.ts', 'where: { inService: true }', `where: { ${M} }`],
  ['the columns of a row to write', 'uses.ts', "json({ id: 1, name: 'Anselma' })", `json({ id: 1, ${M} })`],
  ['the columns of a preset', 'inputs.ts', "preset(c.status, 'announced')", `preset(c.status, '${M}')`],
];

const USES = `import { type BodyIn, type Change, memoryStore, type ResponseOf, type RowFor, situationOf, writer } from 'gribo';
import { serve } from '@gribo/http';
import { harbour } from './api.js';
import { NewCargo } from './inputs.js';
import { db } from './model.js';
import { VesselDetail, VesselName } from './shapes.js';

type Reply = ResponseOf<typeof harbour, 'vessels.read', 'agent'>;
type Listed = ResponseOf<typeof harbour, 'berths.list'>;
type Entered = Change<typeof NewCargo>;
type Sent = BodyIn<typeof NewCargo>;
type Stored = RowFor<typeof db.pilotage>;
writer(VesselDetail, { audience: 'agent', fields: ['id'] });
writer(VesselDetail, situationOf(harbour, { endpoint: 'vessels.read' }));
writer(VesselName).json({ id: 1, name: 'Anselma' });
serve(harbour, {
  store: memoryStore(db),
  handlers: {
    'vessels.create': async ({ input, proceed }) => proceed(input),
    'berths.list': ({ load }) => load.rows({ where: { inService: true } }),
  },
});
export type { Entered, Listed, Reply, Sent, Stored };
`;

/** The most that is completed and still read: more are the names of the language. */
const MOST = 60;

describe('an editor', () => {
  let server: LanguageServer | null = null;
  const markedIn = (file: string, found: string, marked: string): string => {
    const text = server?.text(file) ?? '';
    expect(text, `${file} has "${found}"`).to.contain(found);
    return text.replace(found, () => marked);
  };

  before(async () => {
    installPacked();
    const folder = emptyFolder('editor');
    copyHarbour(folder);
    writeFileSync(join(folder, 'uses.ts'), USES);
    const compilerOptions = {
      strict: true,
      target: 'es2022',
      lib: ['es2023', 'dom', 'dom.iterable'],
      module: 'nodenext',
      types: [],
    };
    writeFileSync(join(folder, 'tsconfig.json'), JSON.stringify({ compilerOptions }));
    writeFileSync(join(folder, 'package.json'), '{ "type": "module" }');
    server = await LanguageServer.start(folder);
  });
  after(() => server?.end());

  it('shows on hover what the golden file has', async () => {
    const parts: string[] = [];
    for (const [title, file, found, marked] of HOVERS) {
      const shown = (await server?.hover(file, markedIn(file, found, marked))) ?? '';
      expect(shown, title).to.not.equal('');
      parts.push(`## ${title}`, '', '```ts', shown.trim(), '```', '');
    }
    expectGolden('hovers.md', ['# What a hover shows', '', ...parts].join('\n'));
  });

  it('completes the names that there are, and no others', async () => {
    const parts: string[] = [];
    for (const [title, file, found, marked] of COMPLETIONS) {
      const names = (await server?.completions(file, markedIn(file, found, marked))) ?? [];
      expect(names.length, `${title}: ${names.slice(0, 5).join()}`).to.be.within(1, MOST);
      parts.push(
        `## ${title}`,
        '',
        '```ts',
        marked.replace(M, '|'),
        '```',
        '',
        names.map((name) => `\`${name}\``).join(', '),
        '',
      );
    }
    expectGolden('completions.md', ['# What is completed', '', ...parts].join('\n'));
  });
});
