import { expect } from 'chai';
import {
  api,
  callerOf,
  collection,
  entity,
  equals,
  integer,
  list,
  memoryStore,
  model,
  rowRule,
  type Store,
  shape,
  storeFor,
  text,
  toMany,
  toOne,
} from '../index.js';

const db = model(
  {
    profile: entity('profile', { id: integer().key(), tenantId: integer() }),
    item: entity('item', { tenantId: integer().key(), number: integer().key(), name: text() }),
    line: entity('line', {
      id: integer().key(),
      tenantId: integer(),
      itemNumber: integer().nullable(),
      profileId: integer().nullable(),
      orderId: integer().nullable(),
    }),
    order: entity('order', {
      id: integer().key(),
      tenantId: integer(),
      profileId: integer().nullable(),
      afterId: integer().nullable(),
    }),
  },
  {
    line: {
      item: toOne('item', { tenantId: 'tenantId', itemNumber: 'number' }),
      profile: toOne('profile', 'profileId', { optional: true }),
      order: toOne('order', 'orderId'),
    },
    order: {
      lines: toMany('line', { orderId: 'id' }),
      profile: toOne('profile', 'profileId'),
      after: toOne('order', 'afterId'),
    },
  },
);

const caller = callerOf({ tenantId: integer() });
const Line = shape(db.line, ({ id }) => ({ id }));

const shop = api({
  title: 'Shop',
  version: '1',
  caller,
  rows: [
    rowRule(db.profile, (p) => equals(p.tenantId, caller.tenantId)),
    rowRule(db.item, (i) => equals(i.tenantId, caller.tenantId)),
    rowRule(db.line, (l) => equals(l.tenantId, caller.tenantId)),
    rowRule(db.order, (o) => equals(o.tenantId, caller.tenantId)),
  ],
  endpoints: { lines: collection('/lines', db.line, { list: list(Line) }) },
});

describe('a reference', () => {
  let mine: Store;
  beforeEach(() => {
    const store = memoryStore(db, {
      profile: [
        { id: 1, tenantId: 1 },
        { id: 2, tenantId: 2 },
      ],
      item: [
        { tenantId: 1, number: 1, name: 'Rope' },
        { tenantId: 2, number: 9, name: 'Buoy' },
      ],
      order: [{ id: 1, tenantId: 1, profileId: null, afterId: null }],
      line: [{ id: 1, tenantId: 1, itemNumber: 1, profileId: null, orderId: 1 }],
    });
    mine = storeFor(store, shop, { tenantId: 1 });
  });

  const told = (work: Promise<unknown>): Promise<unknown> =>
    work.then(
      () => 'done',
      ({ code, reason, columns, about }) => [code, reason ?? about, columns],
    );
  const refused = (...columns: string[]): unknown => ['CONFLICT', 'reference', columns];
  const line = { id: 7, tenantId: 1, itemNumber: null, profileId: null, orderId: null };

  it('is decided on, whether or not the data make sure that there is a row behind it', async () => {
    for (const profileId of [2, 99])
      expect(await told(mine.create('line', { ...line, profileId }))).to.deep.equal(refused('profileId'));
    expect(await told(mine.create('line', { ...line, profileId: 1 }))).to.equal('done');
  });

  it('of several columns is decided on as a whole, also where a part of it stays or comes from the owner', async () => {
    expect(await told(mine.amend('line', [1], { itemNumber: 9 }))).to.deep.equal(
      refused('tenantId', 'itemNumber'),
    );
    expect(await told(mine.amend('line', [1], { itemNumber: null }))).to.equal('done');
    expect(await told(mine.amend('line', [1], { itemNumber: 1 }))).to.equal('done');
    const nested = (itemNumber: number) =>
      mine.amend('order', [1], { lines: [{ id: 8, tenantId: 1, itemNumber, profileId: null }] });
    expect(await told(nested(9))).to.deep.equal(refused('tenantId', 'itemNumber'));
    expect(await told(nested(1))).to.equal('done');
  });

  it('may name what the same change makes, in a row or in a list', async () => {
    const order = { id: 5, tenantId: 1, profileId: null, afterId: null };
    const made = { ...order, lines: [{ ...line, id: 20, itemNumber: 1 }] };
    expect(await told(mine.create('order', made))).to.equal('done');
    const batches = async function* (rows: readonly object[]) {
      yield rows;
    };
    const rows = [
      { ...line, id: 30, orderId: 5 },
      { ...line, id: 31, orderId: 1 },
    ];
    expect(await told(mine.createAll('line', batches(rows)))).to.equal('done');
    const wrong = [
      { ...line, id: 40, orderId: 5 },
      { ...line, id: 41, profileId: 2 },
    ];
    expect(await told(mine.createAll('line', batches(wrong)))).to.deep.equal(refused('profileId'));
    expect(await mine.count('line')).to.equal(4);
    // Wherever it stands in the list.
    for (const ids of [
      [50, 51],
      [61, 60],
    ]) {
      const chain = [...ids]
        .sort()
        .map((id, i, [first]) => ({ ...order, id, afterId: i === 0 ? null : first }));
      const inOrder = ids.map((id) => chain.find((one) => one.id === id) ?? {});
      expect(await told(mine.createAll('order', batches(inOrder)))).to.equal('done');
    }
  });

  it('is looked at before the rules of change are, and names nothing where it is null', async () => {
    const foreign = { ...line, tenantId: 2, profileId: 2 };
    expect(await told(mine.create('line', foreign))).to.deep.equal(refused('profileId'));
    expect(await told(mine.create('line', { ...foreign, profileId: null }))).to.deep.equal([
      'RULE',
      null,
      undefined,
    ]);
  });
});
