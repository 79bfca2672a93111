import { createHash } from 'node:crypto';
import { existsSync, openAsBlob } from 'node:fs';
import { mkdir, rename, writeFile } from 'node:fs/promises';
import { PGlite } from '@electric-sql/pglite';
import { openDatabase, pgliteDialect } from '@gribo/sql';
import { Kysely, sql } from 'kysely';
import { type DataRow, type HarbourData, harbourData } from './data.js';
import { db } from './model.js';
import { schema } from './schema.js';

/** Tables and columns by name; what is in them is checked where it is written. */
export type Tables = Record<string, Record<string, unknown>>;

/** The most rows that one statement inserts: PostgreSQL takes 65,535 parameters. */
const AT_ONCE = 1000;

/**
 * What the dump was filled with, and how: changed where `fill` or the data are. A start need not make the data to know which dump is
 * that of today; a test says where this is not its fingerprint.
 */
export const FILLED = '2c78f88320f8d305-3';

/** Beside the package, so that the next start need not fill the database again. */
const CACHE = new URL('../.cache/', import.meta.url);

const storedRow = (
  row: DataRow,
  columns: readonly { readonly name: string; readonly stored: string }[],
): Record<string, unknown> => Object.fromEntries(columns.map(({ name, stored }) => [stored, row[name]]));

const insert = async (
  database: Kysely<Tables>,
  name: keyof typeof db,
  rows: readonly DataRow[],
): Promise<void> => {
  const { table, columns } = db[name].entity;
  for (let from = 0; from < rows.length; from += AT_ONCE) {
    const some = rows.slice(from, from + AT_ONCE).map((row) => storedRow(row, columns));
    await database.insertInto(table).values(some).execute();
  }
};

const fill = async (database: Kysely<Tables>, data: HarbourData): Promise<void> => {
  for (const [name, rows] of Object.entries(data)) await insert(database, name as keyof typeof db, rows);
  for (const { entity } of Object.values(db)) await countOn(database, entity.table);
};

/** The rows came with their numbers: the next one that the database makes follows on them. */
const countOn = async (database: Kysely<Tables>, table: string): Promise<void> => {
  const sequence = sql`pg_get_serial_sequence(${table}, 'id')`;
  if (!(await hasIdentity(database, table))) return;
  await sql`select setval(${sequence}, max(id)) from ${sql.table(table)}`.execute(database);
};

const hasIdentity = async (database: Kysely<Tables>, table: string): Promise<boolean> => {
  const { rows } = await sql`
    select 1 from information_schema.columns
    where table_name = ${table} and column_name = 'id' and is_identity = 'YES'`.execute(database);
  return rows.length > 0;
};

/** Whether data are the same, in a few letters. */
export const fingerprint = (data: HarbourData): string => {
  const text = JSON.stringify(data, (_name, value) => (typeof value === 'bigint' ? `${value}n` : value));
  return hashOf(text);
};

const hashOf = (text: string): string => createHash('sha256').update(text).digest('hex').slice(0, 16);

/** The dump that an earlier start left, if it did. */
const cachedDump = async (file: URL): Promise<Blob | null> => (existsSync(file) ? openAsBlob(file) : null);

const keepDump = async (embedded: PGlite, file: URL): Promise<void> => {
  const dump = await embedded.dumpDataDir('none');
  await mkdir(CACHE, { recursive: true });
  // Renamed when whole: a start that is cut short leaves nothing that looks like a dump.
  const unfinished = new URL(`${file.href}.${process.pid}`);
  await writeFile(unfinished, Buffer.from(await dump.arrayBuffer()));
  await rename(unfinished, file);
};

/** What is locked while a server is filled: any number, if it is always the same. */
const FILLING = 530_017;

/** A PostgreSQL of one's own, which is filled where it has no tables yet. */
const onServer = async (url: string): Promise<Kysely<Tables>> => {
  const database: Kysely<Tables> = await openDatabase(url);
  await database.transaction().execute(async (transaction) => {
    // Of two that start at once, the second waits until the first has filled it.
    await sql`select pg_advisory_xact_lock(${FILLING})`.execute(transaction);
    const { rows } = await sql<{
      there: boolean;
    }>`select to_regclass('vessel') is not null as there`.execute(transaction);
    if (rows[0]?.there === true) return;
    await sql.raw(schema).execute(transaction);
    await fill(transaction, harbourData());
  });
  return database;
};

/**
 * The harbour's tables and rows: on an embedded PostgreSQL, or where the environment variable `HARBOUR_DATABASE` says; `destroy`
 * ends it.
 */
export const openHarbour = (): Promise<Kysely<Tables>> => {
  const url = process.env['HARBOUR_DATABASE'];
  return url === undefined ? embeddedHarbour() : onServer(url);
};

/** What makes the next start twice as fast: one small process needs neither room for many pages nor databases to copy from. */
const SMALL = [
  "alter system set shared_buffers = '2MB'",
  'alter database template1 is_template false',
  'drop database template1',
  'alter database template0 is_template false',
  'drop database template0',
];

const embeddedHarbour = async (): Promise<Kysely<Tables>> => {
  const file = new URL(`harbour-${hashOf(schema)}-${FILLED}.tar`, CACHE);
  const dump = await cachedDump(file);
  const embedded = new PGlite(dump === null ? {} : { loadDataDir: dump });
  await embedded.waitReady;
  const database = new Kysely<Tables>({ dialect: pgliteDialect(embedded) });
  if (dump === null) {
    await embedded.exec(schema);
    await database.transaction().execute((transaction) => fill(transaction, harbourData()));
    for (const statement of SMALL) await embedded.query(statement);
    await keepDump(embedded, file);
  }
  // Kysely closes only what it has used: without a first statement, the database would stay open.
  await sql`select 1`.execute(database);
  return database;
};
