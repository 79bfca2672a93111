import {
  amending,
  api,
  atLeast,
  atMost,
  bigint,
  bool,
  bytes,
  collection,
  contains,
  date,
  decimal,
  entity,
  equals,
  input,
  integer,
  isNull,
  json,
  model,
  oneOf,
  oneOfThese,
  optional,
  page,
  real,
  shape,
  text,
  time,
  timestamp,
  uuid,
} from 'gribo';
import { CompiledQuery, sql } from 'kysely';
import { dialectOf } from '../dialects/dialects.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { plainColumn } from './plain-column.js';

/** A model whose declarations hold more than its tables do: narrow numbers, short texts, few characters. */
export const trap = model(
  {
    crate: entity('crate', {
      id: bigint().key(),
      small: integer().nullable(),
      whole: integer().nullable(),
      large: bigint().nullable(),
      single: real().nullable(),
      exact: decimal(12, 2).nullable(),
      label: text().nullable(),
      narrow: text().nullable(),
      isSealed: bool().nullable(),
      day: date().nullable(),
      clock: time().nullable(),
      seen: timestamp().nullable(),
      tag: uuid().nullable(),
      details: json<unknown>().nullable(),
      seal: bytes().nullable(),
      kind: oneOf('box', 'drum', 'sack', 'unheard').nullable(),
    }),
    slip: entity('slip', { code: text().key(), note: text().nullable() }),
    token: entity('token', { id: uuid().key(), note: text().nullable() }),
    berthing: entity('berthing', { small: integer().key(), day: date().key(), note: text().nullable() }),
  },
  {},
);

const Crate = shape(trap.crate, (c) => ({ ...c }), { name: 'Crate' });
const NewCrate = input(
  trap.crate,
  (c) => ({
    id: c.id,
    small: optional(c.small),
    whole: optional(c.whole),
    large: optional(c.large),
    single: optional(c.single),
    exact: optional(c.exact),
    label: optional(c.label),
    narrow: optional(c.narrow),
    isSealed: optional(c.isSealed),
    day: optional(c.day),
    clock: optional(c.clock),
    seen: optional(c.seen),
    tag: optional(c.tag),
    details: optional(c.details),
    seal: optional(c.seal),
    kind: optional(c.kind),
  }),
  { name: 'NewCrate' },
);
const Slip = shape(trap.slip, (s) => ({ code: s.code, note: s.note }), { name: 'Slip' });
const NewSlip = input(trap.slip, (s) => ({ code: s.code, note: optional(s.note) }), { name: 'NewSlip' });
const Token = shape(trap.token, (t) => ({ id: t.id, note: t.note }), { name: 'Token' });
const Berthing = shape(trap.berthing, (b) => ({ ...b }), { name: 'Berthing' });

export const traps = api({
  title: 'Traps',
  version: '1',
  endpoints: {
    crates: collection('/crates', trap.crate, {
      list: page(Crate, { by: 'cursor', size: 3, max: 50, sort: ['whole'], totals: true }),
      read: Crate,
      create: { takes: NewCrate, returns: Crate },
      amend: { takes: amending(NewCrate, ({ id, ...rest }) => rest), returns: Crate },
      remove: true,
      filters: (c) => ({
        small: equals(c.small),
        smalls: oneOfThese(c.small),
        wholeFrom: atLeast(c.whole),
        wholeTo: atMost(c.whole),
        large: equals(c.large),
        largeFrom: atLeast(c.large),
        largeTo: atMost(c.large),
        single: equals(c.single),
        singleFrom: atLeast(c.single),
        exact: equals(c.exact),
        exacts: oneOfThese(c.exact),
        exactTo: atMost(c.exact),
        label: equals(c.label),
        labels: oneOfThese(c.label),
        labelled: contains(c.label),
        narrow: equals(c.narrow),
        narrows: oneOfThese(c.narrow),
        narrowed: contains(c.narrow),
        narrowFrom: atLeast(c.narrow),
        isSealed: equals(c.isSealed),
        day: equals(c.day),
        dayFrom: atLeast(c.day),
        clockTo: atMost(c.clock),
        seen: equals(c.seen),
        seenAny: oneOfThese(c.seen),
        seenFrom: atLeast(c.seen),
        seenTo: atMost(c.seen),
        tag: equals(c.tag),
        tags: oneOfThese(c.tag),
        kind: equals(c.kind),
        kinds: oneOfThese(c.kind),
        untagged: isNull(c.tag),
      }),
      sort: ['small', 'large', 'single', 'exact', 'label', 'isSealed', 'day', 'clock', 'seen', 'tag', 'kind'],
    }),
    slips: collection('/slips', trap.slip, {
      list: page(Slip, { size: 5 }),
      read: Slip,
      create: { takes: NewSlip, returns: Slip },
      amend: { takes: amending(NewSlip, ({ note }) => ({ note })), returns: Slip },
      remove: true,
    }),
    tokens: collection('/tokens', trap.token, { read: Token, remove: true }),
    berthings: collection('/berthings', trap.berthing, { read: Berthing, remove: true }),
  },
});

const TABLES: Readonly<Record<string, readonly string[]>> = {
  postgres: [
    `create table crate (id bigint primary key, small smallint, whole integer, large bigint, single real, exact numeric(8, 2),
      label varchar(20), narrow text, is_sealed boolean, day date, clock time, seen timestamptz, tag uuid, details jsonb, seal bytea,
      kind crate_kind)`,
    'create table slip (code varchar(20) primary key, note text)',
    'create table token (id uuid primary key, note text)',
    'create table berthing (small smallint, day date, note text, primary key (small, day))',
  ],
  mysql: [
    `create table crate (id bigint primary key, small smallint, whole integer, large bigint, single float, exact decimal(8, 2),
      label varchar(20) collate utf8mb4_bin, narrow varchar(60) character set latin1 collate latin1_bin, is_sealed boolean, day date, clock time, seen timestamp(3) null,
      tag char(36), details json, seal varbinary(16), kind enum('box', 'drum', 'sack'))`,
    'create table slip (code varchar(20) collate utf8mb4_bin primary key, note tinytext)',
    'create table token (id uuid primary key, note text)',
    'create table berthing (small smallint, day date, note text, primary key (small, day))',
  ],
  sqlite: [
    `create table crate (id bigint primary key, small integer, whole integer, large bigint, single real, exact numeric(8, 2),
      label varchar(20), narrow text, is_sealed boolean, day date, clock time, seen timestamp, tag uuid, details json, seal blob,
      kind text)`,
    'create table slip (code text primary key, note text)',
    'create table token (id uuid primary key, note text)',
    'create table berthing (small integer, day date, note text, primary key (small, day))',
  ],
};

const crate = (id: bigint, values: object): object => ({
  id,
  small: Number(id) * 10,
  whole: Number(id) * 1000,
  large: id * 1_000_000n,
  single: Number(id) + 0.5,
  exact: `${id}.25`,
  label: `Crate ${id}`,
  narrow: `Narrow ${id}`,
  isSealed: id % 2n === 0n,
  day: `2026-03-0${id}`,
  clock: '06:30:00',
  seen: new Date(`2026-03-0${id}T06:30:00.000Z`),
  tag: `00000000-0000-4000-8000-00000000000${id}`,
  details: { id: Number(id) },
  seal: Uint8Array.of(Number(id)),
  kind: 'box',
  ...values,
});

const NOTHING = Object.fromEntries(
  trap.crate.entity.columns.filter(({ name }) => name !== 'id').map(({ name }) => [name, null]),
);

export const trapRows = {
  crate: [
    crate(1n, {}),
    crate(2n, { kind: 'drum', label: 'Ünder', narrow: 'é€' }),
    crate(3n, { small: -32768, whole: -2147483648, large: -(2n ** 63n) }),
    crate(4n, { small: 32767, whole: 2147483647, large: 2n ** 63n - 1n, exact: '999999.99' }),
    crate(5n, NOTHING),
    crate(-1n, { ...NOTHING, label: 'minus one' }),
  ],
  slip: [
    { code: 'a', note: 'A' },
    { code: '.', note: 'one' },
    { code: '..', note: 'two' },
    { code: 'constructor', note: 'c' },
  ],
  token: [{ id: '00000000-0000-4000-8000-000000000001', note: 'one' }],
  berthing: [{ small: 1, day: '2026-03-01', note: 'one' }],
};

/** Makes the tables of the trap anew. */
export const makeTraps = async (kysely: AnyKysely): Promise<void> => {
  const { name } = dialectOf(kysely);
  for (const table of Object.keys(trapRows))
    await sql`drop table if exists ${sql.table(table)}`.execute(kysely);
  if (name === 'postgres') {
    await sql`drop type if exists crate_kind`.execute(kysely);
    await sql`create type crate_kind as enum ('box', 'drum', 'sack')`.execute(kysely);
  }
  for (const statement of TABLES[name] ?? []) await kysely.executeQuery(CompiledQuery.raw(statement));
};

/** Puts just these rows into them. */
export const fillTraps = async (kysely: AnyKysely): Promise<void> => {
  const dialect = dialectOf(kysely);
  for (const [name, rows] of Object.entries(trapRows)) {
    const entity = trap[name as keyof typeof trapRows].entity;
    await sql`delete from ${sql.table(name)}`.execute(kysely);
    for (const row of rows) {
      const values = entity.columns.map((column) =>
        dialect.encode(plainColumn(column), (row as Record<string, unknown>)[column.name]),
      );
      const columns = sql.join(entity.columns.map(({ stored }) => sql.id(stored)));
      await sql`insert into ${sql.table(name)} (${columns}) values (${sql.join(values)})`.execute(kysely);
    }
  }
};
