import {
  api,
  at,
  audience,
  collection,
  entity,
  given,
  integer,
  list,
  model,
  resolve,
  shape,
  text,
  timestamp,
  type Value,
  writer,
} from 'gribo';
import { compare } from './compare.js';

const ENDPOINTS = 200;
const MEMBERS = 20;

const columns = () =>
  Object.fromEntries(
    Array.from({ length: MEMBERS }, (_, n) => [`m${n}`, [integer(), text(), timestamp()][n % 3] ?? text()]),
  );

/** An API of 100 entities with two endpoints each: declared, then resolved for one audience. */
const benchResolving = (): void => {
  const names = Array.from({ length: ENDPOINTS / 2 }, (_, i) => `e${i}`);
  const entities = Object.fromEntries(
    names.map((name) => [name, entity(name, { id: integer().key(), ...columns() })]),
  );
  const db = model(entities, {});
  const declared = performance.now();
  const collections = names.map((name) => {
    const bound = db[name];
    if (bound === undefined) throw new Error(name);
    const One = shape(bound, (row) => {
      const members = Object.keys(columns()).map((key, n): [string, Value<unknown, unknown>] => {
        const value = row[key as 'id'] as unknown as Value<unknown, unknown>;
        return [
          key,
          (n % 4 === 0
            ? given(audience('agent'), value)
            : n % 4 === 1
              ? at({ read: value })
              : value) as never,
        ];
      });
      return Object.fromEntries(members);
    });
    return [name, collection(`/${name}`, bound, { list: list(One), read: One })] as const;
  });
  const large = api({
    title: 'Large',
    version: '1',
    audiences: ['agent'],
    endpoints: Object.fromEntries(collections),
  });
  const start = performance.now();
  for (const { name, returns } of large.plan.endpoints) {
    if (returns !== null) resolve({ plan: returns }, { endpoint: name, audience: 'agent' });
  }
  const resolved = performance.now() - start;
  const all = `declaring ${(start - declared).toFixed(0)} ms, resolving ${resolved.toFixed(0)} ms`;
  console.log(`${ENDPOINTS} endpoints of ${MEMBERS} members: ${all} (bar: 200 ms)`);
};

const { thing } = model({ thing: entity('thing', { id: integer().key(), ...columns() }) }, {});

const TEN = MEMBERS / 2;
type Members = Readonly<Record<string, Value<unknown, unknown>>>;

/** The same members, ten of them under conditions that the situation settles, or none. */
const halfConditional = (wrap: (value: Value<unknown, unknown>, n: number) => Value<unknown, unknown>) =>
  shape(thing, (row): Members => {
    const values = Object.keys(columns()).map((key, n) => {
      const value = row[key as 'id'] as unknown as Value<unknown, unknown>;
      return [key, n < TEN ? wrap(value, n) : value];
    });
    return Object.fromEntries(values);
  });

const Plain = halfConditional((value) => value);
const Settled = halfConditional(
  (value, n) => (n % 2 === 0 ? given(audience('agent'), value) : at({ list: value })) as never,
);

const rows = Array.from({ length: 1000 }, (_, id) => ({
  id,
  ...Object.fromEntries(
    Object.keys(columns()).map((key, n) => [
      key,
      [id * n, `text ${id} of ${n}`, new Date(1.7e12 + id * n * 1000)][n % 3],
    ]),
  ),
}));

/** What conditions cost that the situation settles: nothing for each row. */
const benchSettled = (): boolean => {
  const situation = { endpoint: 'things.list', audience: 'agent' };
  const plain = writer(list(Plain), situation);
  const settled = writer(list(Settled), situation);
  return compare({
    name: 'bytes, 10 settled conditions (by hand: none)',
    byHand: () => plain.bytes(rows),
    byGribo: () => settled.bytes(rows),
    calls: 4,
    atLeast: 0.95,
  });
};

/** Resolving a large API, and conditions that the situation settles. */
export const benchSituations = (): boolean => {
  benchResolving();
  return benchSettled();
};
