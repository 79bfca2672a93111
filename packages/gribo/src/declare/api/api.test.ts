import { expect } from 'chai';
import {
  amending,
  api,
  apiNames,
  asked,
  at,
  atLeast,
  atMost,
  audience,
  collection,
  constant,
  contains,
  endpoint,
  entity,
  equals,
  GriboError,
  given,
  input,
  integer,
  isNull,
  jsonSchema,
  list,
  model,
  oneOfThese,
  page,
  shape,
  situationOf,
  toOne,
  unseal,
  wrap,
  writer,
} from '../../index.js';
import { declarationError, thrownBy } from '../../testing/engines.js';
import { fleet, vesselRow } from '../../testing/fleet.js';

// biome-ignore lint/suspicious/noExplicitAny: wrong declarations are the point
type Any = any;

const Card = shape(fleet.vessel, ({ id, name }) => ({ id, name }), { name: 'Card' });
const CallLine = shape(fleet.portCall, ({ id }) => ({ id }), { name: 'CallLine' });

const NewVessel = input(fleet.vessel, (v) => ({ name: v.name }), { name: 'NewVessel' });
const NewCall = input(fleet.portCall, (c) => ({ eta: c.eta }), { name: 'NewCall' });

const Whole = shape(
  fleet.vessel,
  (v) => ({ ...Card(v), kind: v.kind, built: v.builtYear, by: v.operatorId }),
  {
    name: 'Whole',
  },
);

const vessels = collection('/vessels', fleet.vessel, {
  list: page(Card, { size: 5 }),
  read: Whole,
  create: { returns: Card, takes: NewVessel },
  replace: { returns: Card },
  amend: { returns: Card },
  remove: true,
  filters: (v) => ({
    kind: oneOfThese(v.kind),
    name: equals(v.name),
    from: atLeast(v.builtYear),
    to: atMost(v.builtYear),
    q: contains(v.name),
    stray: isNull(v.operatorId),
  }),
  sort: ['name', 'builtYear'],
});

describe('a list of inputs', () => {
  it('is taken by create, and by endpoints of one’s own', () => {
    const imports = collection('/imports', fleet.vessel, { create: { takes: list(NewVessel) } });
    expect(imports.plans.get('create')).to.deep.include({
      takes: NewVessel.plan,
      takesMany: true,
      returns: null,
    });
    const own = endpoint('POST /sightings', { from: fleet.vessel, takes: list(NewVessel), returns: Card });
    expect(own.plan).to.deep.include({ takes: NewVessel.plan, takesMany: true });
    expect(vessels.plans.get('create')?.takesMany).to.equal(false);
    expect(jsonSchema(list(NewVessel))).to.deep.include({
      type: 'array',
      items: { $ref: '#/$defs/NewVessel' },
    });
  });

  it('is refused where there is one row, or where rows would be sent back', () => {
    const wrong = declarationError(() =>
      collection('/imports', fleet.vessel, {
        create: { takes: list(NewVessel), returns: Card },
        replace: { takes: list(NewVessel) },
      }),
    );
    expect(wrong).to.contain('/imports create: a list is taken: leave returns out');
    expect(wrong).to.contain('/imports replace: it is about one row: a list is taken by create');
  });
});

describe('collection', () => {
  it('has the operations it is given, at their methods and paths', () => {
    const routes = [...vessels.plans].map(([operation, { method, path, parameters }]) => [
      operation,
      method,
      path,
      ...parameters,
    ]);
    expect(routes).to.deep.equal([
      ['list', 'GET', '/vessels'],
      ['read', 'GET', '/vessels/{id}', 'id'],
      ['create', 'POST', '/vessels'],
      ['replace', 'PUT', '/vessels/{id}', 'id'],
      ['amend', 'PATCH', '/vessels/{id}', 'id'],
      ['remove', 'DELETE', '/vessels/{id}', 'id'],
    ]);
    expect([...collection('/vessels', fleet.vessel, { read: Card }).plans.keys()]).to.deep.equal(['read']);
    expect(vessels.plans.get('create')?.takes).to.equal(NewVessel.plan);
    expect(vessels.plans.get('remove')?.returns).to.equal(null);
  });

  it('keeps its filters and sorts, on the list only', () => {
    const { filters, sort } = vessels.plans.get('list') ?? { filters: [], sort: [] };
    expect(filters.map(({ name, column, operator }) => [name, column.name, operator])).to.deep.equal([
      ['kind', 'kind', 'oneOfThese'],
      ['name', 'name', 'equals'],
      ['from', 'builtYear', 'atLeast'],
      ['to', 'builtYear', 'atMost'],
      ['q', 'name', 'contains'],
      ['stray', 'operatorId', 'isNull'],
    ]);
    expect(sort.map(({ name }) => name)).to.deep.equal(['name', 'builtYear']);
    expect(vessels.plans.get('read')?.filters).to.deep.equal([]);
  });

  it('refuses inputs over another entity, and patches where there are none', () => {
    const message = declarationError(() =>
      collection('/vessels', fleet.vessel, {
        create: { takes: NewCall },
        amend: { takes: NewVessel },
        replace: { takes: amending(NewVessel, (all) => all) },
      } as Any),
    );
    expect(message).to.contain(
      '/vessels create: it is about vessel, but takes NewCall, an input over portCall',
    );
    expect(message).to.contain('/vessels amend: expected amending(input');
    expect(message).to.contain('/vessels replace: expected input(');
    const own = () => endpoint('POST /calls', { from: fleet.vessel, returns: Card, takes: NewCall as Any });
    expect(declarationError(own)).to.contain('it is about vessel, but takes NewCall');
  });

  it('is under a parent, over its composite key too', () => {
    const calls = collection('/vessels/{vessel}/calls', fleet.portCall, {
      under: 'vessel',
      list: list(CallLine),
      read: CallLine,
    });
    expect(calls.plans.get('read')).to.deep.include({
      path: '/vessels/{vessel}/calls/{id}',
      parameters: ['vessel', 'id'],
    });
    expect(calls.plans.get('list')?.under).to.deep.include({ parameters: ['vessel'] });
    const Pilotage = shape(fleet.pilotage, ({ pilotId }) => ({ pilotId }));
    const both = collection('/pilotages', fleet.pilotage, { read: Pilotage });
    expect(both.plans.get('read')?.path).to.equal('/pilotages/{portCallId}/{pilotId}');
  });

  it('has parameters that are whole parts of its path, and name one row', () => {
    for (const path of ['/v{id}', '/{id}.json', '/{a}{b}', 'vessels', '/{}', '/{1}', '/a b']) {
      expect(
        declarationError(() => collection(path, fleet.vessel, { read: Card })),
        path,
      ).to.contain('expected a path');
    }
    for (const path of ['/', '/a/b-c', '/{vessel}', '/a/{vessel}/b']) {
      expect(collection(path, fleet.vessel, { read: Card }).plans.size, path).to.equal(1);
    }
    const pairs = model(
      {
        pair: entity('pair', { a: integer().key(), b: integer().key() }),
        part: entity('part', { id: integer().key(), a: integer(), b: integer() }),
      },
      { part: { pair: toOne('pair', ['a', 'b']) } },
    );
    const within = model(
      {
        pair: entity('pair', { a: integer().key(), b: integer().key() }),
        part: entity('part', { a: integer().key(), b: integer().key(), no: integer().key() }),
      },
      { part: { pair: toOne('pair', ['a', 'b']) } },
    );
    const Within = shape(within.part, ({ no }) => ({ no }));
    const parts = collection('/pairs/{a}/{b}/parts', within.part, { under: 'pair', read: Within });
    expect(parts.plans.get('read')?.path).to.equal('/pairs/{a}/{b}/parts/{no}');
    const Part = shape(pairs.part, ({ id }) => ({ id }));
    const under = () => collection('/pairs/{pair}/parts', pairs.part, { under: 'pair', read: Part });
    expect(declarationError(under)).to.contain('the path has no parameter {a} and {b}');
  });

  it('lists everything that is wrong with it', () => {
    const message = declarationError(() =>
      collection('/ves sels', fleet.portCall, {
        list: CallLine,
        read: list(CallLine),
        raed: CallLine,
        amend: { returns: Card },
        under: 'vesel',
        filters: (c: Any) => ({ a: equals(c.status, 'sailed'), b: equals(c.stats), c: 5 }),
        sort: ['etaa'],
      } as Any),
    );
    expect(message).to.contain('/ves sels: expected a path');
    expect(message).to.contain('/ves sels list: expected list(shape) or page(shape)');
    expect(message).to.contain('/ves sels read: expected a shape');
    expect(message).to.contain('raed: there is no such operation. Did you mean "read"?');
    expect(message).to.contain(
      '/ves sels amend: it is about portCall, but returns Card, a shape over vessel',
    );
    expect(message).to.contain('under: portCall has no to-one link "vesel". Did you mean "vessel"?');
    expect(message).to.contain('filter a: a filter names a column only');
    expect(message).to.contain('filter b: portCall has no column or link "stats". Did you mean "status"?');
    expect(message).to.contain('filter c: a filter names a column only');
    expect(message).to.contain('sort: cannot sort by "etaa"');
    const sealed = declarationError(() =>
      collection('/v', fleet.vessel, {
        filters: (v: Any) => ({ phone: equals(v.masterPhone) }),
        sort: ['masterPhone' as Any],
        list: list(Card),
      }),
    );
    expect(sealed)
      .to.contain('filter phone: a sealed column cannot decide')
      .and.contain('would show a sealed column');
    expect(declarationError(() => collection('/v', fleet.vessel, {}))).to.contain('it has no operation');
    const noParameter = declarationError(() =>
      collection('/calls', fleet.portCall, { under: 'vessel', list: list(CallLine) }),
    );
    expect(noParameter).to.contain('the path has no parameter {vessel}');
  });
});

describe('the names of an API', () => {
  const names = apiNames({
    audiences: ['agent', 'office'],
    asks: ['sign'],
    endpoints: ['vessels.read', 'list'],
  });

  it('are taken by audience, asked, unseal and at, and given to api', () => {
    const { asked, at, audience, unseal } = names;
    const Vessel = shape(
      fleet.vessel,
      (v) => ({
        id: v.id,
        name: at({ list: v.name, 'vessels.read': v.callSign, otherwise: v.kind }),
        sign: given(asked('sign'), v.callSign),
        built: given(audience('agent', 'office'), v.builtYear),
        phone: unseal(['office'], v.masterPhone),
      }),
      { name: 'Vessel' },
    );
    const { plan } = api({
      title: 'T',
      version: '1',
      audiences: names.audiences,
      asks: names.asks,
      endpoints: { vessels: collection('/vessels', fleet.vessel, { list: list(Vessel), read: Vessel }) },
    });
    expect(plan.audiences).to.deep.equal(['agent', 'office']);
    const situation = { endpoint: 'vessels.read', audience: 'office', asked: ['sign'] } as const;
    expect(writer(Vessel, situation).object(vesselRow)).to.deep.equal({
      id: 1,
      name: 'QA1',
      sign: 'QA1',
      built: 1990,
      phone: '+00 555 765 4321',
    });
  });

  it('that are not there are told by api, whoever overlooked them', () => {
    const Odd = shape(fleet.vessel, (v) => ({ id: given((names.audience as Any)('agnt'), v.id) }), {
      name: 'Odd',
    });
    const made = () =>
      api({
        title: 'T',
        version: '1',
        audiences: names.audiences,
        endpoints: { odd: endpoint('GET /odd', { from: fleet.vessel, returns: list(Odd) }) },
      });
    expect(declarationError(made)).to.contain('Odd.id: there is no audience "agnt". Did you mean "agent"?');
    expect(apiNames({})).to.deep.include({ audiences: [], asks: [] });
  });
});

describe('a situation at an API', () => {
  const Vessel = shape(fleet.vessel, (v) => ({ id: v.id, built: given(audience('agent'), v.builtYear) }));
  const office = api({
    title: 'Office',
    version: '1',
    audiences: ['public', 'agent'],
    endpoints: { vessels: collection('/vessels', fleet.vessel, { list: list(Vessel), read: Vessel }) },
  });

  it('has the names of the API, whatever the body differs for', () => {
    const forPublic = situationOf(office, { endpoint: 'vessels.read', audience: 'public', fields: ['id'] });
    expect(forPublic).to.deep.equal({ endpoint: 'vessels.read', audience: 'public', fields: ['id'] });
    expect(writer(Vessel, forPublic).object(vesselRow)).to.deep.equal({ id: 1 });
    const { built } = writer(Vessel, situationOf(office, { audience: 'agent' })).object(vesselRow);
    expect(built).to.equal(1990);
    expect(situationOf(office, { audience: null })).to.deep.equal({ audience: null });
  });

  it('refuses names that are not there, with those that are near', () => {
    const wrong = (situation: object) => () => situationOf(office, situation as Any);
    expect(wrong({ audience: 'agnet' })).to.throw(
      GriboError,
      'there is no audience "agnet". Did you mean "agent"?',
    );
    expect(wrong({ endpoint: 'vessels.raed' })).to.throw(GriboError, 'Did you mean "vessels.read"?');
    expect(thrownBy(wrong({ endpoint: 'read' }))).to.include({ code: 'UNKNOWN', path: 'endpoint' });
  });
});

describe('api', () => {
  it('takes no name for an audience that every object has', () => {
    for (const name of ['constructor', '__proto__', ''])
      expect(
        declarationError(() => api({ title: 'A', version: '1', audiences: [name], endpoints: {} })),
      ).to.contain(`audiences: "${name}" is no name for an audience`);
  });

  it('names its endpoints, with dots for collections and groups', () => {
    const options = endpoint('GET /vessels/options', { from: fleet.vessel, returns: list(Card) });
    const { plan } = api({
      title: 'T',
      version: '1',
      endpoints: {
        office: { vessels },
        'vessels.options': options,
        calls: collection('/calls', fleet.portCall, { read: CallLine }),
      },
    });
    expect(plan.endpoints.map(({ name }) => name)).to.deep.equal([
      'office.vessels.list',
      'office.vessels.read',
      'office.vessels.create',
      'office.vessels.replace',
      'office.vessels.amend',
      'office.vessels.remove',
      'vessels.options',
      'calls.read',
    ]);
  });

  it('lists every name in it that is not there, once', () => {
    const Odd = shape(
      fleet.vessel,
      (v) => ({
        a: at({ raed: v.id, list: v.id, 'vessels.read': v.id, otherwise: v.id }),
        b: given(audience('agnt'), v.id),
        c: unseal('office', v.masterPhone),
        d: { e: given(asked('opertor'), v.id) },
      }),
      { name: 'Odd' },
    );
    const message = declarationError(() =>
      api({
        title: 'T',
        version: '1',
        audiences: ['agent', 'office'],
        asks: ['operator'],
        endpoints: {
          vessels: collection('/vessels', fleet.vessel, {
            list: list(Odd),
            read: Odd,
            audiences: ['nobody'],
          }),
          again: endpoint('GET /vessels/{id}', { from: fleet.vessel, returns: Odd }),
          other: endpoint('GET /other/{number}/{number}', { from: fleet.vessel, returns: Card }),
        },
      }),
    );
    expect(message.split('\n')).to.deep.equal([
      'api "T": 9 things are wrong',
      '  again: answers GET /vessels/{id}, as vessels.read does',
      '  vessels.list: there is no audience "nobody".',
      '  vessels.read: there is no audience "nobody".',
      '  other: {number} is no key of vessel; its key is {id}',
      '  other: has the same parameter twice',
      '  Odd.a: no endpoint is called "raed". Did you mean "read"?',
      '  Odd.b: there is no audience "agnt". Did you mean "agent"?',
      '  Odd.d.e: "opertor" is not among the names to ask for. Did you mean "operator"?',
      '  asks: "operator" is never used. Did you mean "opertor"?',
    ]);
  });

  it('looks at what is elsewhere, and at envelopes', () => {
    const Odd = shape(
      fleet.vessel,
      (v) => ({ id: v.id, a: at({ otherwise: given(audience('nobody'), v.id) }) }),
      { name: 'Odd' },
    );
    const wrapped = wrap(Odd, (content) => ({
      data: content,
      extra: given(audience('noone'), { x: constant(1) }),
    }));
    const read = endpoint('GET /vessels/{id}', { from: fleet.vessel, returns: wrapped });
    const message = declarationError(() =>
      api({ title: 'T', version: '1', audiences: ['agent'], endpoints: { read } }),
    );
    expect(message).to.contain('Odd.a: there is no audience "nobody"');
    expect(message).to.contain('wrap(Odd).extra: there is no audience "noone"');
  });
});
