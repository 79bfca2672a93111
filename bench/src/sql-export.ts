import { sqlStore } from '@gribo/sql';
import { csvLines, loadPlan, writer } from 'gribo';
import { CompiledQuery } from 'kysely';
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

/** Times COPY's time that batches may take. */
const BATCHES = 4;

const megabytes = (bytes: number): string => (bytes / 1e6).toFixed(0);

/** How fast the server hands over the same rows at all. */
const copied = async (url: string): Promise<number> => {
  const pool = openPool(url);
  const client = await pool.connect();
  const start = performance.now();
  const stream = client.query(to('copy position_report to stdout'));
  for await (const _chunk of stream as AsyncIterable<Buffer>);
  const seconds = (performance.now() - start) / 1000;
  client.release();
  await pool.end();
  return seconds;
};

/** Exports a million rows of a table, against the time that the server takes to hand them over. */
export const benchSqlExport = async (): Promise<readonly Figure[]> => {
  const kysely = openPostgres<unknown>();
  for (const statement of SCHEMA) await kysely.executeQuery(CompiledQuery.raw(statement));
  const ours = prepared(kysely);
  const store = sqlStore(db, ours);
  const rows = (): ReturnType<typeof store.stream> => store.stream(loadPlan(PositionLines));
  const exported = async (stream: ReadableStream<Uint8Array>): Promise<readonly [number, number]> => {
    const start = performance.now();
    let bytes = 0;
    for await (const chunk of stream) bytes += chunk.length;
    return [(performance.now() - start) / 1000, bytes];
  };
  const limit = serverUrl === undefined ? null : await copied(serverUrl);
  const where = serverUrl === undefined ? 'embedded' : 'server';
  const figures: Figure[] = [];
  const ways = {
    JSON: () => writer(PositionLines).stream(rows() as never),
    CSV: () => csvLines(PositionLines).stream(rows() as never),
  };
  for (const [name, stream] of Object.entries(ways)) {
    const [seconds, bytes] = await exported(stream());
    figures.push({
      what: `export of 1,000,000 rows from PostgreSQL (${where}) as ${name}`,
      than: limit === null ? null : 'COPY … TO STDOUT',
      theirs: limit,
      ours: seconds,
      unit: 's',
      ratio: limit === null ? null : limit / seconds,
      bar: limit === null ? null : 1 / BATCHES,
      beside: `${(bytes / 1e6).toFixed(0)} MB, RSS ${megabytes(process.memoryUsage.rss())} MB`,
    });
  }
  await kysely.executeQuery(CompiledQuery.raw('drop schema gribo_bench cascade'));
  if (ours !== kysely) await ours.destroy();
  await kysely.destroy();
  return figures;
};
