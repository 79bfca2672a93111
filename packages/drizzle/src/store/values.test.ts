import { expect } from 'chai';
import type { MySql2Database } from 'drizzle-orm/mysql2';
import type { NodePgDatabase } from 'drizzle-orm/node-postgres';
import { decimal, everything, loadPlan, shape, writer } from 'gribo';
import type { LinkedEntities } from 'gribo/kit';
import { modelFrom } from '../index.js';
import { drizzles, type Opened } from '../testing/drizzles.js';
import {
  CHANGED,
  LOCKERS_MYSQL,
  LOCKERS_POSTGRES,
  LOCKERS_SQLITE,
  lockersMysql,
  lockersPostgres,
  lockersSqlite,
  MADE,
} from '../testing/lockers.js';
import { drizzleStore } from './drizzle-store.js';

const common = {
  shelf: 4,
  width: 0.1,
  fee: '1250.75',
  rate: 12.25,
  units: 123456789012345678901n,
  isLit: true,
  label: 'Locker ? $1 "by" \'the\' `quay`',
  short: 'L1',
  side: 'starboard',
  fittings: { hooks: 2, doors: ['left'] },
} as const;

const SEEN = new Date('2026-03-01T06:30:00.250Z');

const postgresRow: Omit<typeof lockersPostgres.$inferInsert, 'made'> = {
  ...common,
  fittings: { hooks: 2, doors: ['left'] },
  small: 7,
  weight: 9_007_199_254_740_991,
  serial: 9_223_372_036_854_775_807n,
  depth: 0.5,
  since: '2026-03-01',
  until: new Date('2026-04-01T00:00:00.000Z'),
  opens: '06:30:00',
  seen: SEEN,
  told: '2026-03-01 06:30:00.25',
  tag: '6f1c1c3e-8a2a-4b1f-9d62-0a7a5a6f4c01',
  letter: 'Q',
  state: 'let',
  net: '10.1.0.0/16',
  host: '10.1.2.3/24',
  mac: '08:00:2b:01:02:03',
  extra: [1, null, { deep: true }],
  keys: ['a', 'b,"c"'],
  marks: [3, 1],
};

const mysqlRow: Omit<typeof lockersMysql.$inferInsert, 'made'> = {
  ...common,
  fittings: { hooks: 2, doors: ['left'] },
  tiny: 3,
  small: 7,
  middle: 70_000,
  weight: 9_007_199_254_740_991,
  serial: 9_007_199_254_740_991n,
  depth: 0.5,
  height: 2.25,
  since: '2026-03-01',
  until: new Date('2026-04-01T00:00:00.000Z'),
  built: 1998,
  opens: '06:30:00',
  seen: SEEN,
  told: '2026-03-01 06:30:00.250',
  letter: 'Q',
};

const sqliteRow: Omit<typeof lockersSqlite.$inferInsert, 'made'> = {
  ...common,
  units: 1234567890123456n,
  fittings: { hooks: 2, doors: ['left'] },
  serial: 123456789012345678901n,
  seen: SEEN,
  told: new Date('2026-03-01T06:30:00.000Z'),
  extra: { hooks: 1, doors: [] },
  photo: Buffer.from([1, 2, 255]),
};

/** What one database has of it: its model, what makes the table, and how Drizzle inserts and selects. */
interface Case {
  readonly model: LinkedEntities;
  readonly statements: readonly string[];
  readonly row: Readonly<Record<string, unknown>>;
  insert(opened: Opened, row: object): Promise<void>;
  select(opened: Opened): Promise<readonly Readonly<Record<string, unknown>>[]>;
}

/** What the databases of all three dialects have. */
interface Drizzling {
  insert(table: unknown): { values(row: object): Promise<unknown> };
  select(): { from(table: unknown): Promise<readonly Readonly<Record<string, unknown>>[]> };
}

const overDrizzle = (table: unknown): Pick<Case, 'insert' | 'select'> => ({
  insert: async ({ database }, row) => {
    await (database as unknown as Drizzling).insert(table).values(row);
  },
  select: ({ database }) => (database as unknown as Drizzling).select().from(table),
});

const CASES: Readonly<Record<'postgres' | 'mysql' | 'sqlite', Case>> = {
  postgres: {
    model: modelFrom({ locker: lockersPostgres }, { locker: () => ({ place: null }) }),
    statements: LOCKERS_POSTGRES,
    row: { ...postgresRow },
    ...overDrizzle(lockersPostgres),
  },
  mysql: {
    model: modelFrom({ locker: lockersMysql }),
    statements: LOCKERS_MYSQL,
    row: { ...mysqlRow },
    ...overDrizzle(lockersMysql),
  },
  sqlite: {
    model: modelFrom({ locker: lockersSqlite }, { locker: () => ({ fee: decimal(10, 2) }) }),
    statements: LOCKERS_SQLITE,
    row: { ...sqliteRow },
    ...overDrizzle(lockersSqlite),
  },
};

/** A shape of everything in a row, whatever that is. */
const wholeOf = (model: LinkedEntities) => {
  const { locker } = model as unknown as ReturnType<typeof modelFrom<{ locker: typeof lockersMysql }>>;
  return shape(locker, (l) => ({ ...everything(l) }), { name: 'Whole' });
};

/** What a row of Drizzle's is in a row of ours: days and moments are said in another way. */
const ours = (row: Readonly<Record<string, unknown>>): Record<string, unknown> => {
  const { told, until, photo, ...rest } = row;
  return {
    ...rest,
    ...(told === undefined
      ? {}
      : { told: typeof told === 'string' ? new Date(`${told.replace(' ', 'T')}Z`) : told }),
    ...(until === undefined
      ? {}
      : { until: until instanceof Date ? until.toISOString().slice(0, 10) : until }),
    ...(photo instanceof Uint8Array ? { photo: new Uint8Array(photo) } : {}),
  };
};

for (const { name, variable, speaks, open } of drizzles) {
  // Rows that this one gives to Drizzle itself are others than those of statements.
  if (name.includes('waits')) continue;
  describe(`rows of Drizzle and ours on ${name}${variable === null ? '' : ` (${variable})`}`, () => {
    let opened: Opened | null = null;
    const { model, statements, row, insert, select } = CASES[speaks];
    const Whole = wholeOf(model);
    const there = (): Opened => {
      if (opened === null) throw new Error('the database was not opened');
      return opened;
    };
    before(async function () {
      opened = await open();
      if (opened === null) this.skip();
    });
    beforeEach(async () => {
      for (const statement of statements) await there().run(statement);
    });
    after(async () => {
      await opened?.run('drop table if exists locker');
      await opened?.close();
    });
    const listed = async (): Promise<Record<string, unknown>> => {
      const [found] = await drizzleStore(model, there().database).list(loadPlan(Whole));
      if (found === undefined) throw new Error('there is no row');
      const { photo, ...rest } = found as Record<string, unknown>;
      return photo instanceof Uint8Array ? { ...rest, photo: new Uint8Array(photo) } : rest;
    };

    it('are the same, whoever stored them', async () => {
      await insert(there(), row);
      const [theirs] = await select(there());
      if (theirs === undefined) throw new Error('there is no row');
      const { place: _place, ...known } = ours(theirs);
      expect(await listed()).to.deep.include(known);
      expect(known).to.include({ made: MADE, changed: CHANGED, twice: 8 });

      await there().run('delete from locker');
      const store = drizzleStore(model, there().database);
      await store.create('locker', ours(row));
      const [mine] = await select(there());
      const { id: _id, place: _other, ...stored } = ours(mine ?? {});
      const { id: _first, ...first } = known;
      expect(stored).to.deep.equal(first);
      const text = writer(Whole).json((await store.list(loadPlan(Whole)))[0] as never);
      expect(JSON.parse(text)).to.include({ made: MADE, changed: CHANGED, side: 'starboard' });
    });

    it('are where the model says, whatever a column is', async () => {
      const drift = await drizzleStore(model, there().database).drift();
      // It was left out, and may be null.
      expect(drift.filter(({ path }) => path !== 'locker.place')).to.deep.equal([]);
    });
  });
}

describe('a store within a transaction of Drizzle', () => {
  for (const { name, variable, speaks, open } of drizzles) {
    if (speaks === 'sqlite') continue;
    it(`is part of it on ${name}${variable === null ? '' : ` (${variable})`}`, async function () {
      const opened = await open();
      if (opened === null) return this.skip();
      const { model, statements, row } = CASES[speaks];
      for (const statement of statements) await opened.run(statement);
      const database = opened.database as unknown as NodePgDatabase & MySql2Database;
      const count = async (): Promise<number> => drizzleStore(model, opened.database).count('locker');
      const create = (within: object, short: string) =>
        drizzleStore(model, within as never).create('locker', { ...ours(row), short, label: short });

      await database
        .transaction(async (within) => {
          await create(within, 'L1');
          throw new Error('no more');
        })
        .catch(() => undefined);
      expect(await count()).to.equal(0);

      await database.transaction(async (within) => {
        await create(within, 'L1');
        // What is refused is undone alone: the transaction goes on.
        const refused = await create(within, 'L1').catch(({ code }: { code: string }) => code);
        expect(refused).to.equal('CONFLICT');
        await create(within, 'L2');
      });
      expect(await count()).to.equal(2);

      // Changes that are made at once go one after the other: what is refused takes nothing else with it.
      await database.transaction(async (within) => {
        const store = drizzleStore(model, within as never);
        const made = ['L3', 'L1', 'L4', 'L2', 'L5'].map((short) =>
          store.create('locker', { ...ours(row), short, label: short }).then(
            () => 'made',
            ({ code }: { code: string }) => code,
          ),
        );
        expect(await Promise.all(made)).to.deep.equal(['made', 'CONFLICT', 'made', 'CONFLICT', 'made']);
      });
      expect(await count()).to.equal(5);
      await opened.run('drop table if exists locker');
      await opened.close();
    });
  }
});
