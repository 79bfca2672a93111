import { sqlStore } from '@gribo/sql';
import { loadPlan, writer } from 'gribo';
import { CompiledQuery } from 'kysely';
import { to } from 'pg-copy-streams';
import { db, MANY, PositionLines } from './positions.js';
import { openPool, openPostgres, serverUrl } from './postgres.js';

const SCHEMA = [
  'create schema if not exists gribo_bench',
  'set search_path to gribo_bench',
  'drop table if exists position_report',
  'create table position_report (id integer primary key, vessel text not null, at timestamptz not null, lat float8 not null, lon float8 not null, speed_kn float8 not null)',
  `insert into position_report select i, 'Vessel ' || (i % 40), timestamptz '2023-11-14 22:13:20Z' + i * interval '1 second',
    54 + (i % 99999) / 100000.0, -1.5, (i % 200) / 10.0 from generate_series(1, ${MANY}) as i`,
];

const megabytes = (bytes: number): string => (bytes / 1e6).toFixed(0);

const report = (what: string, bytes: number, start: number): void => {
  const seconds = (performance.now() - start) / 1000;
  const speed = `${megabytes(bytes)} MB in ${seconds.toFixed(1)} s, ${megabytes(bytes / seconds)} MB/s`;
  console.log(`${what}: ${speed}; RSS ${megabytes(process.memoryUsage.rss())} MB`);
};

/** How fast the server hands over the same rows at all. */
const copied = async (url: string): Promise<void> => {
  const pool = openPool(url);
  const client = await pool.connect();
  const start = performance.now();
  let bytes = 0;
  const stream = client.query(to('copy position_report to stdout'));
  for await (const chunk of stream as AsyncIterable<Buffer>) bytes += chunk.length;
  report('the limit, COPY … TO STDOUT', bytes, start);
  client.release();
  await pool.end();
};

/** Exports a million rows of a table as JSON. */
export const benchSqlExport = async (): Promise<void> => {
  const kysely = openPostgres<unknown>();
  for (const statement of SCHEMA) await kysely.executeQuery(CompiledQuery.raw(statement));
  const store = sqlStore(db, kysely);
  const start = performance.now();
  let bytes = 0;
  for await (const chunk of writer(PositionLines).stream(store.stream(loadPlan(PositionLines))))
    bytes += chunk.length;
  const where = serverUrl === undefined ? 'embedded' : 'server';
  report(`export of 1,000,000 rows from PostgreSQL (${where}) as JSON`, bytes, start);
  if (serverUrl !== undefined) await copied(serverUrl);
  await kysely.executeQuery(CompiledQuery.raw('drop schema gribo_bench cascade'));
  await kysely.destroy();
};
