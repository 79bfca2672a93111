import { expect } from 'chai';
import {
  type AnyApi,
  all,
  any,
  api,
  atLeast,
  audience,
  callerOf,
  collection,
  compare,
  contractOf,
  entity,
  equals,
  given,
  holds,
  integer,
  isNull,
  list,
  model,
  openApi,
  rowRule,
  shape,
  some,
  text,
  timestamp,
  toMany,
  toOne,
} from '../index.js';

const db = model(
  {
    yard: entity('yard', { id: integer().key(), name: text() }),
    crate: entity('crate', {
      id: integer().key(),
      label: text(),
      weight: integer(),
      code: text().sealed('secret'),
      due: timestamp().nullable(),
      yardId: integer(),
    }),
  },
  { yard: { crates: toMany('crate', 'yardId') }, crate: { yard: toOne('yard', 'yardId') } },
);
const caller = callerOf({ yardId: integer() });

const crateOver = (limit: number, rest: number) =>
  shape(
    db.crate,
    (c) => ({
      id: c.id,
      label: c.label,
      yard: given(audience('office'), c.yardId),
      heavy: given(atLeast(c.weight, limit), c.weight),
      known: given(
        holds([c.code], (code) => code !== 'x'),
        c.label,
      ),
      odd: given(
        holds([c.weight], (weight) => weight % 2 === rest),
        c.weight,
      ),
    }),
    { name: 'Crate' },
  );
const Crate = crateOver(100, 1);
const Yard = shape(
  db.yard,
  (y) => ({ id: y.id, crates: Crate(some(y.crates, { where: (c) => [equals(c.label, 'a')] })) }),
  { name: 'Yard' },
);
const own = rowRule(db.crate, (c) => any(audience('office'), equals(c.yardId, caller.yardId)), {
  change: (c) => any(audience('office'), all(equals(c.yardId, caller.yardId), isNull(c.due))),
  about: 'Only your yard.',
});
const yards = (rows = [own], Body = Crate): AnyApi =>
  api({
    title: 'Yards',
    version: '1.0.0',
    audiences: ['office', 'driver'],
    caller,
    rows,
    endpoints: {
      crates: collection('/crates', db.crate, {
        list: list(Body),
        remove: true,
        sort: ['label', { by: 'weight', audiences: ['office'] }],
        filters: (c) => ({ label: equals(c.label), yard: given(audience('office'), equals(c.yardId)) }),
        audiences: { remove: ['office', 'driver'] },
      }),
      yards: collection('/yards', db.yard, { list: list(Yard) }),
    },
  });

describe('conditions in contracts', () => {
  const contract = contractOf(yards());
  const crates = contract.endpoints.find(({ name }) => name === 'crates.list');
  const remove = contract.endpoints.find(({ name }) => name === 'crates.remove');
  const membersOf = (shapeName: string) =>
    Object.fromEntries((contract.shapes[shapeName]?.members ?? []).map((member) => [member.name, member]));

  it('say for which rows a member is there', () => {
    const { heavy, known, odd, label } = membersOf('Crate');
    expect(heavy?.where).to.deep.equal({ says: 'weight is at least 100' });
    expect(known?.where).to.deep.equal({ says: 'code of code', untold: true });
    expect(odd?.where).to.deep.equal({ says: 'code of weight', untold: true });
    expect(label).to.not.have.property('where');
  });

  it('say which rows are in a list', () => {
    const list = membersOf('Yard')['crates']?.type;
    expect(list).to.deep.include({ kind: 'list', where: { says: 'label is "a"' } });
  });

  it('say which rows are seen and changed, and by whom', () => {
    const see = { says: 'yardId is caller.yardId' };
    expect(crates?.rows).to.deep.equal([{ audiences: [null, 'driver'], see }]);
    expect(crates).to.not.have.property('rule');
    const change = { says: 'yardId is caller.yardId and due is null' };
    expect(remove?.rows).to.deep.equal([{ audiences: ['driver'], see, change }]);
    expect(remove?.rule).to.equal('Only your yard.');
    expect(contract.endpoints.find(({ name }) => name === 'yards.list')).to.not.have.property('rows');
  });

  it('say who may look for what, and sort by it', () => {
    expect(crates?.filters.map(({ name, audiences }) => [name, audiences])).to.deep.equal([
      ['label', undefined],
      ['yard', ['office']],
    ]);
    expect(crates?.sort).to.deep.equal([{ name: 'label' }, { name: 'weight', audiences: ['office'] }]);
  });

  it('are in documents, but for what is sealed and for others', () => {
    const whole = JSON.stringify(openApi(yards()));
    expect(whole).to.contain('Only for rows where weight is at least 100.');
    expect(whole).to.contain('Rows where label is');
    expect(whole).to.contain('For driver: rows where yardId is caller.yardId and due is null only.');
    expect(whole).to.contain('Only rows with this value. For office only.');
    expect(whole).to.contain('Only for some rows.').and.not.contain('code of');
    expect(whole).to.contain('It answers office, driver only. Only your yard.');
    const drivers = JSON.stringify(openApi(yards(), { audience: 'driver' }));
    expect(drivers).to.not.contain('"name":"yard"').and.not.contain('weight desc');
    expect(drivers).to.contain('label desc');
  });

  const told = (before: AnyApi, after: AnyApi): readonly string[] =>
    compare(contractOf(before), contractOf(after)).differences.map(
      ({ effect, code, path, message, reach }) =>
        `${effect} ${code} ${path} ${message} ${reach.map(({ endpoint, audiences }) => `${endpoint}(${audiences})`)}`,
    );

  it('of an endpoint that sends nothing and answers everybody are compared for each audience', () => {
    const removing = (rule: typeof own): AnyApi =>
      api({
        title: 'Yards',
        version: '1.0.0',
        audiences: ['office', 'driver'],
        caller,
        rows: [rule],
        endpoints: { crates: collection('/crates', db.crate, { remove: true }) },
      });
    const none = rowRule(db.crate, (c) => any(audience('office', 'driver'), equals(c.yardId, caller.yardId)));
    const drivers = rowRule(db.crate, (c) => any(audience('office'), equals(c.yardId, caller.yardId)));
    expect(told(removing(none), removing(drivers))).to.deep.equal([
      'risky rows-changed  Rows that may be seen: yardId is caller.yardId; it was: all of them. crates.remove(driver)',
      'risky rows-changed  Rows that may be changed: yardId is caller.yardId; it was: all of them. crates.remove(driver)',
    ]);
  });

  it('are compared', () => {
    expect(told(yards(), yards([own], crateOver(200, 0)))).to.deep.equal([
      'risky condition-changed heavy It is there where weight is at least 200; it was where weight is at least 100. crates.list(,driver,office)',
    ]);
    const narrower = rowRule(db.crate, (c) =>
      any(audience('office'), all(equals(c.yardId, caller.yardId), isNull(c.due))),
    );
    expect(told(yards(), yards([narrower]))).to.deep.equal([
      'risky rows-changed  Rows that may be seen: yardId is caller.yardId and due is null; it was: yardId is caller.yardId. crates.list(,driver),crates.remove(driver)',
    ]);
    expect(told(yards(), yards([]))).to.deep.equal([
      'safe rows-changed  Rows that may be seen: all of them; it was: yardId is caller.yardId. crates.list(,driver),crates.remove(driver)',
      'safe rows-changed  Rows that may be changed: all of them; it was: yardId is caller.yardId and due is null. crates.remove(driver)',
    ]);
  });
});
