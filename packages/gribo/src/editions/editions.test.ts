import { expect } from 'chai';
import {
  amending,
  api,
  audience,
  collection,
  compare,
  constant,
  contains,
  contractOf,
  editionBefore,
  editionFrom,
  endpoint,
  equals,
  given,
  input,
  list,
  ofEdition,
  page,
  preset,
  reader,
  rowRule,
  shape,
  situationOf,
  text,
  unseal,
  values,
  writer,
} from '../index.js';
import { inEdition, settledInput } from '../kit.js';
import { declarationError } from '../testing/engines.js';
import { fleet, vesselRow } from '../testing/fleet.js';

const OLD = '2025-11';
const MID = '2026-05';
const NEW = '2026-11';

const Vessel = shape(
  fleet.vessel,
  (v) => ({
    id: v.id,
    // Renamed in the second.
    name: given(editionBefore(MID), v.name),
    title: given(editionFrom(MID), v.name),
    // A number that became an object with its unit in the third.
    built: given(editionFrom(NEW), { value: v.builtYear, unit: constant('year') }, v.builtYear),
    phone: given(editionFrom(MID), unseal('office', v.masterPhone)),
  }),
  { name: 'Vessel' },
);

const NewVessel = input(
  fleet.vessel,
  (v) => ({
    name: given(editionBefore(MID), v.name),
    title: given(editionFrom(MID), v.name),
    kind: given(editionFrom(NEW), v.kind, preset(v.kind, 'tug')),
  }),
  { name: 'NewVessel' },
);

const vessels = collection('/vessels', fleet.vessel, {
  list: given(editionFrom(NEW), page(Vessel, { size: 2 }), list(Vessel)),
  read: Vessel,
  create: { takes: NewVessel, returns: Vessel },
  filters: (v) => ({
    name: given(editionFrom(MID), contains(v.name), equals(v.name)),
    year: given(editionFrom(NEW), equals(v.builtYear)),
  }),
  sort: ['id', { by: 'name', given: editionFrom(MID) }],
});

const moved = given(
  editionFrom(MID),
  endpoint('POST /vessels/{id}/inspections', { from: fleet.vessel, takes: values({ reason: text() }) }),
  endpoint('POST /vessels/{id}/inspect', { from: fleet.vessel, takes: values({ why: text() }) }),
);

const fleetApi = api({
  title: 'Fleet',
  version: '1.0.0',
  editions: [{ name: OLD, deprecated: { since: '2026-05-01', sunset: '2027-01-01' } }, MID, NEW],
  audiences: ['agent', 'office'],
  rows: [rowRule(fleet.vessel, (v) => equals(v.active, true))],
  endpoints: {
    vessels,
    inspect: moved,
    operators: given(
      editionFrom(NEW),
      collection('/operators', fleet.operator, {
        list: list(shape(fleet.operator, ({ id, name }) => ({ id, name }))),
      }),
    ),
  },
});

const planIn = (name: string) => {
  const plan = inEdition(fleetApi.plan, name);
  if (plan === undefined) throw new Error(`no edition ${name}`);
  return plan;
};

const at = (name: string, endpointName: string) => {
  const found = planIn(name).endpoints.find((one) => one.name === endpointName);
  if (found === undefined) throw new Error(`no endpoint ${endpointName} in ${name}`);
  return found;
};

describe('editions', () => {
  it('are each an ordinary API: members, bodies, filters, sorts, endpoints as they are in it', () => {
    const written = (name: string) =>
      writer(Vessel, { edition: name, audience: 'office' }).object(vesselRow as never);
    expect(written(OLD)).to.deep.equal({ id: 1, name: 'Anselma', built: 1990 });
    expect(written(MID)).to.deep.equal({ id: 1, title: 'Anselma', built: 1990, phone: '+00 555 765 4321' });
    expect(written(NEW)).to.deep.equal({
      id: 1,
      title: 'Anselma',
      built: { value: 1990, unit: 'year' },
      phone: '+00 555 765 4321',
    });
    expect(writer(Vessel, { audience: 'office' }).object(vesselRow as never)).to.deep.equal(written(NEW));

    expect(planIn(OLD).endpoints.map(({ name, path }) => [name, path])).to.deep.equal([
      ['vessels.list', '/vessels'],
      ['vessels.read', '/vessels/{id}'],
      ['vessels.create', '/vessels'],
      ['inspect', '/vessels/{id}/inspect'],
    ]);
    expect(at(NEW, 'inspect').path).to.equal('/vessels/{id}/inspections');
    expect(planIn(NEW).endpoints.map(({ name }) => name)).to.contain('operators.list');
    expect([OLD, MID, NEW].map((name) => at(name, 'vessels.list').returns?.kind)).to.deep.equal([
      'list',
      'list',
      'envelope',
    ]);
    expect(
      [OLD, MID, NEW].map((name) => at(name, 'vessels.list').filters.map((f) => [f.name, f.operator])),
    ).to.deep.equal([
      [['name', 'equals']],
      [['name', 'contains']],
      [
        ['name', 'contains'],
        ['year', 'equals'],
      ],
    ]);
    expect([OLD, MID].map((name) => at(name, 'vessels.list').sort.map((key) => key.name))).to.deep.equal([
      ['id'],
      ['id', 'name'],
    ]);
  });

  it('take what comes in as each of them has it', () => {
    const read = (name: string, body: object) => {
      const { takes } = at(name, 'vessels.create');
      if (takes === null) throw new Error('nothing is taken');
      return reader({ plan: settledInput(takes, null) }).object(body);
    };
    expect(read(OLD, { name: 'Anselma' })).to.deep.include({ value: { name: 'Anselma', kind: 'tug' } });
    expect(read(OLD, { title: 'Anselma' }).ok).to.equal(false);
    expect(read(MID, { title: 'Anselma' })).to.deep.include({ value: { name: 'Anselma', kind: 'tug' } });
    expect(read(NEW, { title: 'Anselma' }).ok).to.equal(false);
    expect(read(NEW, { title: 'Anselma', kind: 'bulk' }).ok).to.equal(true);
    // By itself, an input is the newest.
    expect(reader(NewVessel).object({ title: 'Anselma', kind: 'bulk' }).ok).to.equal(true);
    expect(reader(NewVessel).object({ name: 'Anselma', kind: 'bulk' }).ok).to.equal(false);
  });

  it('share what is the same in them, so that they cost what they change', () => {
    const Plain = shape(fleet.vessel, ({ id, name }) => ({ id, name }));
    const two = api({
      title: 'Two',
      version: '1',
      editions: ['v9', 'v10'],
      endpoints: {
        all: endpoint('GET /all', { from: fleet.vessel, returns: list(Plain) }),
        some: given(editionFrom('v10'), endpoint('GET /some', { from: fleet.vessel, returns: list(Plain) })),
      },
    });
    const bodies = [inEdition(two.plan, 'v9'), two.plan].map((plan) => plan?.endpoints[0]?.returns);
    expect(bodies[0]).to.equal(bodies[1]);
    expect(two.plan.earlier.map(({ endpoints }) => endpoints.length)).to.deep.equal([1]);
  });

  it('are declared oldest first, and named where they are there', () => {
    const Odd = shape(fleet.vessel, (v) => ({ a: given(editionFrom('2026-06'), v.id), b: v.name }));
    const wrong = (editions: readonly string[]) =>
      declarationError(() =>
        api({
          title: 'Odd',
          version: '1',
          editions,
          endpoints: { odd: endpoint('GET /odd', { from: fleet.vessel, returns: list(Odd) }) },
        }),
      );
    expect(wrong(['2025-11', '2026-05'])).to.contain(
      'odd: there is no edition "2026-06". Did you mean "2026-05"?',
    );
    expect(wrong([])).to.contain('odd: there is no edition "2026-06". The API declares none');
    expect(wrong(['v10', 'v9'])).to.contain(
      '"v10" stands before "v9", and is not the earlier one: oldest first, numbers by their value',
    );
    expect(wrong(['a', 'a'])).to.contain('"a" is there twice');
    expect(wrong(['a b'])).to.contain('a name is letters, digits, dots, dashes and underscores');
  });

  it('are compared as contracts: rows of a list that became a page are still rows', () => {
    const { differences } = compare(
      contractOf(ofEdition(fleetApi, MID)),
      contractOf(ofEdition(fleetApi, NEW)),
    );
    const atList = differences.filter(({ reach }) =>
      reach.some(({ endpoint: at_ }) => at_ === 'vessels.list'),
    );
    expect(atList.map(({ code, path }) => `${code} ${path}`)).to.deep.equal([
      'body-changed response',
      'type-changed items[].built',
      'parameter-added year',
    ]);
    const names = [OLD, MID].map((name) => contractOf(ofEdition(fleetApi, name)).edition);
    expect(names).to.deep.equal([OLD, MID]);
    expect(() => ofEdition(fleetApi, '2027')).to.throw('there is no edition "2027"');
    expect(() => situationOf(fleetApi, { edition: '2027' as typeof OLD })).to.throw(
      'there is no edition "2027"',
    );
  });

  it('have endpoints of their own: a situation in one names none of another', () => {
    const both = api({
      title: 'Both',
      version: '1',
      editions: ['1', '2'],
      endpoints: {
        a: given(editionBefore('2'), endpoint('GET /a', { from: fleet.vessel })),
        b: endpoint('GET /b', { from: fleet.vessel }),
      },
    });
    expect(situationOf(both, { edition: '1', endpoint: 'a' })).to.include({ endpoint: 'a' });
    expect(situationOf(both, { endpoint: 'a' })).to.include({ endpoint: 'a' });
    expect(() => situationOf(both, { edition: '2', endpoint: 'a' })).to.throw('no endpoint is called "a"');
  });

  it('say what is wrong in the ones that were before', () => {
    const Renamed = shape(fleet.vessel, (v) => ({
      id: v.id,
      name: given(editionBefore('2'), given(audience('nobody'), v.name)),
      title: given(editionFrom('2'), v.name),
    }));
    const message = declarationError(() =>
      api({
        title: 'Old',
        version: '1',
        editions: ['1', '2'],
        endpoints: {
          a: given(editionBefore('2'), endpoint('GET /b', { from: fleet.vessel, returns: list(Renamed) })),
          b: endpoint('GET /b', { from: fleet.vessel, returns: list(Renamed) }),
        },
      }),
    );
    expect(message).to.contain('vessel.name (1): there is no audience "nobody"');
    expect(message).to.contain('b (1): answers GET /b, as a does');
  });

  it('decide alone between two, and of what an API is made of', () => {
    const both = () => shape(fleet.vessel, (v) => ({ a: given(audience('agent') as never, v.id, v.name) }));
    expect(declarationError(both)).to.contain('only an edition decides between two');
    const body = () =>
      endpoint('GET /b', {
        from: fleet.vessel,
        returns: given(audience('agent'), list(Vessel)) as never,
      });
    expect(declarationError(body)).to.contain('only editions decide what there is here');
    const sort = () =>
      collection('/c', fleet.vessel, {
        list: list(Vessel),
        sort: [{ by: 'name', given: audience('agent') }],
      });
    expect(declarationError(sort)).to.contain('given is about editions here');
  });

  it('let two members of an input set one column, in one edition one of them', () => {
    const twice = () =>
      input(fleet.vessel, (v) => ({ a: v.name, b: given(editionFrom('2'), v.name) }), { name: 'Twice' });
    expect(declarationError(twice)).to.contain('Twice.b: sets name, as Twice.a does');
    const Edit = amending(NewVessel, ({ title, ...rest }) => rest);
    expect(Edit.plan.fixed.map(({ member }) => member)).to.deep.equal(['title']);
    // What differs by edition is taken along as it is.
    expect(Edit.plan.fields.map((field) => field.name)).to.deep.equal(['name', 'kind', 'kind']);
    expect(reader(Edit).object({ kind: 'bulk' })).to.deep.equal({ ok: true, value: { kind: 'bulk' } });
  });
});
