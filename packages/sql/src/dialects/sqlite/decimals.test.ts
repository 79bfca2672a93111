import { expect } from 'chai';
import {
  decimal,
  entity,
  equals,
  integer,
  list,
  loadPlan,
  maximum,
  memoryStore,
  minimum,
  model,
  shape,
  some,
  sum,
  toMany,
  writer,
} from 'gribo';
import { sql } from 'kysely';
import { sqlStore } from '../../store/sql-store.js';
import { databases } from '../../testing/databases.js';

const db = model(
  {
    dose: entity('dose', {
      id: integer().key(),
      over: integer().nullable(),
      small: decimal(12, 9),
      twin: decimal(12, 9),
    }),
  },
  { dose: { under: toMany('dose', 'over') } },
);
const Dose = shape(db.dose, ({ id, small }) => ({ id, small }));
const Figures = shape(db.dose, (d) => ({
  total: sum(d.under, (u) => u.small),
  least: minimum(d.under, (u) => u.small),
  most: maximum(d.under, (u) => u.small),
  same: Dose(some(d.under, { where: (u) => [equals(u.small, u.twin)], sort: ['small desc'] })),
}));

const SMALL = ['0.000000001', '-0.000000100', '0.000012000', '12.500000000', '100.000000000', '0.000000000'];
const ROWS = SMALL.map((small, i) => ({ id: i + 1, over: 1, small, twin: small }));

describe('decimals of SQLite that it would write with an exponent (better-sqlite3 installed)', () => {
  it('are read, compared, put in order and summed as decimals', async function () {
    const kysely = await (databases.find(({ name }) => name === 'SQLite')?.open() ?? null);
    if (kysely === null) return this.skip();
    // One is kept as a number, the other as a text.
    await sql`create table dose (id integer primary key, over integer, small numeric(12, 9), twin text)`.execute(
      kysely,
    );
    const store = sqlStore(db, kysely);
    for (const row of ROWS) await store.create('dose', row);
    const body = list(Figures);
    const said = async (from: { list: typeof store.list }) =>
      writer(body).object((await from.list(loadPlan(body))) as never)[0];
    const [known] = [await said(memoryStore(db, { dose: ROWS }))];
    expect(await said(store)).to.deep.equal(known);
    expect(known).to.deep.include({ total: '112.500011901', least: '-0.000000100', most: '100.000000000' });
    await kysely.destroy();
  });
});
