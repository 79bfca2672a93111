import { readFileSync } from 'node:fs';
import { expect } from 'chai';
import {
  type AnyColumn,
  atLeast,
  atMost,
  contains,
  entity,
  equals,
  integer,
  list,
  loadPlan,
  memoryStore,
  model,
  oneOfThese,
  type Store,
  shape,
  some,
  toMany,
  toOne,
  writer,
} from 'gribo';
import type { SortKey, StoreCondition } from 'gribo/kit';
import { sql } from 'kysely';
import { isCounted } from '../../../gribo/src/testing/cases.js';
import { dialectOf } from '../dialects/dialects.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { databases } from '../testing/databases.js';
import { BEFORE, KINDS } from '../testing/native-types.js';
import { withCitext } from '../testing/zoo.js';
import { sqlStore } from './sql-store.js';

// biome-ignore lint/suspicious/noExplicitAny: columns of every kind have no one type
type Any = any;

const run = (kysely: AnyKysely, statement: string): Promise<unknown> => sql.raw(statement).execute(kysely);

/** Whether a type can be had: not every server has every collation and extension. */
const isThere = async (kysely: AnyKysely, type: string): Promise<boolean> => {
  try {
    if (type === 'citext') await withCitext(kysely);
    await run(kysely, 'drop table if exists kept');
    const named = type === 'citext' ? 'public.citext' : type;
    await run(kysely, `create table kept (id integer primary key, other integer, value ${named})`);
    return true;
  } catch {
    return false;
  }
};

const keptOf = (column: AnyColumn) =>
  model(
    { kept: entity('kept', { id: integer().key(), other: integer().nullable(), value: column.nullable() }) },
    { kept: { over: toOne('kept', 'other'), under: toMany('kept', 'other') } },
  ) as Any;

/** A list's condition and order, as stores are given them. */
const asked = (db: Any, where: (row: Any) => Any[], sort: string): [StoreCondition[], SortKey[]] => {
  const Id = shape(db.kept, ({ id }: Any) => ({ id })) as Any;
  const Over = shape(db.kept, (row: Any) => ({ ids: Id(some(row.under, { where, sort: [sort] } as Any)) }));
  const [link] = loadPlan(Over).links;
  return [[...(link?.selection.where ?? [])], [...(link?.selection.sort ?? [])]];
};

/** The rows that a store lists, and those that it streams in small batches: the same in the same order. */
const found = async (store: Store, db: Any, where: (row: Any) => Any[], sort: string): Promise<unknown> => {
  const body = list(shape(db.kept, ({ id, value }: Any) => ({ id, value }))) as Any;
  const [conditions, order] = asked(db, where, sort);
  const plan = loadPlan(body);
  const rows = await store.list(plan, { where: conditions, sort: order });
  const streamed: object[] = [];
  for await (const row of store.stream(plan, { where: conditions, sort: order })) streamed.push(row);
  const shown = writer(body).json(rows as never);
  expect(writer(body).json(streamed as never)).to.equal(shown);
  return JSON.parse(shown);
};

const ALL = (): Any[] => [];

/** What a list is asked, with a value. */
const ASKED: Readonly<Record<string, (row: Any, value: Any) => Any>> = {
  equals: (row, value) => equals(row.value, value),
  atLeast: (row, value) => atLeast(row.value, value),
  atMost: (row, value) => atMost(row.value, value),
  oneOfThese: (row, value) => oneOfThese(row.value, [value]),
};

/** The types tried on each database, by kind: the table in the docs. */
const tried = new Map<string, Map<string, string[]>>();

const note = (kind: string, database: string, type: string): void => {
  const row = tried.get(kind) ?? new Map<string, string[]>();
  row.set(database, [...(row.get(database) ?? []), type]);
  tried.set(kind, row);
};

for (const { name, variable, open } of databases) {
  describe(`orders of columns on ${name}${variable === null ? '' : ` (${variable})`}`, () => {
    let kysely: AnyKysely | null = null;
    before(async function () {
      kysely = await open();
      if (kysely === null) return this.skip();
      // What it does not have, no type is tried of.
      for (const statement of BEFORE[dialectOf(kysely).name] ?? [])
        await run(kysely, statement).catch(() => null);
    });
    after(async () => {
      if (kysely === null) return;
      await run(kysely, 'drop table if exists kept');
      await kysely.destroy();
    });

    for (const [kind, { column, values, types }] of Object.entries(KINDS)) {
      it(`has ${kind} in one order, whatever its type, and pages and comparisons follow it`, async () => {
        if (kysely === null) throw new Error('the database was not opened');
        const dialect = dialectOf(kysely).name;
        for (const type of types[dialect] ?? []) {
          if (!(await isThere(kysely, type))) continue;
          note(kind, dialect, type);
          const db = keptOf(column());
          const rows = [...values, null].map((value, i) => ({
            id: i + 1,
            other: i === 0 ? null : 1,
            value,
          }));
          const stores = [
            memoryStore(db, { kept: rows }),
            sqlStore(db, kysely, { texts: 'codePoints', batch: 3, closes: false }),
          ];
          for (const row of rows) await stores[1]?.create('kept', row);
          const both = async (where: (row: Any) => Any[], sort: string, what: string): Promise<void> => {
            const [memory, database] = await Promise.all(
              stores.map((store) => found(store, db, where, sort)),
            );
            expect(database, `${type}: ${what}`).to.deep.equal(memory);
          };
          for (const sort of ['value', 'value desc', 'over.value']) await both(ALL, sort, sort);
          // Of texts there are many, and the law of equal answers tries the others.
          for (const value of kind === 'text' ? values.slice(0, 8) : values)
            for (const [operator, make] of Object.entries(ASKED))
              await both((row) => [make(row, value)], 'value desc', `${operator} ${value}`);
          if (kind !== 'text') continue;
          for (const value of ['A', 'b', 'é', ''])
            await both((row) => [contains(row.value, value)], 'value', `contains ${value}`);
          // By the collation, too, no page repeats or skips a row.
          const collated = sqlStore(db, kysely, { batch: 3, closes: false });
          for (const sort of ['value', 'value desc']) {
            const listed = (await found(collated, db, ALL, sort)) as object[];
            expect(listed.length).to.equal(rows.length);
          }
        }
      });
    }
  });
}

describe('the table of types in docs/sql.md', () => {
  it('names those that are tried here, and no other', () => {
    const cell = (types: readonly string[] = []): string =>
      [...new Set(types.map((type) => type.replace(/^enum\(.*/, 'enum(…)')))]
        .map((type) => `\`${type}\``)
        .join(', ');
    const rows = Object.entries(KINDS).map(
      ([
        kind,
        {
          types: { postgres, mysql, sqlite },
        },
      ]) => `| ${kind} | ${cell(postgres)} | ${cell(mysql)} | ${cell(sqlite)} |`,
    );
    const table = ['| column | PostgreSQL | MariaDB | SQLite |', '|---|---|---|---|', ...rows].join('\n');
    if (isCounted) {
      for (const [kind, by] of tried)
        console.log(kind, [...by].map(([database, types]) => `${database}: ${types.join(', ')}`).join('; '));
    }
    expect(readFileSync(new URL('../../../../docs/sql.md', import.meta.url), 'utf8')).to.contain(table);
  });
});
