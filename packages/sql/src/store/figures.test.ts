import { expect } from 'chai';
import {
  atLeast,
  average,
  bigint,
  count,
  date,
  decimal,
  derive,
  entity,
  integer,
  list,
  loadPlan,
  maximum,
  minimum,
  model,
  oneOfThese,
  real,
  shape,
  some,
  sum,
  text,
  time,
  timestamp,
  toMany,
  toOne,
  writer,
} from 'gribo';
import { everyPlace, type Kept } from '../testing/every-place.js';

const db = model(
  {
    bill: entity('bill', { id: integer().key(), name: text() }),
    item: entity('item', {
      id: integer().key(),
      billId: integer(),
      price: decimal(20, 2),
      many: integer(),
      weight: bigint(),
      length: real().nullable(),
      day: date(),
      clock: time(),
      seen: timestamp(),
    }),
    tag: entity('tag', { id: integer().key(), worth: decimal(6, 2) }),
    tagging: entity('tagging', { billId: integer().key(), tagId: integer().key() }),
  },
  {
    bill: {
      items: toMany('item', 'billId'),
      tags: toMany('tag', { through: 'tagging', from: 'billId', to: 'tagId' }),
    },
    item: { bill: toOne('bill', 'billId') },
  },
);

const Bill = shape(db.bill, (b) => ({
  id: b.id,
  count: count(b.items),
  few: count(some(b.items, { sort: ['id'], limit: 2 })),
  total: sum(b.items, (i) => i.price),
  many: sum(b.items, (i) => i.many),
  weight: sum(b.items, (i) => i.weight),
  length: sum(b.items, (i) => i.length),
  dear: sum(some(b.items, { where: (i) => [atLeast(i.price, '10.00')] }), (i) => i.price),
  price: average(b.items, (i) => i.price),
  each: average(b.items, (i) => i.many),
  mean: average(b.items, (i) => i.weight),
  least: minimum(b.items, (i) => i.price),
  most: maximum(b.items, (i) => i.price),
  heaviest: maximum(b.items, (i) => i.weight),
  longest: maximum(b.items, (i) => i.length),
  first: minimum(b.items, (i) => i.day),
  last: maximum(b.items, (i) => i.seen),
  early: minimum(b.items, (i) => i.clock),
  tagged: sum(b.tags, (t) => t.worth),
  chosen: sum(some(b.tags, { where: (t) => [oneOfThese(t.id, [1])] }), (t) => t.worth),
  double: derive([sum(b.items, (i) => i.many)], integer(), (many) => many * 2),
}));
const Item = shape(db.item, (i) => ({ id: i.id, siblings: sum(i.bill.items, (other) => other.price) }));

const item = (id: number, billId: number, price: string, weight: bigint, length: number | null) => ({
  id,
  billId,
  price,
  many: id,
  weight,
  length,
  day: `2026-03-0${id}`,
  clock: `0${id}:30:00`,
  seen: new Date(`2026-03-0${id}T06:30:00.00${id}Z`),
});

const ROWS = {
  bill: [
    { id: 1, name: 'One' },
    { id: 2, name: 'Two' },
    { id: 3, name: 'None' },
  ],
  item: [
    item(1, 1, '0.10', 9_007_199_254_740_993n, 0.5),
    item(2, 1, '0.20', 9_007_199_254_740_993n, null),
    item(3, 1, '100000000000000000.03', -1n, 2.25),
    item(4, 2, '-1.00', 1n, null),
    item(5, 2, '-2.01', 1n, null),
    item(6, 2, '10.00', 2n, null),
  ],
  tag: [
    { id: 1, worth: '1.50' },
    { id: 2, worth: '2.25' },
  ],
  tagging: [
    { billId: 1, tagId: 1 },
    { billId: 1, tagId: 2 },
  ],
};

const SAID = [
  {
    id: 1,
    count: 3,
    few: 2,
    total: '100000000000000000.33',
    many: 6,
    weight: '18014398509481985',
    length: 2.75,
    dear: '100000000000000000.03',
    price: '33333333333333333.44333333',
    each: 2,
    mean: '6004799503160661.666667',
    least: '0.10',
    most: '100000000000000000.03',
    heaviest: '9007199254740993',
    longest: 2.25,
    first: '2026-03-01',
    last: '2026-03-03T06:30:00.003Z',
    early: '01:30:00',
    tagged: '3.75',
    chosen: '1.50',
    double: 12,
  },
  {
    id: 2,
    count: 3,
    few: 2,
    total: '6.99',
    many: 15,
    weight: '4',
    length: 0,
    dear: '10.00',
    price: '2.33000000',
    each: 5,
    mean: '1.333333',
    least: '-2.01',
    most: '10.00',
    heaviest: '2',
    longest: null,
    first: '2026-03-04',
    last: '2026-03-06T06:30:00.006Z',
    early: '04:30:00',
    tagged: '0.00',
    chosen: '0.00',
    double: 30,
  },
  {
    id: 3,
    count: 0,
    few: 0,
    total: '0.00',
    many: 0,
    weight: '0',
    length: 0,
    dear: '0.00',
    price: null,
    each: null,
    mean: null,
    least: null,
    most: null,
    heaviest: null,
    longest: null,
    first: null,
    last: null,
    early: null,
    tagged: '0.00',
    chosen: '0.00',
    double: 0,
  },
];

const MOMENT: Readonly<Record<string, string>> = {
  postgres: 'timestamptz',
  mysql: 'datetime(3)',
  sqlite: 'timestamp',
};

const KEPT: Kept = {
  model: db,
  tables: (dialect) => ({
    bill: 'id integer primary key, name varchar(20) not null',
    item: `id integer primary key, bill_id integer not null, price ${dialect === 'sqlite' ? 'text' : 'decimal(20, 2)'} not null,
      many integer not null, weight bigint not null, length double precision, day date not null, clock time not null,
      seen ${MOMENT[dialect]} not null`,
    tag: 'id integer primary key, worth decimal(6, 2) not null',
    tagging: 'bill_id integer not null, tag_id integer not null, primary key (bill_id, tag_id)',
  }),
  rows: ROWS,
};

everyPlace('figures about rows behind links', KEPT, (place) => {
  it('are exact, and take no rows to be loaded', async () => {
    const body = list(Bill);
    const plan = loadPlan(body);
    expect(plan.links).to.deep.equal([]);
    const { kysely, stores, statements } = place();
    for (const store of stores) {
      statements.length = 0;
      const rows = (await store.list(plan)) as never;
      for (const engine of ['generated', 'interpreted'] as const)
        expect(writer(body, {}, { engine }).object(rows)).to.deep.equal(SAID);
      expect(JSON.parse(new TextDecoder().decode(writer(body).bytes(rows)))).to.deep.equal(SAID);
      if (kysely !== null && store === stores[0]) expect(statements).to.have.length(1);
    }
  });

  it('go out behind to-one links', async () => {
    for (const store of place().stores) {
      const rows = (await store.list(loadPlan(list(Item)))) as never;
      expect(writer(list(Item)).object(rows)[3]).to.deep.equal({ id: 4, siblings: '6.99' });
    }
  });
});

describe('figures of rows that were loaded by hand', () => {
  it('are made of those rows', () => {
    const own = ROWS.item.filter(({ billId }) => billId === 2);
    const rows = [{ id: 2, name: 'Two', items: own, tags: [] }];
    expect(writer(list(Bill)).object(rows as never)).to.deep.equal([SAID[1]]);
  });

  it('are refused where there is none, in words that say what to write', () => {
    const said = (make: () => unknown): string => {
      try {
        make();
        return '';
      } catch (error) {
        return (error as Error).message;
      }
    };
    const refused = (member: (b: never) => unknown): string =>
      said(() => shape(db.bill, ((b: never) => ({ member: member(b) })) as never, { name: 'Bill' }));
    expect(
      refused((b: never) => sum((b as { items: never }).items, (i: never) => (i as { day: never }).day)),
    ).to.contain('there is no sum of date columns');
    const few = (b: never) => some((b as { items: never }).items, { limit: 2 } as never);
    expect(refused((b) => sum(few(b) as never, (i: never) => (i as { price: never }).price))).to.contain(
      'leave limit out',
    );
    expect(refused((b) => sum((b as { name: never }).name, () => 1 as never))).to.contain(
      'sum takes a to-many link',
    );
  });
});
