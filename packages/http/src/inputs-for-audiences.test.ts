import { expect } from 'chai';
import {
  api,
  audience,
  collection,
  entity,
  given,
  input,
  integer,
  list,
  memoryStore,
  model,
  optional,
  shape,
  text,
} from 'gribo';
import { receive, serve } from './index.js';

const db = model(
  {
    berth: entity('berth', {
      id: integer().key().generated(),
      name: text(),
      gate: text().unique().nullable(),
      tariff: text().nullable(),
    }),
  },
  {},
);
const Berth = shape(db.berth, ({ id, name, gate, tariff }) => ({ id, name, gate, tariff }), {
  name: 'Berth',
});
const NewBerth = input(
  db.berth,
  (b) => ({
    name: b.name,
    money: given(audience('office'), { tariff: b.tariff, gate: optional(b.gate) }),
  }),
  { name: 'NewBerth' },
);
const berths = api({
  title: 'Berths',
  version: '1',
  audiences: ['office', 'agent'],
  endpoints: {
    berths: collection('/berths', db.berth, {
      read: Berth,
      create: { takes: NewBerth, returns: Berth },
      replace: { takes: NewBerth, returns: Berth },
    }),
    imports: collection('/imports', db.berth, { create: { takes: list(NewBerth) } }),
  },
});

describe('members of bodies for some audiences', () => {
  const store = memoryStore(db, {
    berth: [{ id: 1, name: 'Quay 1', gate: 'G1', tariff: 'A' }],
  });
  const ask = async (whom: string, method: string, path: string, body: string, type = 'application/json') => {
    const handle = serve(berths, { store, caller: () => ({ audience: whom as 'office' }) });
    const init = { method, headers: { 'content-type': type }, body };
    const response = await handle(new Request(`http://b.test${path}`, init));
    const said = await response.text();
    return { status: response.status, json: said === '' ? null : JSON.parse(said) };
  };
  const full = JSON.stringify({ name: 'B', money: { tariff: 'T', gate: 'G2' } });

  it('are stored for those, and refused for the others as what nobody knows', async () => {
    const made = await ask('office', 'POST', '/berths', full);
    expect([made.status, made.json]).to.deep.equal([201, { id: 2, name: 'B', gate: 'G2', tariff: 'T' }]);
    const refused = await ask('agent', 'POST', '/berths', full);
    expect(refused.status).to.equal(422);
    expect(refused.json.errors).to.deep.equal([
      { pointer: '/money', code: 'unknown', message: 'There is no such member.' },
    ]);
  });

  it('stay as they are where those replace a row who do not have them', async () => {
    const replaced = await ask('agent', 'PUT', '/berths/1', '{"name":"Quay One"}');
    expect(replaced.json).to.deep.equal({ id: 1, name: 'Quay One', gate: 'G1', tariff: 'A' });
    const cleared = await ask('office', 'PUT', '/berths/1', '{"name":"Quay 1","money":{"tariff":"B"}}');
    expect(cleared.json).to.deep.equal({ id: 1, name: 'Quay 1', gate: null, tariff: 'B' });
  });

  it('are named in conflicts to those who have them', async () => {
    const { status, json } = await ask('office', 'POST', '/berths', full);
    expect([status, json.errors[0]?.pointer]).to.deep.equal([409, '/money/gate']);
  });

  it('are columns of a table for those', async () => {
    const table = 'name,money.tariff\r\nC,T\r\n';
    expect((await ask('office', 'POST', '/imports', table, 'text/csv')).status).to.equal(201);
    const refused = await ask('agent', 'POST', '/imports', table, 'text/csv');
    expect([refused.status, refused.json.errors.map(({ code }: { code: string }) => code)]).to.deep.equal([
      422,
      ['unknown'],
    ]);
    expect((await ask('agent', 'POST', '/imports', 'name\r\nD\r\n', 'text/csv')).status).to.equal(201);
  });

  it('are received by an application of its own', async () => {
    const got = async (whom: 'office' | 'agent') => {
      const init = { method: 'POST', headers: { 'content-type': 'application/json' }, body: full };
      const request = new Request('http://b.test/berths', init);
      return receive(berths, 'berths.create', request, { caller: { audience: whom } });
    };
    expect(await got('office')).to.deep.equal({
      ok: true,
      value: { name: 'B', tariff: 'T', gate: 'G2' },
      files: null,
    });
    expect((await got('agent')).ok).to.equal(false);
  });
});
