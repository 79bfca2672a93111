import { serve } from '@gribo/http';
import { expect } from 'chai';
import fc from 'fast-check';
import {
  api,
  asked,
  atLeast,
  collection,
  contains,
  endpoint,
  equals,
  given,
  input,
  isNull,
  list,
  memoryStore,
  oneOfThese,
  page,
  shape,
} from 'gribo';
import { runs } from '../../../gribo/src/testing/cases.js';
import { stock, stockRows } from '../../../gribo/src/testing/stock.js';
import type { AnyKysely } from '../kysely/any-kysely.js';
import { databases, fillTables, makeTables } from '../testing/databases.js';
import { type SqlStore, sqlStore } from './sql-store.js';

const CallLine = shape(stock.portCall, ({ id, status }) => ({ id, status }), { name: 'CallLine' });
const Vessel = shape(
  stock.vessel,
  (v) => ({
    id: v.id,
    name: v.name,
    callSign: v.callSign,
    operator: v.operator.name,
    calls: given(asked('calls'), CallLine(v.portCalls)),
    more: given(asked('more'), {
      kind: v.kind,
      builtYear: v.builtYear,
      weight: v.weight,
      tonnage: v.tonnage,
      registered: v.registered,
      surveyedAt: v.surveyedAt,
    }),
  }),
  { name: 'Vessel' },
);
const NewOperator = input(stock.operator, ({ name }) => ({ name }), { name: 'NewOperator' });

const fleet = api({
  title: 'Fleet',
  version: '1',
  endpoints: {
    vessels: collection('/vessels', stock.vessel, {
      list: page(Vessel, { size: 3, max: 5 }),
      read: Vessel,
      filters: (v) => ({
        name: equals(v.name),
        names: oneOfThese(v.name),
        q: contains(v.name),
        sign: equals(v.callSign),
        kind: equals(v.kind),
        from: atLeast(v.builtYear),
        heavy: atLeast(v.weight),
        tons: equals(v.tonnage),
        day: equals(v.registered),
        seen: atLeast(v.surveyedAt),
        unsigned: isNull(v.callSign),
      }),
      sort: ['name', 'builtYear'],
    }),
    feed: endpoint('GET /feed', {
      from: stock.vessel,
      returns: page(Vessel, { by: 'cursor', size: 2, sort: ['builtYear desc'] }),
    }),
    calls: collection('/calls', stock.portCall, { list: list(CallLine), read: CallLine }),
    operators: collection('/operators', stock.operator, {
      create: { takes: NewOperator },
      read: shape(stock.operator, ({ name }) => ({ name })),
    }),
  },
});

const HOSTILE = [
  "'",
  "''",
  '"',
  '`',
  '\\',
  "\\'",
  '%',
  '_',
  '!',
  '%%',
  '--',
  '/*',
  ';',
  '$1',
  '?',
  ':name',
  '{{x}}',
  '\u0000',
  "' or '1'='1",
  "'; drop table vessel; --",
  '" or ""="',
  '1; delete from vessel',
  "x' union select 1 --",
  'Tern',
  'Anselma',
  'tanker',
  '1983',
  '100.5',
  'null',
  'true',
  '1969-07-20',
  '1960-01-01T00:00:00Z',
  '青波',
  '🚢',
  '\n',
];

const text = fc.oneof(
  fc.constantFrom(...HOSTILE),
  fc.array(fc.constantFrom(...HOSTILE), { maxLength: 3 }).map((parts) => parts.join('')),
  fc.string({ unit: 'binary', maxLength: 12 }),
);
const TEXTS = ['name', 'names', 'q', 'sign'];
const OTHERS = [
  'kind',
  'from',
  'heavy',
  'tons',
  'day',
  'seen',
  'unsigned',
  'sort',
  'fields',
  'with',
  'page',
  'size',
  'after',
];
// What takes any text is asked most: the others refuse nearly all of it.
const parameter = fc.oneof({ weight: 3, arbitrary: fc.constantFrom(...TEXTS) }, fc.constantFrom(...OTHERS));
const query = fc.uniqueArray(fc.tuple(parameter, text), { maxLength: 2, selector: ([name]) => name });
const path = fc.oneof(
  fc.constantFrom('/vessels', '/vessels', '/feed', '/calls'),
  text.map((part) => `/vessels/${encodeURIComponent(part)}`),
  text.map((part) => `/calls/${encodeURIComponent(part)}`),
);

/** Half of a character cannot be put into a URL. */
const encoded = (part: string): string => encodeURIComponent(part.replaceAll(/\p{Surrogate}/gu, '\ufffd'));

for (const { name, variable, open } of databases) {
  describe(`hostile requests on ${name}${variable === null ? '' : ` (${variable})`}`, () => {
    let kysely: AnyKysely | null = null;
    let store: SqlStore;
    before(async function () {
      kysely = await open();
      if (kysely === null) return this.skip();
      await makeTables(kysely);
      await fillTables(kysely, stock, stockRows);
      store = sqlStore(stock, kysely, { closes: false });
    });
    after(() => kysely?.destroy());

    it('are answered as on rows in memory, and leave the tables as they were', async () => {
      const told: object[] = [];
      const log = { error: (about: object) => void told.push(about) };
      const onSql = serve(fleet, { store, log });
      const inMemory = serve(fleet, { store: memoryStore(stock, stockRows), log });
      const answer = async (handle: typeof onSql, url: string): Promise<string> => {
        const response = await handle(new Request(url));
        return `${response.status} ${await response.text()}`;
      };
      for (const value of HOSTILE) {
        for (const key of TEXTS) {
          const url = `http://fleet.test/vessels?${key}=${encoded(value)}`;
          expect(await answer(onSql, url), url).to.equal(await answer(inMemory, url));
        }
      }
      await fc.assert(
        fc.asyncProperty(path, query, async (at, pairs) => {
          const search = pairs.map(([key, value]) => `${key}=${encoded(value)}`).join('&');
          const url = `http://fleet.test${at}${search === '' ? '' : `?${search}`}`;
          expect(await answer(onSql, url), url).to.equal(await answer(inMemory, url));
        }),
        runs(400),
      );
      expect(told).to.deep.equal([]);
      expect(await store.count('vessel')).to.equal(5);
      expect(await store.count('portCall')).to.equal(4);
    });

    it('keep hostile text as it is', async () => {
      const handle = serve(fleet, { store });
      for (const [i, value] of HOSTILE.entries()) {
        if (value.includes('\u0000')) continue;
        const body = JSON.stringify({ name: `${value} ${i}` });
        const made = await handle(
          new Request('http://fleet.test/operators', {
            method: 'POST',
            headers: { 'content-type': 'application/json' },
            body,
          }),
        );
        expect(made.status, value).to.equal(201);
        const read = await handle(new Request(`http://fleet.test${made.headers.get('location')}`));
        expect(await read.json()).to.deep.equal({ name: `${value} ${i}` });
      }
    });

    it('with a null character are refused where the database cannot hold one', async () => {
      const handle = serve(fleet, { store, log: { error: () => undefined } });
      const body = JSON.stringify({ name: 'null \u0000 inside' });
      const made = await handle(
        new Request('http://fleet.test/operators', {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body,
        }),
      );
      expect(made.status).to.be.oneOf([201, 422]);
    });
  });
}
