import { execFile } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { promisify } from 'node:util';
import { serve } from '@gribo/http';
import { expect } from 'chai';
import {
  type AnyApi,
  amending,
  api,
  collection,
  everything,
  input,
  list,
  loadPlan,
  page,
  type SampledRows,
  samples,
  shape,
  writer,
} from 'gribo';
import type { ColumnPlan, LinkedEntities, LinkedEntity } from 'gribo/kit';
import { Kysely, MysqlDialect, PostgresDialect, sql } from 'kysely';
import { createPool } from 'mysql2';
import pg from 'pg';
import { dialectOf } from '../dialects/dialects.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { sqlStore } from '../store/sql-store.js';
import { databases, PLACE } from '../testing/databases.js';
import { fillZoo, makeZoo, ZOO } from '../testing/zoo.js';
import { drift } from './drift.js';
import { type Scan, scan } from './scan.js';

// biome-ignore lint/suspicious/noExplicitAny: what is scanned has no static type
type Any = any;

const run = promisify(execFile);

/** Rows of each table. */
const ROWS = Number(process.env['GRIBO_ROWS'] ?? 12);

const CACHE = fileURLToPath(new URL('../../../../.cache/zoo/', import.meta.url));

/** One connection, for what is set for it to hold for all that is asked. */
const alone = async (name: string, open: () => Promise<AnyKysely | null>): Promise<AnyKysely | null> => {
  const [postgres, mariadb] = [process.env['GRIBO_POSTGRES'], process.env['GRIBO_MARIADB']];
  const place = `${PLACE}_zoo`;
  if (name === 'PostgreSQL server' && postgres !== undefined) {
    const pool = new pg.Pool({
      connectionString: postgres,
      max: 1,
      options: `-c search_path=${place},public -c session_replication_role=replica`,
    });
    await pool.query(`create schema if not exists ${place}`);
    return new Kysely({ dialect: new PostgresDialect({ pool }) });
  }
  if (name === 'MariaDB server' && mariadb !== undefined) {
    const first = createPool({ uri: mariadb, connectionLimit: 1 });
    await first.promise().query(`create database if not exists ${place}`);
    await first.promise().end();
    const url = new URL(mariadb);
    url.pathname = `/${place}`;
    return new Kysely({
      dialect: new MysqlDialect({ pool: createPool({ uri: url.href, connectionLimit: 1 }) }),
    });
  }
  return open();
};

interface Compiled {
  readonly db: LinkedEntities;
  readonly office: AnyApi;
}

const compiled = async (folder: string, { source, api: first }: Scan): Promise<Compiled> => {
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'model.ts'), source);
  writeFileSync(join(folder, 'api.ts'), first);
  const of = async <T>(name: string): Promise<T> =>
    (await import(`${pathToFileURL(join(folder, name)).href}?${randomUUID()}`)) as T;
  const { db } = await of<{ db: LinkedEntities }>('model.ts');
  const { office } = await of<{ office: AnyApi }>('api.ts');
  return { db, office };
};

const WORKSPACE = fileURLToPath(new URL('../../../../', import.meta.url));

/** What the compiler says of the sources that were written. */
const saidByCompiler = async (files: readonly string[]): Promise<string> => {
  const flags =
    '--noEmit --strict --exactOptionalPropertyTypes --skipLibCheck --ignoreConfig --target es2023';
  const modules =
    '--module nodenext --moduleResolution nodenext --customConditions @gribo/source --types node';
  const tsc = join(WORKSPACE, 'node_modules/typescript/bin/tsc');
  const all = [tsc, ...flags.split(' '), ...modules.split(' '), ...files];
  return run(process.execPath, all, { cwd: WORKSPACE }).then(
    () => '',
    ({ stdout }: { stdout: string }) => stdout,
  );
};

const isOrdered = ({ type }: ColumnPlan): boolean => !['json', 'array', 'duration'].includes(type.kind);
const isOpen = ({ sealed }: ColumnPlan): boolean => sealed === null;
const isSet = ({ generated, sealed }: ColumnPlan): boolean => !generated && sealed === null;

/** All operations on every entity, with every column to sort by. */
const everythingOf = (db: LinkedEntities): { api: AnyApi; bodies: ReadonlyMap<string, Any> } => {
  const bodies = new Map<string, Any>();
  const endpoints = Object.fromEntries(
    Object.entries(db).map(([name, over]) => {
      const Row = shape(over as Any, (row: Any) => ({ ...everything(row) }), {
        name: `${name}Row`,
      } as Any) as Any;
      const columns = over.entity.columns.filter(isSet);
      const named = (row: Any, some: readonly ColumnPlan[]): Any =>
        Object.fromEntries(some.map(({ name: column }) => [column, row[column]]));
      const list = page(Row, { by: 'cursor', size: 5 } as never);
      const sort = over.entity.columns
        .filter(isOrdered)
        .filter(isOpen)
        .map((column) => column.name);
      if (over.entity.readOnly || columns.length === 0)
        return [name, collection(`/${name}`, over as Any, { list, read: Row, sort } as Any)];
      bodies.set(
        name,
        shape(over as Any, (row: Any) => named(row, columns)),
      );
      const Input = input(over as Any, (row: Any) => named(row, columns), {
        name: `${name}In`,
      } as Any) as Any;
      const changed = columns.filter(({ key }) => !key);
      const write = {
        create: { takes: Input, returns: Row },
        remove: true,
        ...(changed.length === 0
          ? {}
          : { amend: { takes: amending(Input, (row: Any) => named(row, changed)), returns: Row } }),
      };
      return [name, collection(`/${name}`, over as Any, { list, read: Row, sort, ...write } as Any)];
    }),
  );
  return { api: api({ title: 'Zoo', version: '1.0.0', endpoints } as Any) as AnyApi, bodies };
};

/** Makes made-up rows into such as the checks between columns let in. */
const fitting = (rows: SampledRows): SampledRows =>
  Object.fromEntries(
    Object.entries(rows).map(([name, some]) => [
      name,
      some.map((row, i) => ({
        ...row,
        ...('returnedAt' in row ? { returnedAt: null } : {}),
        ...(name === 'depot' ? { keeperId: i + 1 } : {}),
      })),
    ]),
  );

interface Said {
  readonly status: number;
  readonly body: Any;
}

/** The embedded PostgreSQL is the server's own code: where there is a server, the zoo is shown to that one. */
const isTwice = (variable: string | null): boolean =>
  variable === null && process.env['GRIBO_POSTGRES'] !== undefined;

for (const { name, variable, open } of databases.filter((database) => !isTwice(database.variable))) {
  describe(`a zoo of schemas on ${name}${variable === null ? '' : ` (${variable})`}`, () => {
    let kysely: AnyKysely | null = null;
    const files: string[] = [];
    before(async function () {
      kysely = await alone(name, open);
      if (kysely === null) this.skip();
    });
    after(async () => {
      await kysely?.destroy();
      rmSync(CACHE, { recursive: true, force: true });
    });

    for (const schema of ZOO) {
      it(`reads ${schema}, and answers, pages and changes every row of it`, async () => {
        if (kysely === null) throw new Error('the database was not opened');
        await makeZoo(kysely, schema);
        const scanned = await scan(kysely);
        const folder = join(CACHE, name.replaceAll(/\W+/g, '-'), schema);
        const { db, office } = await compiled(folder, scanned);
        files.push(join(folder, 'model.ts'), join(folder, 'api.ts'));
        const drifts = (await drift(db, kysely)).map(({ code, path }) => `${code} ${path}`);
        expect(drifts).to.deep.equal(
          dialectOf(kysely).name === 'mysql' && schema === 'gear-hire' ? ['excess gear.mooring'] : [],
        );
        await fillZoo(kysely, scanned, db, fitting(samples(db, { rows: ROWS, seed: schema })));
        if (dialectOf(kysely).name === 'postgres' && schema === 'gear-hire')
          await sql`refresh materialized view hires_by_depot`.execute(kysely);
        const store = sqlStore(db, kysely, { closes: false });
        const logs: string[] = [];
        const log = { error: (about: Any) => void logs.push(JSON.stringify(about)) };
        const asking = (of: AnyApi) => {
          const handle = serve(of, { store, log } as Any);
          return async (method: string, path: string, body?: string): Promise<Said> => {
            const sent = body === undefined ? {} : { body, headers: { 'content-type': 'application/json' } };
            const response = await handle(new Request(`http://o.test${path}`, { method, ...sent }));
            const text = await response.text();
            const said = { status: response.status, body: text === '' ? null : JSON.parse(text) };
            expect(said.status, `${method} ${path} ${text} ${JSON.stringify(logs)}`).to.be.below(500);
            return said;
          };
        };
        const start = asking(office);
        for (const { operation, path, name: endpoint, entity } of office.plan.endpoints) {
          const listed = await start('GET', path.replace(/\/\{.*$/, ''));
          expect(listed.status, path).to.equal(200);
          const [first] = listed.body.items;
          if (operation !== 'read' || first === undefined || entity === null) continue;
          const read = await start('GET', `${path.replace(/\/\{.*$/, '')}/${keyOf({ entity }, first)}`);
          expect(read, endpoint).to.deep.equal({ status: 200, body: first });
        }
        const { api: all, bodies } = everythingOf(db);
        const ask = asking(all);
        for (const [entity, over] of Object.entries(db)) {
          await pages(kysely, ask, entity, over);
          const body = bodies.get(entity);
          if (body === undefined) continue;
          await pagesMeanwhile(ask, entity, over, body, () => rowsOf(store, body));
          await changes(ask, entity, over, body, await rowsOf(store, body));
        }
      });
    }

    it('is declared as the compiler wants it', async () => {
      expect(await saidByCompiler(files)).to.equal('');
    });
  });
}

const rowsOf = async (store: ReturnType<typeof sqlStore>, body: Any): Promise<readonly object[]> => {
  return store.list(loadPlan(list(body) as Any));
};

type Ask = (method: string, path: string, body?: string) => Promise<Said>;

const keyOf = ({ entity }: Pick<LinkedEntity, 'entity'>, row: Any): string =>
  entity.key
    .map((column) => row[column])
    .map((value) => encodeURIComponent(value instanceof Date ? value.toISOString() : String(value)))
    .join('/');

/** Every page of a list in one order. */
const paged = async (ask: Ask, path: string, between: (last: Any) => Promise<void>): Promise<Any[]> => {
  const rows: Any[] = [];
  for (let next: string | null = path; next !== null; ) {
    const { status, body } = await ask('GET', next);
    expect(status, `${next} ${JSON.stringify(body)}`).to.equal(200);
    rows.push(...body.items);
    if (rows.length === body.items.length && body.items.length > 0) await between(body.items.at(-1));
    next = body.page.next === null ? null : `${path}${path.includes('?') ? '&' : '?'}after=${body.page.next}`;
  }
  return rows;
};

const noChange = async (): Promise<void> => {};

/** Pages through every order both ways: every row comes once. */
const pages = async (kysely: AnyKysely, ask: Ask, name: string, over: LinkedEntity): Promise<void> => {
  const key = (row: Any): string => keyOf(over, row);
  const all = (await paged(ask, `/${name}`, noChange)).map(key).sort();
  const [{ count }] = (
    await sql<{ count: unknown }>`select count(*) as count from ${sql.table(over.entity.table)}`.execute(
      kysely,
    )
  ).rows as [{ count: unknown }];
  expect(all.length, name).to.equal(Number(count));
  expect(new Set(all).size, `${name}: keys`).to.equal(all.length);
  for (const column of over.entity.columns.filter(isOpen).filter(isOrdered)) {
    for (const order of [column.name, `${column.name} desc`]) {
      const path = `/${name}?sort=${encodeURIComponent(order)}`;
      const rows = await paged(ask, path, noChange);
      expect(rows.map(key).sort(), path).to.deep.equal(all);
    }
  }
};

/** Every row comes once, too, where the row that a page ended with is gone, and another one has come in front of it. */
const pagesMeanwhile = async (
  ask: Ask,
  name: string,
  over: LinkedEntity,
  body: Any,
  rows: () => Promise<readonly object[]>,
): Promise<void> => {
  for (const column of over.entity.columns.filter(isOpen).filter(isOrdered).slice(0, 4)) {
    for (const order of [column.name, `${column.name} desc`]) {
      const before = new Map(
        (await rows()).map((row) => [keyOf(over, row), writer(body).json(row as never)]),
      );
      let gone = '';
      const seen = await paged(ask, `/${name}?sort=${encodeURIComponent(order)}`, async (last) => {
        gone = keyOf(over, last);
        expect((await ask('DELETE', `/${name}/${gone}`)).status).to.equal(204);
      });
      const keys = seen.map((row) => keyOf(over, row));
      expect(keys.sort(), `${name} by ${order}`).to.deep.equal([...before.keys()].sort());
      const made = await ask('POST', `/${name}`, before.get(gone));
      expect(made.status, JSON.stringify(made.body)).to.equal(201);
    }
  }
};

/** Reads every row, makes it again, changes it and takes it away. */
const changes = async (
  ask: Ask,
  name: string,
  over: LinkedEntity,
  body: Any,
  rows: readonly object[],
): Promise<void> => {
  const isMade = over.entity.columns.some(({ key, generated }) => key && generated);
  for (const row of rows) {
    const path = `/${name}/${keyOf(over, row)}`;
    const before = await ask('GET', path);
    expect(before.status, path).to.equal(200);
    const said = writer(body).json(row as never);
    expect((await ask('DELETE', path)).status, path).to.equal(204);
    const made = await ask('POST', `/${name}`, said);
    expect(made.status, `${path} ${said} ${JSON.stringify(made.body)}`).to.equal(201);
    const again = isMade ? `/${name}/${keyOf(over, made.body)}` : path;
    const sent = JSON.parse(said);
    for (const column of Object.keys(sent))
      expect(made.body[column], `${path} ${column}`).to.deep.equal(sent[column]);
    const { [over.entity.key[0] ?? '']: _key, ...rest } = sent;
    const changed = Object.fromEntries(
      Object.entries(rest).filter(([column]) => !over.entity.key.includes(column)),
    );
    if (Object.keys(changed).length > 0) {
      const amended = await ask('PATCH', again, JSON.stringify(changed));
      expect(amended.status, `${again} ${JSON.stringify(amended.body)}`).to.equal(200);
    }
    if (isMade) expect((await ask('DELETE', again)).status, again).to.equal(204);
  }
};
