import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { at, audience, entity, given, integer, list, model, shape, type Value, writer } from 'gribo';
import { compare } from './compare.js';
import { alone, type Figure } from './figure.js';
import { columns, ENDPOINTS, largeApi, largeModel, MEMBERS, rowOf, writeEach } from './large-api.js';

const CHOICES = 5000;

/** An API of 200 endpoints: declared, resolved for one audience, and each written once. */
const benchStarting = (): Figure => {
  const db = largeModel();
  const declared = performance.now();
  const large = largeApi(db);
  const start = performance.now();
  writeEach(large);
  const end = performance.now();
  return alone(`${ENDPOINTS} endpoints of ${MEMBERS} members, started`, end - declared, 'ms', {
    bar: 100,
    beside: `declaring ${(start - declared).toFixed(0)} ms, first responses ${(end - start).toFixed(0)} ms`,
  });
};

/** What an endpoint holds of the heap once it has answered, measured in a process that can collect garbage. */
const benchMemory = (): Figure => {
  const script = fileURLToPath(new URL('large-api-memory.js', import.meta.url));
  const printed = execFileSync(process.execPath, ['--expose-gc', script], { encoding: 'utf8' });
  const { declared, answered } = JSON.parse(printed) as { declared: number; answered: number };
  return alone(
    `memory of an endpoint of ${MEMBERS} members`,
    (declared + answered) / ENDPOINTS / 1000,
    'kB',
    {
      beside: `declared ${(declared / ENDPOINTS / 1000).toFixed(1)} kB, its writer ${(answered / ENDPOINTS / 1000).toFixed(1)} kB`,
    },
  );
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

const rows = Array.from({ length: 1000 }, (_, id) => rowOf(id));

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
export const benchSituations = (): readonly Figure[] => [
  benchStarting(),
  benchMemory(),
  benchSettled(),
  benchChosen(),
];
