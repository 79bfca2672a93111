import { readFileSync } from 'node:fs';
import type { EntityPlan, LinkedEntities } from 'gribo/kit';
import { CompiledQuery, sql } from 'kysely';
import { dialectOf } from '../dialects/dialects.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import type { Scan } from '../scan/scan.js';
import { plainColumn } from './plain-column.js';

/** Schemas that no model was made for: each is there for every dialect. */
export const ZOO = ['chart-library', 'gear-hire', 'chandlery', 'oddities'] as const;

/** Values of types that no kind has, as a database writes them itself. */
const FOREIGN: Readonly<Record<string, unknown>> = {
  money: '$1.00',
  inet: '10.0.0.1',
  int4range: '[1,5)',
  tsvector: "'anchor':1",
  point: '(1,2)',
  'text[]': '{a,b}',
  'integer[]': '{1,2}',
  '"char"': 'x',
  inet6: '2001:db8::1',
  "set('lights','anchor','spare parts')": 'lights,anchor',
};

const run = async (kysely: AnyKysely, statement: string): Promise<void> => {
  await kysely.executeQuery(CompiledQuery.raw(statement));
};

/** Texts of upper and lower case alike; another worker may be making the extension at this moment. */
export const withCitext = async (kysely: AnyKysely): Promise<void> => {
  const made = () => run(kysely, 'create extension if not exists citext with schema public');
  await made().catch(made);
};

/** Makes the tables of a schema, in a place of their own where the database has such. */
export const makeZoo = async (kysely: AnyKysely, schema: string): Promise<void> => {
  const { name } = dialectOf(kysely);
  if (name === 'postgres') {
    const [place] = (await sql<{ place: string }>`select current_schema() as place`.execute(kysely)).rows;
    await run(kysely, `drop schema if exists ${place?.place ?? 'public'} cascade`);
    await run(kysely, `create schema ${place?.place ?? 'public'}`);
    await run(kysely, 'set session_replication_role = replica');
  }
  if (name === 'mysql') {
    const [place] = (await sql<{ place: string }>`select database() as place`.execute(kysely)).rows;
    await run(kysely, `drop database ${place?.place}`);
    await run(kysely, `create database ${place?.place}`);
    await run(kysely, `use ${place?.place}`);
    await run(kysely, 'set foreign_key_checks = 0');
  }
  if (name === 'sqlite') {
    await run(kysely, 'pragma foreign_keys = off');
    const there = await sql<{ name: string; type: string }>`select name, type from sqlite_schema
      where type in ('table', 'view') and name not like 'sqlite\\_%' escape '\\'`.execute(kysely);
    for (const { name: table, type } of there.rows) await run(kysely, `drop ${type} "${table}"`);
  }
  const file = new URL(`../../zoo/${schema}.${name}.sql`, import.meta.url);
  for (const statement of readFileSync(file, 'utf8').split(/;\s*\n/))
    if (statement.includes('create extension')) await withCitext(kysely);
    else if (statement.trim() !== '') await run(kysely, statement);
};

/** Rows as the database takes them: what it computes is left out, and types that no kind has get values of theirs. */
export const fillZoo = async (
  kysely: AnyKysely,
  { model: { entities } }: Scan,
  model: LinkedEntities,
  rows: Readonly<Record<string, readonly object[]>>,
): Promise<void> => {
  const dialect = dialectOf(kysely);
  for (const { name, columns, readOnly } of entities) {
    const entity = model[name]?.entity;
    if (readOnly || entity === undefined) continue;
    for (const row of rows[name] ?? []) {
      const set = columns.flatMap(({ name: property, column }) => {
        const value = (row as Record<string, unknown>)[property] ?? null;
        if (column.name === 'day') return [];
        const isSmall = /^(?:tinyint|smallint|bit)/i.test(column.said) && typeof value === 'number';
        if (isSmall && value > 100) return [[column.name, value % 100] as const];
        const isForeign = column.said in FOREIGN && ['text', 'array'].includes(column.type.kind);
        const stored = isForeign
          ? FOREIGN[column.said]
          : dialect.encode(plainColumn({ stored: column.name, type: column.type }), value);
        return [[column.name, stored] as const];
      });
      await insert(kysely, entity, set);
    }
    if (dialect.name === 'postgres')
      for (const { stored } of entity.columns.filter(({ key, generated }) => key && generated))
        await sql`select setval(pg_get_serial_sequence(${`"${entity.table}"`}, ${stored}), 100)`.execute(
          kysely,
        );
  }
};

const insert = async (
  kysely: AnyKysely,
  entity: EntityPlan,
  set: readonly (readonly [string, unknown])[],
): Promise<void> => {
  const names = sql.join(set.map(([name]) => sql.id(name)));
  const over = dialectOf(kysely).name === 'postgres' ? sql` overriding system value` : sql``;
  await sql`insert into ${sql.table(entity.table)} (${names})${over} values (${sql.join(set.map(([, value]) => value))})`.execute(
    kysely,
  );
};
