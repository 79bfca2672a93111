import { expect } from 'chai';
import {
  amending,
  api,
  callerOf,
  endpoint,
  entity,
  equals,
  input,
  integer,
  list,
  loadPlan,
  memoryStore,
  model,
  oneOf,
  rowRule,
  shape,
  text,
  toOne,
} from 'gribo';
import { serve } from '../index.js';
import { keepingLog } from '../testing/ask.js';

const db = model(
  {
    dock: entity('dock', { id: integer().key(), name: text() }),
    crate: entity('crate', {
      dockId: integer().key().stored('dock_id'),
      no: integer().key(),
      name: text({ min: 1 }).unique(),
      kind: oneOf('box', 'bag').nullable(),
      heldBy: integer().nullable(),
      owner: integer(),
    }),
  },
  { crate: { dock: toOne('dock', 'dockId'), holder: toOne('dock', 'heldBy') } },
);
const caller = callerOf({ user: integer() });
const Whole = input(
  db.crate,
  (c) => ({ dock: c.dockId, no: c.no, name: c.name, kind: c.kind, heldBy: c.heldBy }),
  { name: 'Crate' },
);
const Edit = amending(Whole, (members) => members, { name: 'Edit' });
const crates = api({
  title: 'Crates',
  version: '1',
  caller,
  rows: [rowRule(db.crate, (c) => equals(c.owner, caller.user), { about: 'You change your own crates.' })],
  endpoints: { 'crates.amendAll': endpoint('PATCH /crates', { from: db.crate, takes: list(Edit) }) },
});
const Name = shape(db.crate, ({ no, name, kind }) => ({ no, name, kind }));

describe('many rows amended by their keys', () => {
  const asking = () => {
    const store = memoryStore(db, {
      dock: [{ id: 1, name: 'North' }],
      crate: [1, 2, 3].map((no) => ({
        dockId: 1,
        no,
        name: `Crate ${no}`,
        kind: null,
        heldBy: null,
        owner: no === 3 ? 2 : 1,
      })),
    });
    const { told, log } = keepingLog();
    const handle = serve(crates, { store, caller: () => ({ user: 1 }), log });
    const send = async (body: string, type = 'application/json') => {
      const headers = { 'content-type': type };
      const response = await handle(new Request('http://c.test/crates', { method: 'PATCH', headers, body }));
      const { errors = [] } =
        response.status === 204 ? {} : ((await response.json()) as { errors?: object[] });
      return [response.status, errors] as const;
    };
    const names = async () => (await store.list(loadPlan(Name))).map((row) => (row as { name: string }).name);
    return { send, names, told };
  };

  it('are all of them, as JSON, lines of JSON or CSV', async () => {
    const { send, names } = asking();
    expect(
      await send('[{"dock":1,"no":1,"name":"A","kind":"box"},{"dock":1,"no":2,"kind":"bag"}]'),
    ).to.deep.equal([204, []]);
    expect(await names()).to.deep.equal(['A', 'Crate 2', 'Crate 3']);
    expect(
      (await send('{"dock":1,"no":1,"name":"B"}\n{"dock":1,"no":2,"name":"A"}\n', 'application/x-ndjson'))[0],
    ).to.equal(204);
    expect((await send('dock,no,name\n1,1,C\n1,2,D\n', 'text/csv'))[0]).to.equal(204);
    expect(await names()).to.deep.equal(['C', 'D', 'Crate 3']);
    expect((await send('[]'))[0]).to.equal(204);
  });

  it('or none, and each issue says where it is', async () => {
    const { send, names, told } = asking();
    const first = '{"dock":1,"no":1,"name":"A"}';
    const placesOf = async (second: string, type?: string) => {
      const lines = type === undefined ? `[${first},${second}]` : `${first}\n${second}\n`;
      const [status, errors] = await send(lines, type);
      return [
        status,
        ...errors.map((issue) => {
          const { pointer, code, line } = issue as { pointer: string; code: string; line?: number };
          return `${pointer} ${code}${line === undefined ? '' : ` line ${line}`}`;
        }),
      ];
    };
    expect(await placesOf('{"dock":1,"no":9,"name":"B"}')).to.deep.equal([422, '/1 conflict']);
    expect(await placesOf('{"dock":1,"no":9,"name":"B"}', 'application/x-ndjson')).to.deep.equal([
      422,
      '/1 conflict line 2',
    ]);
    expect(await placesOf('{"no":2,"name":"B"}')).to.deep.equal([422, '/1/dock required']);
    expect(await placesOf('{"name":"B"}')).to.deep.equal([422, '/1/dock required', '/1/no required']);
    expect(await placesOf('{"dock":1,"no":2,"name":""}')).to.deep.equal([422, '/1/name length']);
    expect(await placesOf('{"dock":1,"no":2,"name":"Crate 3"}')).to.deep.equal([409, '/1/name conflict']);
    expect(await placesOf('{"dock":1,"no":2,"heldBy":77}', 'application/x-ndjson')).to.deep.equal([
      409,
      '/1/heldBy conflict line 2',
    ]);
    // Of another owner: it is not there for this caller.
    expect(await placesOf('{"dock":1,"no":3,"name":"B"}')).to.deep.equal([422, '/1 conflict']);
    expect(await names()).to.deep.equal(['Crate 1', 'Crate 2', 'Crate 3']);
    expect(told).to.deep.equal([]);
  });
});
