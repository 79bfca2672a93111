import { type SqlStore, sqlStore } from '@gribo/sql';
import { csvLines, derive, jsonLines, list, loadPlan, shape, text, writer } from 'gribo';
import { CompiledQuery, Kysely, MysqlDialect } from 'kysely';
import { createPool } from 'mysql2';
import { to } from 'pg-copy-streams';
import type { Figure } from './figure.js';
import { db, MANY, PositionLines } from './positions.js';
import { openPool, openPostgres, prepared, serverUrl } from './postgres.js';

const SCHEMA = [
  'create schema if not exists gribo_bench',
  'set search_path to gribo_bench',
  'drop table if exists position_report',
  'create table position_report (id integer primary key, vessel text not null, at timestamptz not null, lat float8 not null, lon float8 not null, speed_kn float8 not null)',
  `insert into position_report select i, 'Vessel ' || (i % 40), timestamptz '2023-11-14 22:13:20Z' + i * interval '1 second',
    54 + (i % 99999) / 100000.0, -1.5, (i % 200) / 10.0 from generate_series(1, ${MANY}) as i`,
];

/** Times COPY's time that a way of reading may take. */
const BARS = { batches: 4, COPY: 2 } as const;

const megabytes = (bytes: number): string => (bytes / 1e6).toFixed(0);

const timed = async (chunks: AsyncIterable<Uint8Array>): Promise<readonly [number, number]> => {
  const start = performance.now();
  let bytes = 0;
  for await (const chunk of chunks) bytes += chunk.length;
  return [(performance.now() - start) / 1000, bytes];
};

/** How fast the server hands over the same rows at all, in the order of their key. */
const plainCopy = async (url: string): Promise<number> => {
  const pool = openPool(url);
  const client = await pool.connect();
  const statement = 'copy (select * from position_report order by id) to stdout';
  const [seconds] = await timed(client.query(to(statement)) as AsyncIterable<Buffer>);
  client.release();
  await pool.end();
  return seconds;
};

type Rows = never;

const Computed = list(
  shape(db.positionReport, ({ id, vessel, at, lat, lon, speedKn }) => ({
    ...{ id, vessel, at, lat, lon, speedKn },
    loud: derive([vessel], text(), (name) => `${name}!`),
  })),
);

const FORMATS: Readonly<Record<string, (store: SqlStore) => ReadableStream<Uint8Array>>> = {
  JSON: (store) => writer(PositionLines).stream(store.stream(loadPlan(PositionLines)) as Rows),
  'lines of JSON': (store) => jsonLines(PositionLines).stream(store.stream(loadPlan(PositionLines)) as Rows),
  CSV: (store) => csvLines(PositionLines).stream(store.stream(loadPlan(PositionLines)) as Rows),
  'JSON with a computed member': (store) => writer(Computed).stream(store.stream(loadPlan(Computed)) as Rows),
};

/** What is held to the bars: members that are computed take values. */
const isHeld = (format: string): boolean => !format.includes('computed');

const exported = async (store: SqlStore, by: keyof typeof BARS, limit: number | null): Promise<Figure[]> => {
  const figures: Figure[] = [];
  for (const [format, stream] of Object.entries(FORMATS)) {
    const [seconds, bytes] = await timed(stream(store));
    figures.push({
      what: `export of 1,000,000 rows from PostgreSQL as ${format}, by ${by}`,
      than: limit === null ? null : 'COPY … TO STDOUT',
      theirs: limit,
      ours: seconds,
      unit: 's',
      ratio: limit === null ? null : limit / seconds,
      bar: limit === null || !isHeld(format) ? null : 1 / BARS[by],
      beside: `${megabytes(bytes)} MB, RSS ${megabytes(process.memoryUsage.rss())} MB`,
    });
  }
  return figures;
};

const MARIADB = [
  'drop table if exists position_report',
  'create table position_report (id integer primary key, vessel varchar(60) not null, at datetime(3) not null, lat double not null, lon double not null, speed_kn double not null)',
  `insert into position_report select seq, concat('Vessel ', seq % 40), timestampadd(second, seq, '2023-11-14 22:13:20'),
    54 + (seq % 99999) / 100000, -1.5, (seq % 200) / 10 from seq_1_to_${MANY}`,
];

/** The same from MariaDB, against the time that its driver's own stream takes to read them; nothing where there is none. */
const benchMariadb = async (): Promise<readonly Figure[]> => {
  const uri = process.env['GRIBO_MARIADB'];
  if (uri === undefined) return [];
  const pool = createPool({ uri, connectionLimit: 1 });
  const kysely = new Kysely<unknown>({ dialect: new MysqlDialect({ pool }) });
  for (const statement of MARIADB) await kysely.executeQuery(CompiledQuery.raw(statement));
  const start = performance.now();
  let read = 0;
  for await (const _row of pool.query('select * from position_report order by id').stream()) read++;
  const theirs = (performance.now() - start) / 1000;
  if (read !== MANY) throw new Error(`sql-export: ${read} rows were read`);
  const stream = writer(PositionLines).stream(sqlStore(db, kysely).stream(loadPlan(PositionLines)) as Rows);
  const [ours, bytes] = await timed(stream);
  await kysely.executeQuery(CompiledQuery.raw('drop table position_report'));
  await kysely.destroy();
  return [
    {
      what: 'export of 1,000,000 rows from MariaDB as JSON, by batches',
      than: 'reading them by the driver’s stream',
      theirs,
      ours,
      unit: 's',
      ratio: theirs / ours,
      bar: null,
      beside: `${megabytes(bytes)} MB`,
    },
  ];
};

/** Exports a million rows of a table, against the time that the server takes to hand them over. */
export const benchSqlExport = async (): Promise<readonly Figure[]> => {
  const kysely = openPostgres<unknown>();
  for (const statement of SCHEMA) await kysely.executeQuery(CompiledQuery.raw(statement));
  const ours = prepared(kysely);
  const limit = serverUrl === undefined ? null : await plainCopy(serverUrl);
  const figures: Figure[] = [];
  if (serverUrl !== undefined) {
    const pool = openPool(serverUrl);
    figures.push(...(await exported(sqlStore(db, ours, { copy: pool }), 'COPY', limit)));
    await pool.end();
  }
  figures.push(...(await exported(sqlStore(db, ours), 'batches', limit)));
  await kysely.executeQuery(CompiledQuery.raw('drop schema gribo_bench cascade'));
  if (ours !== kysely) await ours.destroy();
  await kysely.destroy();
  return [...figures, ...(await benchMariadb())];
};
