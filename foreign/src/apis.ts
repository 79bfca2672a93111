import {
  type AnyApi,
  api,
  asText,
  bigint,
  bool,
  bytes,
  collection,
  constant,
  date,
  decimal,
  entity,
  equals,
  input,
  integer,
  json,
  list,
  type MemoryStore,
  memoryStore,
  model,
  oneOf,
  oneOfThese,
  optional,
  page,
  real,
  samples,
  shape,
  text,
  time,
  timestamp,
  toMany,
  toOne,
  unlessNull,
  uuid,
  wrap,
} from 'gribo';
import { harbour } from '../../examples/harbour/src/api.js';
import { handlers } from '../../examples/harbour/src/handlers.js';
import { db as harbourDb } from '../../examples/harbour/src/model.js';

/** An API with rows, to be described and served. */
export interface Described {
  /** What its endpoints do that do not follow from their declaration. */
  readonly handlers?: object;
  readonly api: AnyApi;
  readonly store: MemoryStore;
  /** A list of it, and what a client sends to it. */
  readonly list: string;
  /** Whose requests the clients send; absent where the API knows no audiences. */
  readonly audience?: string;
}

const names = model(
  {
    thing: entity('thing', {
      id: integer().key().generated(),
      first: text({ min: 1, max: 20 }),
      second: oneOf('a "quoted"', 'ключ', 'x y'),
      third: text().nullable(),
    }),
  },
  {},
);
const Odd = shape(names.thing, (t) => ({
  id: t.id,
  'with space': t.first,
  ключ: t.second,
  'da-sh': { $ref: t.third, default: t.first },
  class: t.second,
}));
const NewOdd = input(names.thing, (t) => ({
  'with space': t.first,
  ключ: t.second,
  'da-sh': { $ref: optional(t.third) },
}));

/** Members under names that programs do not have. */
const oddNames: Described = {
  api: api({
    title: 'Odd names',
    version: '1.0.0',
    endpoints: {
      'odd things': collection('/odd-things', names.thing, {
        list: list(Odd),
        read: Odd,
        create: { takes: NewOdd, returns: Odd },
        filters: (t) => ({ kind: oneOfThese(t.second) }),
      }),
    },
  }),
  store: memoryStore(names, samples(names, { rows: 5 })),
  list: '/odd-things',
};

const kinds = model(
  {
    part: entity('part', {
      maker: text({ max: 5 }).key(),
      number: integer().key(),
      label: text().nullable(),
    }),
    value: entity('value', {
      id: uuid().key().generated(),
      big: bigint({ min: 0n }),
      exact: decimal(12, 4),
      real: real().nullable(),
      flag: bool(),
      day: date().nullable(),
      clock: time(),
      at: timestamp(),
      raw: bytes({ max: 16 }).nullable(),
      any: json<unknown>().nullable(),
      maker: text({ max: 5 }).nullable(),
      number: integer().nullable(),
    }),
  },
  {
    value: { part: toOne('part', ['maker', 'number']) },
    part: { values: toMany('value', ['maker', 'number']) },
  },
);
const Part = shape(kinds.part, ({ maker, number, label }) => ({ maker, number, label }));
const Value = shape(kinds.value, ({ id, big, exact, real, flag, day, clock, at, raw, any, part }) => ({
  id,
  big,
  exact,
  real: unlessNull(real),
  flag,
  day,
  clock,
  at,
  raw,
  any,
  asText: asText(flag),
  part: Part(part),
}));
const NewValue = input(kinds.value, (v) => ({
  big: v.big,
  exact: v.exact,
  real: optional(v.real),
  flag: v.flag,
  day: optional(v.day),
  clock: v.clock,
  at: v.at,
  raw: optional(v.raw),
  any: optional(v.any),
}));

/** Every kind of value, and keys of two columns. */
const allKinds: Described = {
  api: api({
    title: 'All kinds',
    version: '1.0.0',
    endpoints: {
      values: collection('/values', kinds.value, {
        list: page(Value, { by: 'cursor', size: 3 }),
        read: Value,
        create: { takes: NewValue, returns: Value },
      }),
      parts: collection('/parts', kinds.part, { list: list(Part), read: Part, remove: true }),
    },
  }),
  store: memoryStore(kinds, samples(kinds, { rows: 6 })),
  list: '/values',
};

const lists = model(
  { line: entity('line', { id: integer().key().generated(), said: text({ max: 10 }), level: integer() }) },
  {},
);
const Line = shape(lists.line, ({ id, said, level }) => ({ id, said, level }));
const NewLine = input(lists.line, ({ said, level }) => ({ said, level: optional(level) }));

/** Lists that are taken, envelopes, and what will go. */
const someLists: Described = {
  api: api({
    title: 'Lists',
    version: '1.0.0',
    audiences: ['writer'],
    endpoints: {
      lines: collection('/lines', lists.line, {
        list: wrap(list(Line), (content) => ({ data: content, meta: { kind: constant('lines') } })),
        create: { takes: list(NewLine) },
        filters: (l) => ({ level: equals(l.level) }),
      }),
      old: collection('/old-lines', lists.line, {
        list: list(Line),
        deprecated: { since: '2026-01-01', sunset: '2027-01-01', instead: '/lines' },
      }),
    },
  }),
  store: memoryStore(lists, samples(lists, { rows: 4 })),
  list: '/lines',
};

/** What is described to others, by its name: the harbour, and three odd ones. */
export const APIS: Readonly<Record<string, Described>> = {
  harbour: {
    api: harbour,
    store: memoryStore(harbourDb, samples(harbourDb, { seed: 4 })),
    list: '/vessels',
    audience: 'harbourMaster',
    handlers,
  },
  oddNames,
  allKinds,
  someLists,
};
