import {
  type AnyBody,
  api,
  at,
  audience,
  collection,
  entity,
  given,
  integer,
  list,
  model,
  shape,
  text,
  timestamp,
  type Value,
  writer,
} from 'gribo';
import { compare } from './compare.js';
import { alone, type Figure } from './figure.js';

const ENDPOINTS = 200;
const MEMBERS = 20;
const CHOICES = 5000;

const columns = () =>
  Object.fromEntries(
    Array.from({ length: MEMBERS }, (_, n) => [`m${n}`, [integer(), text(), timestamp()][n % 3] ?? text()]),
  );

/** An API of 100 entities with two endpoints each: declared, resolved for one audience, and each written once. */
const benchStarting = (): Figure => {
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
    if (returns === null) continue;
    const write = writer({ plan: returns } as unknown as AnyBody, { endpoint: name, audience: 'agent' });
    // Nothing is known of the bodies' types here; each of them is over the same columns.
    const row = rows[0] as never;
    write.bytes((returns.kind === 'list' ? [row] : row) as never);
  }
  const end = performance.now();
  return alone(`${ENDPOINTS} endpoints of ${MEMBERS} members, started`, end - declared, 'ms', {
    bar: 100,
    beside: `declaring ${(start - declared).toFixed(0)} ms, first responses ${(end - start).toFixed(0)} ms`,
  });
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
const benchSettled = (): Figure => {
  const situation = { endpoint: 'things.list', audience: 'agent' };
  const plain = writer(list(Plain), situation);
  const settled = writer(list(Settled), situation);
  return compare({
    what: 'bytes, ten conditions that the situation settles',
    than: 'no conditions',
    byHand: () => plain.bytes(rows),
    byGribo: () => settled.bytes(rows),
    calls: 4,
    atLeast: 0.95,
  });
};

const one = rows[0] as (typeof rows)[number];
const names = Object.keys(columns());

/** Members that callers choose, another choice each time, against one that is kept. */
const benchChosen = (): Figure => {
  let seed = 1;
  const chosen = (): string[] => {
    seed = (seed * 48_271) % 2_147_483_647;
    return names.filter((_name, i) => i === 0 || ((seed >> i) & 1) === 1);
  };
  const timeOf = (fields: () => string[]): number => {
    const start = performance.now();
    for (let i = 0; i < CHOICES; i++) writer(Plain, { fields: fields() }).bytes(one as never);
    return (performance.now() - start) / CHOICES;
  };
  const half = names.slice(0, TEN);
  for (const fields of [() => half, chosen]) timeOf(fields);
  const [theirs, ours] = [timeOf(() => half), timeOf(chosen)];
  return {
    what: 'bytes of one row, members chosen anew each time',
    than: 'a choice that is kept',
    theirs,
    ours,
    unit: 'ms',
    ratio: theirs / ours,
    bar: null,
    beside: '',
  };
};

/** Situations: many endpoints, conditions that are settled, and what callers choose. */
export const benchSituations = (): readonly Figure[] => [benchStarting(), benchSettled(), benchChosen()];
