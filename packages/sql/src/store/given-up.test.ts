import { type FetchHandler, serve } from '@gribo/http';
import { expect } from 'chai';
import { amending, api, collection, input, list, shape } from 'gribo';
import { CompiledQuery, Kysely } from 'kysely';
import { createPool } from 'mysql2';
import pg from 'pg';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import { keepingLog } from '../../../http/src/testing/ask.js';
import { mysqlDialect } from '../dialects/mysql/mysql-dialect.js';
import { postgresDialect } from '../dialects/postgres/postgres-dialect.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { databases, fillTables, makeTables, PLACE } from '../testing/databases.js';
import { sqlStore } from './sql-store.js';

const Operator = shape(stock.operator, ({ id, name }) => ({ id, name }));
const Vessel = shape(stock.vessel, ({ id, name }) => ({ id, name }));
const names = api({
  title: 'Names',
  version: '1',
  endpoints: {
    operators: collection('/operators', stock.operator, {
      list: list(Operator),
      read: Operator,
      amend: {
        takes: amending(
          input(stock.operator, ({ name }) => ({ name })),
          (members) => members,
        ),
        returns: Operator,
      },
    }),
    vessels: collection('/vessels', stock.vessel, { list: list(Vessel) }),
  },
});

/** A server, with so many connections and so much patience with locks. */
interface Tried {
  readonly name: string;
  readonly variable: string;
  /** @param most so many connections; of one alone, none is there beside it to end its statements by */
  open(url: string, lockTimeout: number, most: number): { readonly kysely: AnyKysely; used(): number };
  /** How many statements of ours wait for a lock. */
  readonly waiting: string;
  readonly lockTable: string;
}

const MOST = 4;

const SERVERS: readonly Tried[] = [
  {
    name: 'PostgreSQL server',
    variable: 'GRIBO_POSTGRES',
    open: (connectionString, lockTimeout, max) => {
      const pool = new pg.Pool({ connectionString, max, options: `-c search_path=${PLACE}` });
      return {
        kysely: new Kysely({ dialect: postgresDialect(pool, { lockTimeout }) }),
        used: () => pool.totalCount - pool.idleCount,
      };
    },
    waiting: `select count(*) as many from pg_locks where not granted and relation = '${PLACE}.operator'::regclass`,
    lockTable: 'lock table operator in access exclusive mode',
  },
  {
    name: 'MariaDB server',
    variable: 'GRIBO_MARIADB',
    open: (uri, lockTimeout, connectionLimit) => {
      const url = new URL(uri);
      url.pathname = `/${PLACE}`;
      const pool = createPool({ uri: url.href, connectionLimit });
      const beside =
        connectionLimit === 1 ? {} : { ending: createPool({ uri: url.href, connectionLimit: 1 }) };
      const used = (): number => {
        const { _allConnections, _freeConnections } = pool as unknown as Record<string, { length: number }>;
        return (_allConnections?.length ?? 0) - (_freeConnections?.length ?? 0);
      };
      return { kysely: new Kysely({ dialect: mysqlDialect(pool, { lockTimeout, ...beside }) }), used };
    },
    waiting: `select count(*) as many from information_schema.processlist where db = '${PLACE}' and info like 'select%operator%' and info not like '%processlist%'`,
    lockTable: 'lock tables operator write',
  },
];

const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

/** Waits until something is so, ten seconds at most: what it came to is asked then. */
const awaited = async (isSo: () => boolean | Promise<boolean>): Promise<void> => {
  for (let i = 0; i < 500 && !(await isSo()); i++) await pause(20);
};

for (const { name, variable, open, waiting, lockTable } of SERVERS) {
  describe(`what is given up on ${name} (${variable})`, () => {
    const url = process.env[variable];
    let other: AnyKysely | null = null;

    before(async function () {
      const kysely = (await databases.find((one) => one.name === name)?.open()) ?? null;
      if (kysely === null) return this.skip();
      await makeTables(kysely);
      await fillTables(kysely, stock, stockRows);
      other = kysely;
    });
    after(() => other?.destroy());

    const opened = (limits: object, lockTimeout = 20_000) => {
      const { kysely, used } = open(url ?? '', lockTimeout, MOST);
      const { told, log } = keepingLog();
      const store = sqlStore(stock, kysely);
      const handle = serve(names, { store, log, limits });
      const asking =
        (served: FetchHandler) =>
        async (method: string, path: string, body?: object, signal?: AbortSignal) => {
          const start = performance.now();
          const response = await served(
            new Request(`http://n.test${path}`, {
              method,
              ...(signal === undefined ? {} : { signal }),
              ...(body === undefined
                ? {}
                : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
            }),
          );
          const text = await response.text();
          return {
            status: response.status,
            text,
            headers: response.headers,
            took: performance.now() - start,
          };
        };
      // Whoever looks how it is, or waits for a connection, is not to be told that his own time is up.
      return { kysely, used, ask: asking(handle), look: asking(serve(names, { store, log })), told };
    };

    /** Does something while somebody else holds a lock. */
    const whileLocked = async <T>(lock: string, work: () => Promise<T>): Promise<T> =>
      (other as AnyKysely).connection().execute(async (own: AnyKysely) => {
        const run = (text: string) => own.executeQuery(CompiledQuery.raw(text));
        await run('begin');
        await run(lock);
        try {
          return await work();
        } finally {
          await run('rollback');
          if (lock.startsWith('lock tables')) await run('unlock tables');
        }
      });

    const row = 'select id from operator where id = 1 for update';
    const many = async (): Promise<number> => {
      const { rows } = await (other as AnyKysely).executeQuery(CompiledQuery.raw(waiting));
      return Number((rows[0] as { many: unknown }).many);
    };

    it('a change whose time is up: nothing is stored, its caller knows, and its connection is free', async () => {
      const { kysely, used, ask, look, told } = opened({ answering: 300 });
      expect((await look('GET', '/operators/1')).status).to.equal(200);
      const { status, text, headers, took } = await whileLocked(row, () =>
        ask('PATCH', '/operators/1', { name: 'Late' }),
      );
      expect([status, headers.get('retry-after')]).to.deep.equal([503, '1']);
      expect(text).to.contain('nothing was changed');
      expect(took).to.be.below(2000);
      await awaited(() => used() === 0);
      expect(used(), 'connections in use').to.equal(0);
      expect((await look('GET', '/operators/1')).text).to.contain('Lantern Bay');
      expect(told).to.have.length(1);
      expect((await look('PATCH', '/operators/1', { name: 'Lantern Bay' })).status).to.equal(200);
      await kysely.destroy();
    });

    it('so many of them that there is no connection left: others are answered soon', async () => {
      const { kysely, ask, look } = opened({ answering: 500 });
      expect((await look('GET', '/vessels')).status).to.equal(200);
      const { late, other: read } = await whileLocked(row, async () => {
        const sent = Array.from({ length: 12 }, () => ask('PATCH', '/operators/1', { name: 'Late' }));
        await pause(100);
        return { other: await look('GET', '/vessels'), late: await Promise.all(sent) };
      });
      expect([read.status, new Set(late.map(({ status }) => status))]).to.deep.equal([200, new Set([503])]);
      expect(Math.max(...late.map(({ took }) => took))).to.be.below(3000);
      expect((await look('GET', '/operators/1')).text).to.contain('Lantern Bay');
      await kysely.destroy();
    });

    it('a change that holds the only connection: nobody is left waiting for another one to end it by', async () => {
      const { kysely } = open(url ?? '', 1000, 1);
      const store = sqlStore(stock, kysely);
      expect(await store.count('operator')).to.be.above(0);
      const time = AbortSignal.timeout(200);
      const own = store.scoped({ signal: time });
      const told = await whileLocked(row, () =>
        own.amend('operator', [1], { name: 'Late' }).then(
          () => 'done',
          () => 'given up',
        ),
      );
      expect(told).to.equal('given up');
      expect(await store.count('operator')).to.be.above(0);
      await kysely.destroy();
    });

    it('a lock that is not to be had in time: tried later, and said so', async () => {
      const { kysely, ask } = opened({ answering: 30_000 }, 700);
      const { status, text, headers } = await whileLocked(row, () =>
        ask('PATCH', '/operators/1', { name: 'Late' }),
      );
      expect([status, headers.get('retry-after')]).to.deep.equal([503, '1']);
      expect(text).to.contain('nothing was changed');
      await kysely.destroy();
    });

    it('a list whose time is up: its statement is ended, and its connection is free', async () => {
      const { kysely, used, ask, look } = opened({ answering: 300 });
      expect((await look('GET', '/operators')).status).to.equal(200);
      await whileLocked(lockTable, async () => {
        const { status, took } = await ask('GET', '/operators');
        expect([status, took < 2000]).to.deep.equal([503, true]);
        await awaited(() => used() === 0);
        expect(used(), 'connections in use').to.equal(0);
      });
      await kysely.destroy();
    });

    it('a reading whose client has gone: its statement is ended, and nobody is told', async () => {
      const { kysely, used, ask, look, told } = opened({ answering: 30_000 });
      expect((await look('GET', '/vessels')).status).to.equal(200);
      expect((await look('GET', '/operators/1')).status).to.equal(200);
      await whileLocked(lockTable, async () => {
        const gone = new AbortController();
        const sent = ask('GET', '/operators/1', undefined, gone.signal);
        await awaited(async () => (await many()) > 0);
        expect(await many(), 'waiting').to.equal(1);
        gone.abort();
        await awaited(async () => (await many()) === 0);
        expect(await many(), 'still waiting').to.equal(0);
        await sent;
      });
      await awaited(() => used() === 0);
      expect([used(), told]).to.deep.equal([0, []]);
      expect((await look('GET', '/operators/1')).status).to.equal(200);
      await kysely.destroy();
    });
  });
}
