import { type Log, serve } from '@gribo/http';
import { type AnyApi, memoryStore, type Store } from 'gribo';
import type { LinkedEntities } from 'gribo/kit';
import { sql } from 'kysely';
import { dialectOf } from '../dialects/dialects.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { sqlStore } from '../store/sql-store.js';
import { databases, type Tested } from './databases.js';

/** What is kept in every place before each test. */
export interface Kept {
  readonly model: LinkedEntities;
  /** What stands between the brackets of each table, under its name; those that others refer to come first. */
  tables(dialect: string): Readonly<Record<string, string>>;
  /** What the tables need that is none. */
  prepare?(kysely: AnyKysely): Promise<void>;
  /** Rows of each entity, stored in this order. */
  readonly rows: Readonly<Record<string, readonly object[]>>;
}

/** Where rows are kept while a test runs. */
export interface Place {
  /** The database; null in memory. */
  readonly kysely: AnyKysely | null;
  /** Every store over the same rows: where statements can nest, one that asks with a single statement too. */
  readonly stores: readonly [Store, ...Store[]];
  /** The statements of the first store so far. */
  readonly statements: string[];
}

/** A response's status and what its JSON says; null where it has no body. */
// biome-ignore lint/suspicious/noExplicitAny: each test knows what it asks for
export type Said = readonly [status: number, said: any];

/** Asks an API over a store, as a client would. */
export const asking =
  (api: AnyApi, store: Store, log: Log = console) =>
  async (method: string, path: string, body?: unknown): Promise<Said> => {
    const sent =
      body === undefined
        ? {}
        : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } };
    const response = await serve(api, { store, log })(
      new Request(`http://o.test${path}`, { method, ...sent }),
    );
    const text = await response.text();
    return [response.status, text === '' ? null : JSON.parse(text)];
  };

const dropTables = async (kysely: AnyKysely, { tables }: Kept): Promise<void> => {
  for (const table of Object.keys(tables(dialectOf(kysely).name)).reverse())
    await sql`drop table if exists ${sql.table(table)}`.execute(kysely);
};

const placeIn = async (kysely: AnyKysely, kept: Kept): Promise<Place> => {
  const { model, rows } = kept;
  const { name, nests } = dialectOf(kysely);
  await dropTables(kysely, kept);
  await kept.prepare?.(kysely);
  for (const [table, columns] of Object.entries(kept.tables(name)))
    await sql.raw(`create table ${table} (${columns})`).execute(kysely);
  const statements: string[] = [];
  const first = sqlStore(model, kysely, { closes: false, log: ({ sql: said }) => statements.push(said) });
  for (const [entity, some] of Object.entries(rows)) for (const row of some) await first.create(entity, row);
  const stores: [Store, ...Store[]] = [first];
  if (nests) stores.push(sqlStore(model, kysely, { closes: false, strategy: 'single' }));
  return { kysely, stores, statements };
};

const placeInMemory = ({ model, rows }: Kept): Place => ({
  kysely: null,
  stores: [memoryStore(model, rows)],
  statements: [],
});

const MEMORY: Tested = { name: 'memory', variable: null, open: async () => null };

/**
 * Describes what holds in memory and on every database alike.
 *
 * @param title What is described.
 * @param kept What is kept there before each test, and nothing else.
 * @param tests Writes the tests; within one, `place` gives where it runs.
 */
export const everyPlace = (title: string, kept: Kept, tests: (place: () => Place) => void): void => {
  for (const { name, variable, open } of [MEMORY, ...databases]) {
    describe(`${title} in ${name}${variable === null ? '' : ` (${variable})`}`, () => {
      let kysely: AnyKysely | null = null;
      let place: Place;
      before(async function () {
        kysely = await open();
        if (kysely === null && name !== MEMORY.name) this.skip();
      });
      beforeEach(async () => {
        place = kysely === null ? placeInMemory(kept) : await placeIn(kysely, kept);
      });
      after(async () => {
        if (kysely === null) return;
        await dropTables(kysely, kept);
        await kysely.destroy();
      });
      tests(() => place);
    });
  }
};
