import { expect } from 'chai';
import {
  all,
  any,
  api,
  audience,
  callerOf,
  collection,
  equals,
  given,
  input,
  integer,
  list,
  memoryStore,
  page,
  rowRule,
  shape,
  text,
} from 'gribo';
import { stock, stockRows } from '../../gribo/src/testing/stock.js';
import { serve } from './index.js';

const facts = callerOf({ operatorId: integer().nullable(), zone: text() });

const Name = shape(stock.vessel, (v) => ({
  id: v.id,
  name: v.name,
  mine: given(equals(v.operatorId, facts.operatorId), v.tonnage),
}));
const Zoned = shape(stock.operator, (o) => ({ id: o.id, zone: facts.zone }));
const NewVessel = input(stock.vessel, (v) => ({
  name: v.name,
  kind: v.kind,
  builtYear: v.builtYear,
  tonnage: v.tonnage,
  draught: v.draught,
  active: v.active,
  weight: v.weight,
  operatorId: v.operatorId,
}));

const fleet = api({
  title: 'Fleet',
  version: '1',
  audiences: ['agent', 'office'],
  caller: facts,
  rows: [
    rowRule(
      stock.vessel,
      (v) => any(audience('office'), all(audience('agent'), equals(v.operatorId, facts.operatorId))),
      { about: 'Only vessels of your own operator.' },
    ),
  ],
  endpoints: {
    vessels: collection('/vessels', stock.vessel, {
      list: page(Name, { size: 2 }),
      read: Name,
      create: { takes: NewVessel, returns: Name },
      remove: true,
    }),
    operators: collection('/operators', stock.operator, { list: list(Zoned) }),
    calls: collection('/vessels/{vessel}/calls', stock.portCall, {
      under: 'vessel',
      list: list(shape(stock.portCall, ({ id }) => ({ id }))),
    }),
  },
});

describe('callers', () => {
  const asking = (caller: object | null) => {
    const told: { readonly about: { readonly err?: Error }; readonly message: string }[] = [];
    const log = { error: (about: object, message: string) => void told.push({ about, message }) };
    const handle = serve(fleet, { store: memoryStore(stock, stockRows as never), caller: () => caller, log });
    const ask = async (method: string, path: string, body?: object) => {
      const headers = { 'content-type': 'application/json' };
      const init = body === undefined ? {} : { headers, body: JSON.stringify(body) };
      const response = await handle(new Request(`http://f.test${path}`, { method, ...init }));
      const said = await response.text();
      return { status: response.status, json: said === '' ? {} : JSON.parse(said) };
    };
    return { ask, told };
  };

  it('see their own rows, everywhere: lists, totals, single rows, children', async () => {
    const { ask } = asking({ audience: 'agent', operatorId: 2, zone: 'UTC' });
    const { json } = await ask('GET', '/vessels');
    expect(json).to.deep.equal({
      items: [
        { id: 1, name: 'Anselma', mine: '100.5' },
        { id: 5, name: 'Evening Tern', mine: '500.5' },
      ],
      page: { number: 1, size: 2, total: 2, pages: 1 },
    });
    expect((await ask('GET', '/vessels/2')).status).to.equal(404);
    expect((await ask('GET', '/vessels/2/calls')).status, 'the parent is not there').to.equal(404);
    expect((await ask('GET', '/vessels/1/calls')).json).to.have.length(3);
    expect((await ask('DELETE', '/vessels/2')).status).to.equal(404);
  });

  it('are told the rule where what they make would not be theirs', async () => {
    const { ask, told } = asking({ audience: 'agent', operatorId: 2, zone: 'UTC' });
    const vessel = {
      name: 'N',
      kind: 'tug',
      builtYear: 1990,
      tonnage: '1.0',
      draught: 1,
      active: true,
      weight: '1',
    };
    const refused = await ask('POST', '/vessels', { ...vessel, operatorId: 1 });
    expect([refused.status, refused.json.detail]).to.deep.equal([403, 'Only vessels of your own operator.']);
    expect((await ask('POST', '/vessels', { ...vessel, operatorId: 2 })).status).to.equal(201);
    expect(told).to.deep.equal([]);
  });

  it('without a fact that is needed are turned away, and the service is told', async () => {
    const { ask, told } = asking({ audience: 'agent', zone: 'UTC' });
    const { status, json } = await ask('GET', '/vessels');
    expect([status, json.detail]).to.deep.equal([403, 'This is not for you.']);
    expect(told.map(({ about }) => about.err?.message)).to.deep.equal([
      "expected an integer as the caller's operatorId, got nothing",
    ]);
    expect((await ask('GET', '/operators')).json[0]).to.deep.equal({ id: 1, zone: 'UTC' });
    const office = asking({ audience: 'office', operatorId: null, zone: 'UTC' });
    expect((await office.ask('GET', '/vessels')).json.page.total).to.equal(5);
    expect((await asking(null).ask('GET', '/vessels')).json.page).to.equal(undefined);
  });

  it('that nobody tells of are missed at the start', () => {
    expect(() => serve(fleet, { store: memoryStore(stock) })).to.throw(
      /vessels\.list: it needs caller\.operatorId: give serve a `caller`.*operators\.list: it needs caller\.zone/s,
    );
  });
});
