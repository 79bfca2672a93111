import { expect } from 'chai';
import fc from 'fast-check';
import {
  all,
  any,
  atLeast,
  atMost,
  type Conditional,
  contains,
  equals,
  isNull,
  list,
  loadPlan,
  memoryStore,
  not,
  oneOfThese,
  shape,
  some,
  writer,
} from 'gribo';
import type { SortKey, StoreCondition } from 'gribo/kit';
import { runs } from '../../../gribo/src/testing/cases.js';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { sqlStore } from '../store/sql-store.js';
import { databases, fillTables, makeTables } from '../testing/databases.js';

// biome-ignore lint/suspicious/noExplicitAny: random declarations have no static type
type Any = any;
type Make = (v: Any) => Conditional;

const moment = new Date('1965-02-03T04:05:06.789Z');

/** Comparisons of every kind of column, of vessels and of what is behind their links. */
const leaves: readonly Make[] = [
  (v) => equals(v.name, 'Anselma'),
  (v) => equals(v.name, 'anselma'),
  (v) => contains(v.name, "O'H"),
  (v) => oneOfThese(v.kind, ['tanker', 'tug']),
  (v) => oneOfThese(v.kind, []),
  (v) => atLeast(v.builtYear, 1982),
  (v) => atMost(v.tonnage, '300.5'),
  (v) => equals(v.weight, 9_007_199_254_740_993n),
  (v) => equals(v.active, true),
  (v) => atLeast(v.registered, '1969-07-20'),
  (v) => equals(v.surveyedAt, moment),
  (v) => atMost(v.opens, '06:30:00'),
  (v) => isNull(v.callSign),
  (v) => isNull(v.callSign, false),
  (v) => equals(v.callSign, ''),
  (v) => equals(v.operator.name, 'Ostwick'),
  (v) => equals(v.operator.parent.name, 'Lantern Bay'),
  (v) => contains(v.operator.parent.name, 'lantern'),
  (v) => isNull(v.operator.parent.name),
  (v) => isNull(v.operator.parentId, false),
  // Two columns of a row, here and behind links.
  (v) => equals(v.operatorId, v.operator.parentId),
  (v) => equals(v.callSign, v.operator.name),
  (v) => atLeast(v.operatorId, v.operator.parentId),
  (v) => atMost(v.builtYear, v.builtYear),
  (v) => equals(v.surveyedAt, v.surveyedAt),
  (v) => equals(v.tonnage, v.tonnage),
  // There are such rows.
  (v) => v.portCalls,
  (v) => some(v.portCalls, { where: (c: Any) => [equals(c.status, 'berthed')] }),
  (v) => some(v.portCalls, { where: (c: Any) => [c.pilots] }),
  (v) =>
    some(v.portCalls, {
      where: (c: Any) => [some(c.pilots, { where: (p: Any) => [contains(p.name, 'o')] })],
    }),
  (v) => some(v.portCalls, { where: (c: Any) => [equals(c.vessel.operator.name, 'Lantern Bay Lines')] }),
  (v) => v.operator.vessels,
  (v) => some(v.operator.vessels, { where: (o: Any) => [not(equals(o.kind, 'bulk'))] }),
];

const conditions: fc.Arbitrary<Make> = fc.letrec<{ one: Make }>((tie) => ({
  one: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    fc.constantFrom(...leaves),
    tie('one').map(
      (inner): Make =>
        (v) =>
          not(inner(v)),
    ),
    fc.array(tie('one'), { maxLength: 3 }).map(
      (of): Make =>
        (v) =>
          all(...of.map((make) => make(v))),
    ),
    fc.array(tie('one'), { maxLength: 3 }).map(
      (of): Make =>
        (v) =>
          any(...of.map((make) => make(v))),
    ),
  ),
})).one;

const SORTS = [
  'name desc',
  'operator.name',
  'operator.parent.name desc',
  'builtYear',
  'surveyedAt desc',
  'tonnage',
];

/** A condition and an order as stores are given them: those of a list that is declared with them. */
const asked = (
  make: Make,
  shown: Make | null,
  sort: string,
): { where: StoreCondition[]; order: SortKey[] } => {
  const Id = shape(stock.vessel, ({ id }) => ({ id }));
  const where = (v: Any): Any => [make(v), ...(shown === null ? [] : [shown(v)])];
  const Owner = shape(stock.operator, (o: Any) => ({
    ids: (Id as Any)(some(o.vessels, { where, sort: [sort] } as Any)),
  }));
  const [link] = loadPlan(Owner).links;
  const [first, second] = link?.selection.where ?? [];
  const order = (link?.selection.sort ?? []).map((key) => ({ ...key, shown: second ?? null }));
  return { where: first === undefined ? [] : [first], order };
};

for (const { name, variable, open } of databases) {
  describe(`conditions on ${name}${variable === null ? '' : ` (${variable})`}`, () => {
    let kysely: AnyKysely | null = null;
    before(async function () {
      kysely = await open();
      if (kysely === null) return this.skip();
      await makeTables(kysely);
      await fillTables(kysely, stock, stockRows);
    });
    after(() => kysely?.destroy());

    it('select the rows and put them in the order that memory does, whatever they are made of', async () => {
      if (kysely === null) throw new Error('the database was not opened');
      const stores = [memoryStore(stock, stockRows as Any), sqlStore(stock, kysely)];
      const Id = list(shape(stock.vessel, ({ id }) => ({ id })));
      await fc.assert(
        fc.asyncProperty(
          conditions,
          fc.option(conditions),
          fc.constantFrom(...SORTS),
          async (make, shown, sort) => {
            const { where, order } = asked(make, shown, sort);
            const found = await Promise.all(
              stores.map(async (store) => {
                const rows = await store.list(loadPlan(Id), { where, sort: order });
                const streamed: object[] = [];
                for await (const row of store.stream(loadPlan(Id), { where, sort: order }))
                  streamed.push(row);
                const ids = (of: readonly object[]) =>
                  writer(Id)
                    .object(of as { id: number }[])
                    .map(({ id }) => id);
                expect(ids(streamed)).to.deep.equal(ids(rows));
                return [ids(rows), await store.count('vessel', where)];
              }),
            );
            expect(found[1]).to.deep.equal(found[0]);
          },
        ),
        runs(150),
      );
    });
  });
}
