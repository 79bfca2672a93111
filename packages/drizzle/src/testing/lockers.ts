import { sql } from 'drizzle-orm';
import * as my from 'drizzle-orm/mysql-core';
import * as pg from 'drizzle-orm/pg-core';
import * as lite from 'drizzle-orm/sqlite-core';

/** What a JSON column holds. */
export interface Fittings {
  readonly hooks: number;
  readonly doors: readonly ('left' | 'right')[];
}

/** What is made where Drizzle makes a value, so that tests know it. */
export const MADE = 'made-by-a-function';
export const CHANGED = 'changed-by-a-function';

const state = pg.pgEnum('locker_state', ['free', 'let', 'broken']);

/** A table with a column of every class that has a kind, in each of Drizzle's dialects; what makes it, and a row. */
export const lockersPostgres = pg.pgTable(
  'locker',
  {
    id: pg.bigserial({ mode: 'bigint' }).primaryKey(),
    small: pg.smallint().notNull(),
    shelf: pg.integer().notNull().default(1),
    weight: pg.bigint({ mode: 'number' }).notNull(),
    serial: pg.bigint({ mode: 'bigint' }).notNull(),
    depth: pg.real().notNull(),
    width: pg.doublePrecision().notNull(),
    fee: pg.numeric({ precision: 10, scale: 2 }).notNull(),
    rate: pg.numeric({ precision: 10, scale: 2, mode: 'number' }).notNull(),
    units: pg.numeric({ precision: 30, scale: 0, mode: 'bigint' }).notNull(),
    isLit: pg.boolean('is_lit').notNull(),
    since: pg.date().notNull(),
    until: pg.date({ mode: 'date' }),
    opens: pg.time().notNull(),
    seen: pg.timestamp({ withTimezone: true, precision: 3 }).notNull(),
    told: pg.timestamp({ mode: 'string', precision: 3 }),
    tag: pg.uuid().notNull(),
    label: pg.text().notNull(),
    short: pg.varchar({ length: 10 }).notNull().unique(),
    letter: pg.char({ length: 1 }).notNull(),
    side: pg.text({ enum: ['port', 'starboard'] }).notNull(),
    state: state().notNull(),
    net: pg.cidr().notNull(),
    host: pg.inet().notNull(),
    mac: pg.macaddr().notNull(),
    fittings: pg.jsonb().$type<Fittings>().notNull(),
    extra: pg.json(),
    keys: pg.text().array().notNull(),
    marks: pg.integer().array(),
    made: pg
      .text()
      .notNull()
      .$defaultFn(() => MADE),
    changed: pg
      .text()
      .notNull()
      .$onUpdateFn(() => CHANGED),
    twice: pg.integer().generatedAlwaysAs(sql`shelf * 2`),
    place: pg.point(),
  },
  (t) => [pg.uniqueIndex('locker_label').on(t.label)],
);

export const LOCKERS_POSTGRES: readonly string[] = [
  'drop table if exists locker',
  'drop type if exists locker_state',
  `create type locker_state as enum ('free', 'let', 'broken')`,
  `create table locker (id bigserial primary key, small smallint not null, shelf integer not null default 1, weight bigint not null,
    serial bigint not null, depth real not null, width double precision not null, fee numeric(10, 2) not null, rate numeric(10, 2) not null,
    units numeric(30, 0) not null, is_lit boolean not null, since date not null, until date, opens time not null, seen timestamptz(3) not null,
    told timestamp(3), tag uuid not null, label text not null, short varchar(10) not null unique, letter char(1) not null, side text not null,
    state locker_state not null, net cidr not null, host inet not null, mac macaddr not null, fittings jsonb not null, extra json,
    keys text[] not null, marks integer[], made text not null, changed text not null, twice integer generated always as (shelf * 2) stored, place point)`,
  'create unique index locker_label on locker (label)',
];

export const lockersMysql = my.mysqlTable('locker', {
  id: my.serial().primaryKey(),
  tiny: my.tinyint().notNull(),
  small: my.smallint().notNull(),
  middle: my.mediumint().notNull(),
  shelf: my.int().notNull().default(1),
  weight: my.bigint({ mode: 'number' }).notNull(),
  serial: my.bigint({ mode: 'bigint', unsigned: true }).notNull(),
  depth: my.float().notNull(),
  width: my.double().notNull(),
  height: my.real().notNull(),
  fee: my.decimal({ precision: 10, scale: 2 }).notNull(),
  rate: my.decimal({ precision: 10, scale: 2, mode: 'number' }).notNull(),
  units: my.decimal({ precision: 30, scale: 0, mode: 'bigint' }).notNull(),
  isLit: my.boolean('is_lit').notNull(),
  since: my.date({ mode: 'string' }).notNull(),
  until: my.date(),
  built: my.year().notNull(),
  opens: my.time().notNull(),
  seen: my.datetime({ fsp: 3 }).notNull(),
  told: my.timestamp({ mode: 'string', fsp: 3 }),
  label: my.text().notNull(),
  short: my.varchar({ length: 10 }).notNull().unique(),
  letter: my.char({ length: 1 }).notNull(),
  side: my.mysqlEnum(['port', 'starboard']).notNull(),
  fittings: my.json().$type<Fittings>().notNull(),
  made: my
    .varchar({ length: 40 })
    .notNull()
    .$defaultFn(() => MADE),
  changed: my
    .varchar({ length: 40 })
    .notNull()
    .$onUpdateFn(() => CHANGED),
  twice: my.int().generatedAlwaysAs(sql`shelf * 2`),
});

export const LOCKERS_MYSQL: readonly string[] = [
  'drop table if exists locker',
  `create table locker (id serial primary key, tiny tinyint not null, small smallint not null, middle mediumint not null,
    shelf int not null default 1, weight bigint not null, serial bigint unsigned not null, depth float not null, width double not null,
    height real not null, fee decimal(10, 2) not null, rate decimal(10, 2) not null, units decimal(30, 0) not null, is_lit boolean not null,
    since date not null, until date, built year not null, opens time not null, seen datetime(3) not null, told timestamp(3) null,
    label text not null, short varchar(10) not null unique, letter char(1) not null, side enum('port', 'starboard') not null,
    fittings json not null, made varchar(40) not null, changed varchar(40) not null, twice int generated always as (shelf * 2) stored)`,
];

export const lockersSqlite = lite.sqliteTable('locker', {
  id: lite.integer().primaryKey(),
  shelf: lite.integer().notNull().default(1),
  width: lite.real().notNull(),
  fee: lite.numeric().notNull(),
  rate: lite.numeric({ mode: 'number' }).notNull(),
  units: lite.numeric({ mode: 'bigint' }).notNull(),
  serial: lite.blob({ mode: 'bigint' }).notNull(),
  isLit: lite.integer('is_lit', { mode: 'boolean' }).notNull(),
  seen: lite.integer({ mode: 'timestamp_ms' }).notNull(),
  told: lite.integer({ mode: 'timestamp' }),
  label: lite.text().notNull(),
  short: lite.text({ length: 10 }).notNull().unique(),
  side: lite.text({ enum: ['port', 'starboard'] }).notNull(),
  fittings: lite.text({ mode: 'json' }).$type<Fittings>().notNull(),
  extra: lite.blob({ mode: 'json' }).$type<Fittings>(),
  photo: lite.blob({ mode: 'buffer' }),
  made: lite
    .text()
    .notNull()
    .$defaultFn(() => MADE),
  changed: lite
    .text()
    .notNull()
    .$onUpdateFn(() => CHANGED),
  twice: lite.integer().generatedAlwaysAs(sql`shelf * 2`),
});

export const LOCKERS_SQLITE: readonly string[] = [
  'drop table if exists locker',
  `create table locker (id integer primary key, shelf integer not null default 1, width real not null, fee numeric(10, 2) not null,
    rate numeric not null, units numeric(30, 0) not null, serial blob not null, is_lit integer not null, seen integer not null, told integer,
    label text not null, short text not null unique, side text not null, fittings text not null, extra blob, photo blob,
    made text not null, changed text not null, twice integer generated always as (shelf * 2) stored)`,
];
