import { expect } from 'chai';
import fc from 'fast-check';
import {
  type AnyColumn,
  all,
  any,
  array,
  atLeast,
  atMost,
  contains,
  duration,
  entity,
  equals,
  integer,
  isNull,
  list,
  loadPlan,
  memoryStore,
  model,
  not,
  oneOfThese,
  type Store,
  shape,
  some,
  text,
  toMany,
  toOne,
  writer,
} from 'gribo';
import { type RowQuery, type SortKey, type StoreCondition, sayCondition } from 'gribo/kit';
import { sql } from 'kysely';
import type pg from 'pg';
import { isCounted, runs } from '../../../gribo/src/testing/cases.js';
import { dialectOf } from '../dialects/dialects.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { copyPool, databases } from '../testing/databases.js';
import { BEFORE, KINDS } from '../testing/native-types.js';
import { withCitext } from '../testing/zoo.js';
import { sqlStore } from './sql-store.js';

// biome-ignore lint/suspicious/noExplicitAny: columns of every kind have no one type
type Any = any;

/** So many columns of each kind, each of another type where the database has so many. */
const EACH = 3;

interface Held {
  readonly name: string;
  readonly kind: string;
  readonly column: AnyColumn;
  readonly values: readonly unknown[];
  readonly typeFor: (dialect: string) => string;
}

const HELD: readonly Held[] = [
  ...Object.entries(KINDS).flatMap(([kind, { column, values, types }]) =>
    Array.from(
      { length: EACH },
      (_, i): Held => ({
        name: `${kind.toLowerCase()}${i}`,
        kind,
        column: column(),
        values,
        // The first ones are plain: those that compare otherwise stand at the end.
        typeFor: (dialect) => {
          const some = (types[dialect] ?? []).filter((type) => type !== 'citext');
          return some.at(-1 - (i % some.length)) ?? 'text';
        },
      }),
    ),
  ),
  {
    name: 'letters',
    kind: 'text',
    column: text(),
    values: KINDS.text?.values ?? [],
    typeFor: (dialect) =>
      ({ postgres: 'public.citext', mysql: 'varchar(40)', sqlite: 'text collate nocase' })[dialect] ?? 'text',
  },
  {
    name: 'tags',
    kind: 'array',
    column: array(text()),
    values: [[], ['a', 'B'], ['"', '\\', ','], ['é']],
    typeFor: (dialect) => ({ postgres: 'text[]', mysql: 'json', sqlite: 'text' })[dialect] ?? 'text',
  },
  {
    name: 'span',
    kind: 'duration',
    column: duration(),
    values: ['PT90M', 'P2W', 'P1Y14MT0.5S', 'P-1DT2H', 'PT0S', 'PT-0.000001S', 'PT100H'],
    typeFor: (dialect) => (dialect === 'postgres' ? 'interval' : 'varchar(40)'),
  },
];

const db = model(
  {
    mixed: entity('mixed', {
      id: integer().key(),
      other: integer().nullable(),
      ...Object.fromEntries(HELD.map(({ name, column }) => [name, column.nullable()])),
    }),
  },
  { mixed: { over: toOne('mixed', 'other'), under: toMany('mixed', 'other') } },
) as Any;

const ROWS = 60;

/** The same rows each time: values in turn, in steps that have nothing to do with each other. */
const rows: readonly Record<string, unknown>[] = Array.from({ length: ROWS }, (_, i) => ({
  id: i + 1,
  other: i === 0 ? null : (i * 7) % 3 === 0 ? null : ((i * 5) % i) + 1,
  ...Object.fromEntries(
    HELD.map(({ name, values }, k) => {
      const place = (i * (k + 3) + ((i * i) % (k + 2))) % (values.length + 1);
      return [name, values[place] ?? null];
    }),
  ),
}));

type Make = (row: Any) => Any;

const compared = HELD.filter(({ kind }) => kind !== 'array' && kind !== 'duration');

/** A comparison of a column, here or behind the link, with a value that is there or with another column. */
const comparison: fc.Arbitrary<Make> = fc
  .tuple(fc.constantFrom(...compared), fc.nat(20), fc.nat(5), fc.boolean(), fc.boolean())
  .map(
    ([{ name, kind, values }, at, how, isBehind, isColumn]): Make =>
      (row) => {
        const place = isBehind ? row.over : row;
        const column = place[name];
        const twin = place[name.replace(/\d$/, '0')] ?? column;
        const value = isColumn ? twin : values[at % values.length];
        if (how === 0) return isNull(column, at % 2 === 0);
        if (how === 1)
          return oneOfThese(column, [values[at % values.length], values[(at * 3) % values.length]] as Any);
        if (how === 2) return atLeast(column, value);
        if (how === 3) return atMost(column, value);
        if (how === 4 && kind === 'text' && !isColumn)
          return contains(column, String(values[at % values.length]));
        return equals(column, value);
      },
  );

const condition: fc.Arbitrary<Make> = fc.letrec<{ one: Make }>((tie) => ({
  one: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    comparison,
    tie('one').map(
      (inner): Make =>
        (row) =>
          not(inner(row)),
    ),
    fc.array(tie('one'), { minLength: 1, maxLength: 3 }).map(
      (of): Make =>
        (row) =>
          all(...of.map((make) => make(row))),
    ),
    fc.array(tie('one'), { minLength: 1, maxLength: 3 }).map(
      (of): Make =>
        (row) =>
          any(...of.map((make) => make(row))),
    ),
  ),
})).one;

const sorts = fc.array(
  fc
    .tuple(fc.constantFrom(...compared.map(({ name }) => name)), fc.boolean(), fc.boolean())
    .map(([name, isBehind, isDown]) => `${isBehind ? 'over.' : ''}${name}${isDown ? ' desc' : ''}`),
  { minLength: 1, maxLength: 2 },
);

const request = fc.record({
  where: fc.option(condition),
  sort: sorts,
  limit: fc.option(fc.integer({ min: 1, max: 20 }), { nil: undefined }),
  offset: fc.option(fc.nat(10), { nil: undefined }),
  isStreamed: fc.boolean(),
});

const Row = list(
  shape(db.mixed, (row: Any) => ({
    id: row.id,
    ...Object.fromEntries(HELD.map(({ name }) => [name, row[name]])),
    under: row.over.id,
  })) as Any,
) as Any;

const queryOf = (
  made: Make | null,
  sort: readonly string[],
): { where: StoreCondition[]; sort: SortKey[] } => {
  const Id = shape(db.mixed, ({ id }: Any) => ({ id })) as Any;
  const where = (row: Any): Any[] => (made === null ? [] : [made(row)]);
  const Over = shape(db.mixed, (row: Any) => ({ ids: Id(some(row.under, { where, sort } as Any)) }));
  const [link] = loadPlan(Over).links;
  return { where: [...(link?.selection.where ?? [])], sort: [...(link?.selection.sort ?? [])] };
};

const answer = async (store: Store, query: RowQuery, isStreamed: boolean): Promise<string> => {
  const plan = loadPlan(Row);
  if (!isStreamed) return writer(Row).json((await store.list(plan, query)) as never);
  const streamed: object[] = [];
  const { offset: _offset, ...rest } = query;
  for await (const row of store.stream(plan, rest)) streamed.push(row);
  const text = writer(Row).json(streamed as never);
  // Rows that come packed are written without being made.
  expect(await new Response(writer(Row).stream(store.stream(plan, rest) as never)).text()).to.equal(text);
  return text;
};

/** Opens a database with what its types need; null where it has not all of it. */
const opened = async (open: () => Promise<AnyKysely | null>): Promise<AnyKysely | null> => {
  const kysely = await open();
  if (kysely === null) return null;
  const dialect = dialectOf(kysely).name;
  await sql`drop table if exists mixed`.execute(kysely);
  for (const statement of BEFORE[dialect] ?? []) await sql.raw(statement).execute(kysely);
  if (dialect === 'postgres') await withCitext(kysely);
  const columns = HELD.map(({ name: column, typeFor }) => `${column} ${typeFor(dialect)}`);
  await sql
    .raw(`create table mixed (id integer primary key, other integer, ${columns.join(', ')})`)
    .execute(kysely);
  return kysely;
};

describe('one request, equal bytes on every store, with types of their own', function () {
  this.timeout(3_600_000);
  const stores = new Map<string, Store>([['memory', memoryStore(db, { mixed: rows })]]);
  const kyselys: AnyKysely[] = [];
  const pools: pg.Pool[] = [];
  before(async () => {
    for (const { name, open } of databases) {
      const kysely = await opened(open);
      if (kysely === null) continue;
      kyselys.push(kysely);
      const store = sqlStore(db, kysely, { texts: 'codePoints', batch: 7, closes: false });
      for (const row of rows) await store.create('mixed', row);
      stores.set(name, store);
      const copy = copyPool(name);
      if (copy === null) continue;
      pools.push(copy);
      stores.set(
        `${name}, by COPY`,
        sqlStore(db, kysely, { texts: 'codePoints', batch: 1, closes: false, copy }),
      );
    }
  });
  after(async () => {
    for (const kysely of kyselys) {
      await sql`drop table if exists mixed`.execute(kysely);
      await kysely.destroy();
    }
    for (const pool of pools) await pool.end();
  });

  it('holds for any request', async () => {
    let asked = 0;
    await fc.assert(
      fc.asyncProperty(request, async ({ where, sort, limit, offset, isStreamed }) => {
        const query: RowQuery = {
          ...queryOf(where, sort),
          ...(limit === undefined ? {} : { limit }),
          ...(offset === undefined ? {} : { offset }),
        };
        const said = [...(query.where ?? []).map(sayCondition), ...sort, limit, offset, isStreamed].join(
          ', ',
        );
        const answers = await Promise.all(
          [...stores.values()].map((store) => answer(store, query, isStreamed)),
        );
        asked += answers.length;
        const ids = (text = ''): string => (JSON.parse(text) as { id: number }[]).map(({ id }) => id).join();
        for (const [i, name] of [...stores.keys()].entries()) {
          expect(ids(answers[i]), `${name}: ${said}`).to.equal(ids(answers[0]));
          expect(answers[i], `${name}: ${said}`).to.equal(answers[0]);
        }
      }),
      runs(60),
    );
    if (isCounted)
      console.log(`      ${asked} answers of ${stores.size} stores: ${[...stores.keys()].join(', ')}`);
  });
});
