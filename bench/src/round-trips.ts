import { postgresDialect, sqlStore } from '@gribo/sql';
import {
  entity,
  integer,
  list,
  loadPlan,
  model,
  shape,
  some,
  text,
  timestamp,
  toMany,
  toOne,
  writer,
} from 'gribo';
import { Kysely } from 'kysely';
import pg from 'pg';
import { delayed } from './delay.js';
import type { Figure } from './figure.js';
import { inTurns, type Side } from './in-turns.js';
import { serverUrl } from './postgres.js';

const db = model(
  {
    yard: entity('yard', { id: integer().key(), name: text(), town: text(), keeperId: integer() }),
    keeper: entity('keeper', { id: integer().key(), name: text() }),
    crate: entity('crate', { id: integer().key(), yardId: integer(), label: text() }),
    visit: entity('visit', { id: integer().key(), yardId: integer(), at: timestamp() }),
    note: entity('note', { id: integer().key(), yardId: integer(), said: text() }),
  },
  {
    yard: {
      keeper: toOne('keeper', 'keeperId'),
      crates: toMany('crate', 'yardId'),
      visits: toMany('visit', 'yardId'),
      notes: toMany('note', 'yardId'),
    },
  },
);

const CrateLine = shape(db.crate, ({ id, label }) => ({ id, label }));
const VisitLine = shape(db.visit, ({ id, at }) => ({ id, at }));
const NoteLine = shape(db.note, ({ id, said }) => ({ id, said }));
const Yard = shape(db.yard, (y) => ({
  ...{ id: y.id, name: y.name, town: y.town, keeper: y.keeper.name },
  crates: CrateLine(some(y.crates, { sort: ['id'] })),
  visits: VisitLine(some(y.visits, { sort: ['id'] })),
  notes: NoteLine(some(y.notes, { sort: ['id'] })),
}));
const Yards = list(Yard);

const YARDS = 1_000;
const OF_EACH = 3;

const rows = (of: string): string => `from generate_series(1, ${YARDS * OF_EACH}) as i${of}`;

const SCHEMA = [
  'drop schema if exists gribo_bench cascade',
  'create schema gribo_bench',
  'create table keeper (id integer primary key, name text not null)',
  "insert into keeper select i, 'Keeper ' || i from generate_series(1, 40) as i",
  'create table yard (id integer primary key, name text not null, town text not null, keeper_id integer not null references keeper (id))',
  `insert into yard select i, 'Yard ' || i, 'Town ' || i % 70, i % 40 + 1 from generate_series(1, ${YARDS}) as i`,
  'create table crate (id integer primary key, yard_id integer not null references yard (id), label text not null)',
  `insert into crate select i, i % ${YARDS} + 1, 'Crate ' || i ${rows('')}`,
  'create table visit (id integer primary key, yard_id integer not null references yard (id), at timestamptz not null)',
  `insert into visit select i, i % ${YARDS} + 1, timestamptz '2026-01-01 00:00:00Z' + i * interval '1 minute' ${rows('')}`,
  'create table note (id integer primary key, yard_id integer not null references yard (id), said text not null)',
  `insert into note select i, i % ${YARDS} + 1, 'Said ' || i ${rows('')}`,
  ...['crate', 'visit', 'note'].map((table) => `create index on ${table} (yard_id)`),
  'analyze',
];

interface Tables {
  yard: { id: number; name: string; town: string; keeper_id: number };
  keeper: { id: number; name: string };
  crate: { id: number; yard_id: number; label: string };
  visit: { id: number; yard_id: number; at: Date };
  note: { id: number; yard_id: number; said: string };
}

const grouped = <R extends { readonly yard_id: number }>(found: readonly R[]): Map<number, object[]> => {
  const groups = new Map<number, object[]>();
  for (const { yard_id, ...row } of found) {
    const group = groups.get(yard_id);
    if (group === undefined) groups.set(yard_id, [row]);
    else group.push(row);
  }
  return groups;
};

/** Queries with just these columns, one after the other, and the mapping: as it is written by hand. */
const byHand = async (kysely: Kysely<Tables>, first: number, many: number): Promise<object[]> => {
  const yards = await kysely
    .selectFrom('yard as y')
    .innerJoin('keeper as k', 'k.id', 'y.keeper_id')
    .select(['y.id', 'y.name', 'y.town', 'k.name as keeper'])
    .where('y.id', '>=', first)
    .orderBy('y.id')
    .limit(many)
    .execute();
  const ids = yards.map(({ id }) => id);
  const of = (table: 'crate' | 'visit' | 'note', column: never) =>
    kysely
      .selectFrom(table)
      .select(['yard_id', 'id', column])
      .where('yard_id', 'in', ids)
      .orderBy('id')
      .execute() as Promise<readonly { readonly yard_id: number }[]>;
  const crates = grouped(await of('crate', 'label' as never));
  const visits = grouped(await of('visit', 'at' as never));
  const notes = grouped(await of('note', 'said' as never));
  return yards.map((yard) => ({
    ...yard,
    crates: crates.get(yard.id) ?? [],
    visits: visits.get(yard.id) ?? [],
    notes: notes.get(yard.id) ?? [],
  }));
};

const sidesOf = (kysely: Kysely<Tables>) => {
  const stores = (['auto', 'batched', 'single'] as const).map((strategy) =>
    sqlStore(db, kysely, { strategy }),
  );
  const page: readonly Side[] = [
    async () => JSON.stringify(await byHand(kysely, 101, 50)),
    ...stores.map(
      (store): Side =>
        async () =>
          writer(Yards).bytes(await store.list(loadPlan(Yards), { limit: 50, offset: 100 })),
    ),
  ];
  const one: readonly Side[] = [
    async () => JSON.stringify((await byHand(kysely, 7, 1))[0]),
    ...stores.map(
      (store): Side =>
        async () =>
          writer(Yard).bytes((await store.read(loadPlan(Yard), [7])) as never),
    ),
  ];
  return { 'page of 50': page, 'one row': one };
};

/** What is reached where the server is near. */
const BARS: Readonly<Record<string, number>> = { 'page of 50': 1.8, 'one row': 1.5 };

/** Rows with three to-many links, from a server that is nearer or further away. */
export const benchRoundTrips = async (): Promise<readonly Figure[]> => {
  if (serverUrl === undefined) return [];
  const url = new URL(serverUrl);
  const setup = new pg.Client({ connectionString: serverUrl, options: '-c search_path=gribo_bench' });
  await setup.connect();
  for (const statement of SCHEMA) await setup.query(statement);
  const figures: Figure[] = [];
  for (const roundTrip of [0, 1, 5]) {
    const delay = await delayed(url.hostname, Number(url.port || 5432), roundTrip);
    const far = new URL(serverUrl);
    far.host = `127.0.0.1:${delay.port}`;
    const pool = new pg.Pool({ connectionString: far.href, max: 4, options: '-c search_path=gribo_bench' });
    const kysely = new Kysely<Tables>({ dialect: postgresDialect(pool) });
    for (const [what, sides] of Object.entries(sidesOf(kysely))) {
      const [hand = 0, auto = 0, batched = 0, single = 0] = await inTurns(
        'round-trips',
        sides,
        15,
        roundTrip === 0 ? 20 : 5,
      );
      const figure = (how: string, ours: number): Figure => ({
        what: `${what} with three links, ${roundTrip} ms away, ${how}`,
        than: 'hand-written, prepared',
        theirs: hand,
        ours,
        unit: 'ms',
        ratio: hand / ours,
        bar: roundTrip === 0 && how === 'auto' ? (BARS[what] ?? null) : null,
        beside: '',
      });
      figures.push(figure('auto', auto), figure('batched', batched), figure('single', single));
    }
    await kysely.destroy();
    delay.close();
  }
  await setup.query('drop schema gribo_bench cascade');
  await setup.end();
  return figures;
};
