import { serve } from '@gribo/http';
import { expect } from 'chai';
import { type AnyApi, memoryStore, type Store } from 'gribo';
import { cases, isCounted, seed } from '../../../gribo/src/testing/cases.js';
import { callId, stock } from '../../../gribo/src/testing/stock.js';
import {
  type Choose,
  choosing,
  officeHandlers,
  randomOffice,
} from '../../../http/src/testing/random-office.js';
import {
  type Asker,
  Changing,
  NOW,
  type Row,
  type Rows,
  randomRows,
} from '../../../http/src/testing/silence.js';
import { type ChangeRequest, mayTell, silentChange } from '../../../http/src/testing/silent-changes.js';
import { silentRequest } from '../../../http/src/testing/silent-requests.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { sqlStore } from '../store/sql-store.js';
import { databases, fillTables, makeTables } from '../testing/databases.js';

/** How many APIs are tried; two dozen requests are asked of each, before and after a change that must not be told. */
const CASES = cases(30);
const FIRST = seed ?? Math.floor(Math.random() * 1e9);
const REQUESTS = 12;
const CHANGES = 4;
const WRITES = 6;

type Open = (rows: Rows) => Promise<Store>;

/** A body, in lines where its type is that of lines. */
const sentAs = ({ body, type }: ChangeRequest) => ({
  headers: { 'content-type': type ?? 'application/json' },
  body:
    type === undefined
      ? JSON.stringify(body)
      : (body as object[]).map((row) => JSON.stringify(row)).join('\n'),
});

const asking = (api: AnyApi, store: Store, caller: Asker, failed: string[]) => {
  const log = {
    error: (about: object, message: string) =>
      void failed.push(`${message} ${String((about as { err?: Error }).err)}`),
  };
  const handle = serve(api, {
    store,
    caller: () => caller as never,
    handlers: officeHandlers,
    now: () => NOW,
    log,
    formatParameter: true,
    serverTiming: true,
  });
  return async (
    path: string,
    tag: string | null,
    change: ChangeRequest | null = null,
  ): Promise<readonly [string, string | null, string | null]> => {
    const sent =
      change === null
        ? { headers: tag === null ? {} : { 'if-none-match': tag } }
        : {
            method: change.method,
            ...(change.body === null ? {} : sentAs(change)),
          };
    const response = await handle(new Request(`http://office.test${path}`, sent));
    const text = await response.text();
    // How many statements there were, and not how long they took.
    const told = [...response.headers].map(([name, value]) => [name, value.replaceAll(/dur=[\d.]+/g, '')]);
    const all = JSON.stringify([response.status, told, text]);
    const next = /"next":"([^"]+)"/.exec(text)?.[1] ?? null;
    return [all, response.headers.get('etag'), next];
  };
};

interface Changed {
  readonly rows: Rows;
  readonly what: string;
}

/** Rows that differ in several things that the caller may not see; null where it sees everything. */
const changedFor = (api: AnyApi, caller: Asker, rows: Rows, choose: Choose): Changed | null => {
  let made: Changed | null = null;
  for (let i = 0; i < CHANGES; i++) {
    const from: Rows = made?.rows ?? rows;
    const memory = memoryStore(stock, from as never);
    const stored = new Map(
      Object.keys(from).map((entity) => [entity, [...memory.stream({ entity } as never)] as Row[]]),
    );
    const next: Changed | null = new Changing(api, caller, from, stored, choose).change();
    if (next !== null)
      made = { rows: next.rows, what: made === null ? next.what : `${made.what}; ${next.what}` };
  }
  return made;
};

/** How many answers were compared. */
let compared = 0;

/** What was asked, where it was answered otherwise; null where nothing is told. */
const told = async (seed: number, open: Open): Promise<string | 'nothing to ask' | null> => {
  const api = randomOffice(seed);
  if (api === null) return 'nothing to ask';
  const choose = choosing(seed ^ 0x5bd1e995);
  const caller: Asker = {
    audience: ([null, 'agent', 'office'] as const)[choose(3)] ?? null,
    operatorId: [null, 1, 2, 3][choose(4)] ?? null,
    year: 1980 + choose(4),
  };
  const rows = randomRows(choose);
  const changed = changedFor(api, caller, rows, choose);
  if (changed === null) return 'nothing to ask';
  const paths = Array.from({ length: REQUESTS }, () => silentRequest(choose, callId));
  const failed: string[] = [];
  const before = asking(api, await open(rows), caller, failed);
  const writes = Array.from({ length: WRITES }, (_, turn) => silentChange(choose, callId, turn)).filter(
    (change) => !mayTell(change, changed.what),
  );
  const first: (readonly [string, string, string | null, ChangeRequest | null])[] = [];
  for (const path of paths) {
    const [answer, tag, next] = await before(path, null);
    first.push([path, answer, null, null]);
    if (tag !== null) first.push([path, (await before(path, tag))[0], tag, null]);
    const on = next === null ? null : `${path}${path.includes('?') ? '&' : '?'}after=${next}`;
    if (on !== null) first.push([on, (await before(on, null))[0], null, null]);
  }
  // Each change finds the rows as they were: a caller may see more once it has changed something.
  for (const change of writes) {
    const ask = asking(api, await open(rows), caller, failed);
    first.push([change.path, (await ask(change.path, null, change))[0], null, change]);
  }
  if (failed.length > 0) return `${seed}: ${paths.join(' ')} ${failed.join('\n')}`;
  const after = asking(api, await open(changed.rows), caller, failed);
  for (const [path, answer, tag, change] of first) {
    const ask = change === null ? after : asking(api, await open(changed.rows), caller, failed);
    const [other] = await ask(path, tag, change);
    compared++;
    if (other !== answer)
      return `${seed}: ${changed.what}\n${JSON.stringify([caller, change])}\n${path}\n${answer}\n${other}`;
  }
  return failed.length === 0 ? null : `${seed}: ${failed.join('\n')}`;
};

const holds = async (open: Open): Promise<void> => {
  let asked = 0;
  compared = 0;
  for (let i = 0; asked < CASES; i++) {
    const found = await told(FIRST + i, open);
    if (found === 'nothing to ask') continue;
    asked++;
    expect(found ?? '', found ?? '').to.equal('');
  }
  if (isCounted) console.log(`      ${asked} APIs from seed ${FIRST}, ${compared} answers compared`);
};

describe('the law of silence', function () {
  this.timeout(36_000_000);

  it('what a caller may not see changes nothing of what it is answered: in memory', () =>
    holds(async (rows) => memoryStore(stock, rows as never)));

  for (const { name, variable, open } of databases) {
    describe(`on ${name}${variable === null ? '' : ` (${variable})`}`, () => {
      let kysely: AnyKysely | null = null;
      before(async function () {
        kysely = await open();
        if (kysely === null) return this.skip();
        await makeTables(kysely);
      });
      after(() => kysely?.destroy());

      it('changes nothing either', () =>
        holds(async (rows) => {
          if (kysely === null) throw new Error('the database was not opened');
          await fillTables(kysely, stock, rows);
          return sqlStore(stock, kysely);
        }));
    });
  }
});
