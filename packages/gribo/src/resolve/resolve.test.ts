import { expect } from 'chai';
import {
  all,
  any,
  asked,
  at,
  audience,
  entity,
  given,
  holds,
  integer,
  list,
  loadPlan,
  model,
  not,
  page,
  type RequestError,
  resolve,
  type Situation,
  shape,
  text,
  unlessNull,
  unseal,
  wrap,
  writer,
} from '../index.js';
import { declarationError, thrownBy, written, writtenRow } from '../testing/engines.js';
import { bareVesselRow, fleet, vesselRow } from '../testing/fleet.js';
import { BoundedCache } from '../util/bounded-cache.js';

const OperatorBrief = shape(fleet.operator, ({ id, name }) => ({ id, name }), { name: 'OperatorBrief' });
const CallLine = shape(fleet.portCall, ({ id, status }) => ({ id, status }), { name: 'CallLine' });
const Vessel = shape(
  fleet.vessel,
  (v) => ({
    id: v.id,
    name: at({ list: v.name, otherwise: { full: v.name } }),
    size: { tonnage: v.tonnage, built: given(audience('agent'), v.builtYear) },
    operator: given(asked('operator'), OperatorBrief(v.operator)),
    calls: given(all(audience('agent'), asked('calls')), CallLine(v.portCalls)),
    phone: unseal('harbourMaster', v.masterPhone),
    sign: unlessNull(v.callSign),
    active: given(
      holds([v.active], (active) => active),
      v.kind,
    ),
  }),
  { name: 'Vessel' },
);

const issuesOf = (situation: Situation): string[] => {
  const error = thrownBy(() => resolve(Vessel, situation)) as RequestError;
  expect(error).to.include({ name: 'RequestError', code: 'REQUEST' });
  return error.issues.map(
    ({ parameter, code, value, message }) => `${parameter} ${code} ${value}: ${message}`,
  );
};

describe('resolve', () => {
  it('settles what the situation decides: no static condition is left, and nothing is loaded for it', () => {
    const text = JSON.stringify(
      resolve(Vessel, { endpoint: 'vessels.list' }).shape.fields.map(({ node }) => node),
    );
    expect(text).to.not.match(/"kind":"(cases|given|unsealed|audience|asked)"/);
    const columns = (situation: Situation): string[] =>
      loadPlan(Vessel, situation).columns.map(({ name }) => name);
    expect(columns({})).to.deep.equal(['id', 'name', 'callSign', 'kind', 'tonnage', 'active']);
    expect(columns({ audience: 'harbourMaster' })).to.include('masterPhone');
    expect(columns({ audience: 'agent' }))
      .to.include('builtYear')
      .and.not.include('masterPhone');
    expect(loadPlan(Vessel, { asked: ['operator'] }).links.map(({ link }) => link.name)).to.deep.equal([
      'operator',
    ]);
  });

  it('is frozen, and the same object for the same situation', () => {
    const first = resolve(Vessel, { audience: 'agent', asked: ['operator', 'calls'] });
    expect(Object.isFrozen(first)).to.equal(true);
    expect(resolve(Vessel, { audience: 'agent', asked: ['calls', 'operator', 'calls'] })).to.equal(first);
    expect(resolve(Vessel, { audience: 'agent' })).to.not.equal(first);
    const [one = '', other = ''] = resolve(Vessel).shape.fields.map(({ name }) => name);
    const some = resolve(Vessel, { fields: [one, other] });
    expect(resolve(Vessel, { fields: [other, one, other] })).to.equal(some);
    // No members is something else than all of them.
    expect(resolve(Vessel, { fields: [] }).shape.fields).to.deep.equal([]);
    expect(resolve(Vessel).shape.fields).to.have.length.above(2);
  });

  it('does not grow without bound, however many situations callers choose', () => {
    const cache = new BoundedCache<number>(3);
    for (let i = 0; i < 10; i++) cache.get(`k${i}`, () => i);
    expect(cache.size).to.equal(3);
    expect(cache.get('k9', () => -1)).to.equal(9);
    expect(cache.get('k0', () => -1)).to.equal(-1);
    // What was used last stays.
    cache.get('k8', () => -2);
    cache.get('new', () => 0);
    expect(cache.get('k8', () => -2)).to.equal(8);
    const first = resolve(Vessel, { fields: ['id'] });
    for (let i = 0; i < 100; i++) resolve(Vessel, { endpoint: `e${i}.list` });
    expect(resolve(Vessel, { fields: ['id'] })).to.not.equal(first);
  });

  it('says which names can be asked for, for this audience at this endpoint', () => {
    expect(resolve(Vessel).asks).to.deep.equal(['operator']);
    expect(resolve(Vessel, { audience: 'agent' }).asks).to.deep.equal(['operator', 'calls']);
    const Odd = shape(fleet.vessel, (v) => ({
      a: given(not(asked('a')), v.id),
      b: given(any(audience('agent'), asked('b')), v.id),
      c: given(all(asked('c'), not(asked('d'))), v.id),
      e: given(audience('agent'), { f: given(asked('f'), v.id) }),
    }));
    expect(resolve(Odd).asks).to.deep.equal(['a', 'b', 'c', 'd']);
    expect(resolve(Odd, { audience: 'agent' }).asks).to.deep.equal(['a', 'c', 'd', 'f']);
    expect(writtenRow(Odd, vesselRow, { asked: ['c'] })).to.deep.equal({ a: 1, c: 1 });
    expect(writtenRow(Odd, vesselRow, { asked: ['a', 'c', 'd'] })).to.deep.equal({});
  });

  it('keeps only the fields a caller wants', () => {
    const fields = (...paths: string[]): unknown =>
      writtenRow(Vessel, vesselRow, { audience: 'agent', asked: ['operator', 'calls'], fields: paths });
    expect(fields('id', 'size.tonnage')).to.deep.equal({ id: 1, size: { tonnage: '12345.50' } });
    expect(fields('operator')).to.deep.equal({ operator: { id: 3, name: 'Lantern Bay' } });
    expect(fields('operator.name', 'calls.status')).to.deep.equal({
      operator: { name: 'Lantern Bay' },
      calls: [{ status: 'sailed' }, { status: 'berthed' }, { status: 'berthed' }],
    });
    expect(fields('size.built', 'size')).to.deep.equal({ size: { tonnage: '12345.50', built: 1990 } });
    expect(fields('active')).to.deep.equal({ active: 'tanker' });
    expect(loadPlan(Vessel, { fields: ['id'] }).columns.map(({ name }) => name)).to.deep.equal(['id']);
  });

  it('refuses what is not there or not for them, with the nearest name, and never writes less or more', () => {
    expect(issuesOf({ asked: ['operatr', 'zzz'] })).to.deep.equal([
      'with unknown operatr: There is nothing called "operatr" to ask for. Did you mean "operator"?',
      'with unknown zzz: There is nothing called "zzz" to ask for. There are: operator.',
    ]);
    expect(issuesOf({ fields: ['id', 'size.tonage', 'id.x', 'nmae', ''] })).to.deep.equal([
      'fields unknown nmae: There is no member "nmae". Did you mean "name"?',
      'fields unknown : There is no member "". There are: id, name, size, sign, active.',
      'fields unknown id.x: There is no member "id.x".',
      'fields unknown size.tonage: There is no member "size.tonage". Did you mean "tonnage"?',
    ]);
  });

  it('does not tell a caller of members that are for others', () => {
    for (const name of ['phone', 'calls', 'operator']) {
      const [issue] = issuesOf({ audience: 'public', fields: [name] });
      expect(issue).to.not.match(/Did you mean/);
    }
    expect(issuesOf({ audience: 'public', asked: ['calls'] })[0]).to.contain('There are: operator.');
    expect(issuesOf({ audience: 'public', fields: ['size.built'] })[0]).to.contain('There are: tonnage.');
  });
});

describe('page and wrap', () => {
  const rows = [vesselRow, bareVesselRow];
  const Card = shape(fleet.vessel, ({ id, name }) => ({ id, name }), { name: 'Card' });
  const cards = [
    { id: 1, name: 'Anselma' },
    { id: 2, name: 'Anselma' },
  ];

  it('page by number, with totals or without', () => {
    const answer = { items: rows, number: 1, size: 2, total: 5, pages: 3 };
    expect(written(page(Card, {}), answer)).to.deep.equal({
      items: cards,
      page: { number: 1, size: 2, total: 5, pages: 3 },
    });
    expect(written(page(Card, { totals: false }), { items: rows, number: 1, size: 2 })).to.deep.equal({
      items: cards,
      page: { number: 1, size: 2 },
    });
  });

  it('page by cursor', () => {
    const answer = { items: rows, size: 2, next: 'abc', previous: null, total: 9 };
    expect(written(page(Card, { by: 'cursor' }), answer)).to.deep.equal({
      items: cards,
      page: { size: 2, next: 'abc', previous: null },
    });
    expect(written(page(Card, { by: 'cursor', totals: true }), answer)).to.have.nested.property(
      'page.total',
      9,
    );
  });

  it('keep their settings, and refuse sizes and orders that are none', () => {
    const { plan } = page(Card, { size: 200, sort: ['name desc', 'id'] });
    expect(plan.page).to.deep.include({ by: 'number', size: 200, max: 200, totals: true });
    expect(plan.page?.sort.map(({ column, descending }) => [column.name, descending])).to.deep.equal([
      ['name', true],
      ['id', false],
    ]);
    const hidden = model(
      { hidden: entity('hidden', { id: integer().key().sealed('security'), name: text() }) },
      {},
    );
    const Hidden = shape(hidden.hidden, ({ name }) => ({ name }));
    const shown = declarationError(() => page(Hidden, { by: 'cursor' }));
    expect(shown).to.contain('a cursor would show the key id, which is sealed');
    const wrong = declarationError(() =>
      page(Card, { size: 0, max: -1, sort: ['masterPhone' as 'name', 'nme' as 'name'] }),
    );
    expect(wrong)
      .to.contain('size must be')
      .and.contain('max must be')
      .and.contain('would show a sealed column')
      .and.contain('no such column. Did you mean "name"?');
  });

  it('load what the order needs, and what the items need', () => {
    const plan = loadPlan(page(Card, { sort: ['builtYear'] }));
    expect([plan.entity, ...plan.columns.map(({ name }) => name)]).to.deep.equal([
      'vessel',
      'id',
      'name',
      'builtYear',
    ]);
    expect(
      loadPlan(wrap(Card, (content) => ({ data: content }))).columns.map(({ name }) => name),
    ).to.deep.equal(['id', 'name']);
  });

  it('wrap any body in a literal', () => {
    const Listed = wrap(list(Card), (content, info) => ({ data: content, meta: { total: info.total } }));
    expect(written(Listed, { items: rows, total: 2 })).to.deep.equal({ data: cards, meta: { total: 2 } });
    const One = wrap(Card, (content) => ({ data: content }));
    expect(written(One, { item: vesselRow })).to.deep.equal({ data: cards[0] });
    const Paged = wrap(page(Card, { size: 5 }), (content, info) => ({
      rows: content,
      more: unlessNull(info.next),
    }));
    expect(written(Paged, { items: rows, next: null })).to.deep.equal({ rows: cards });
    expect(Paged.plan.page?.size).to.equal(5);
  });

  it('settle and select what is inside them', () => {
    const Listed = wrap(list(Vessel), (content) => ({ data: content, inner: { again: content } }));
    const situation = { endpoint: 'vessels.list', asked: ['operator'], fields: ['name', 'operator.name'] };
    const item = { name: 'Anselma', operator: { name: 'Lantern Bay' } };
    expect(written(Listed, { items: [vesselRow] }, situation)).to.deep.equal({
      data: [item],
      inner: { again: [item] },
    });
  });

  it('say where a row inside them does not fit, and what an answer lacks', () => {
    const wrong = thrownBy(() =>
      writer(page(Card, {})).json({ items: [vesselRow, {}], number: 1, size: 2, total: 2, pages: 1 }),
    );
    expect((wrong as Error).message).to.contain('page(Card).items[1].id: expected an integer, got nothing');
    const lacking = thrownBy(() => writer(page(Card, {})).json({ items: [] }));
    expect((lacking as Error).message).to.contain('page(Card).page.number');
    expect(declarationError(() => wrap(Card, () => ({ data: 5 as never })))).to.contain(
      'wrap(Card).data: expected a member',
    );
  });
});
