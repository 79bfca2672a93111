import fc from 'fast-check';
import * as declared from '../declare/entity/columns.js';
import {
  all,
  any,
  array,
  at,
  atLeast,
  atMost,
  average,
  bigint,
  bytes,
  callerOf,
  count,
  date,
  decimal,
  derive,
  duration,
  entity,
  equals,
  first,
  given,
  holds,
  integer,
  isNull,
  json,
  maximum,
  model,
  not,
  now,
  oneOf,
  oneOfThese,
  orElse,
  real,
  type ShapeOf,
  shape,
  some,
  sum,
  text,
  time,
  timestamp,
  toMany,
  toOne,
  unlessNull,
} from '../index.js';
import type { ColumnKind } from '../plan/column-type.js';
import { SAMPLED_KINDS, sampleValue } from '../sample/kinds.js';
import { randomAt } from '../sample/random.js';
import { conversionsOf } from './conversions.js';

// A random model is three entities in a row, each linked to the next one way or another. Its
// columns are of every type, under names that are as awkward as names get.
// biome-ignore lint/suspicious/noExplicitAny: random declarations have no static type
type Any = any;

const awkward = [
  'id2',
  'a b',
  'ключ',
  '"',
  '\\',
  '__proto__',
  'constructor',
  '0',
  '10',
  '\u0001',
  '🐦',
  'toString',
];

interface Kind {
  readonly make: () => Any;
  readonly value: fc.Arbitrary<unknown>;
}

const anyText = fc.oneof(
  fc.string({ unit: 'binary', maxLength: 150 }),
  fc.string({ unit: fc.constantFrom('\ud800', 'a', '"', '\n') }),
  fc.string({ unit: fc.constantFrom(',', '"', '\r', '\n', '=', '-', '\uff0b', "'", 'b') }),
);

/** Values that are harder than samples are. */
const HARDER: Readonly<Partial<Record<ColumnKind, Kind>>> = {
  text: {
    make: () => text(),
    value: anyText,
  },
  integer: {
    make: () => integer(),
    value: fc.oneof(fc.integer(), fc.maxSafeInteger(), fc.constant(-0)),
  },
  real: {
    make: () => real(),
    value: fc.oneof(
      fc.double({ noNaN: true, noDefaultInfinity: true }),
      fc.integer().map((n) => n / 1000),
    ),
  },
  bigint: {
    make: () => bigint(),
    value: fc.oneof(fc.bigInt(), fc.maxSafeInteger(), fc.bigInt().map(String)),
  },
  decimal: {
    make: () => decimal(30, 4),
    value: fc.tuple(fc.bigInt(), fc.nat(9999)).map(([a, b]) => `${a}.${b}`),
  },
  date: { make: () => date(), value: fc.oneof(day(), fc.constant('1968-04-02')) },
  time: {
    make: () => time(),
    value: fc.constantFrom('06:30', '23:59:59', '00:00:00.123456789'),
  },
  duration: {
    make: () => duration(),
    value: fc.constantFrom('PT0S', 'P1Y2M14DT6H30M', 'P2W', 'PT90M', 'P-1DT-0.000250S', 'PT36000S'),
  },
  timestamp: { make: () => timestamp(), value: day() },
  json: { make: () => json<unknown>(), value: fc.jsonValue() },
  bytes: { make: () => bytes(), value: fc.uint8Array({ maxLength: 20 }) },
  oneOf: {
    make: () => oneOf('bulk', 'a"b', 'ü'),
    value: fc.constantFrom('bulk', 'a"b', 'ü'),
  },
  array: {
    make: () => array(bigint()),
    value: fc.array(fc.bigInt(), { maxLength: 4 }),
  },
};

/** A kind that nothing more is said of here is tried as well: declared as it is called, with samples for values. */
const sampled = (kind: string): Kind => {
  const make: unknown = Reflect.get(declared, kind);
  if (typeof make !== 'function')
    throw new Error(`columns of the kind ${kind} are not declared by a function of that name`);
  const { type } = (make() as Any).settings;
  const value = fc.nat().map((seed) => sampleValue({ name: kind, type }, 0, randomAt(seed)));
  return { make: make as Kind['make'], value };
};

/** Every kind of column. */
export const KINDS = Object.fromEntries(
  SAMPLED_KINDS.map((kind) => [kind, HARDER[kind] ?? sampled(kind)]),
) as Readonly<Record<ColumnKind, Kind>>;

/** The conversions of each kind, with everything that they are to be tried with. */
const CONVERTED: ReadonlyMap<string, readonly ((value: Any) => Any)[]> = new Map(
  Object.entries(KINDS).map(([kind, { make }]) => [kind, conversionsOf(make(), 'total')]),
);

function day(): fc.Arbitrary<Date> {
  return fc.date({
    min: new Date('0000-01-01T00:00:00Z'),
    max: new Date('9999-12-31T23:59:59.999Z'),
    noInvalidDate: true,
  });
}

/** Facts about a caller, for shapes that use them. */
export const caller = callerOf({ level: integer(), zone: text().nullable() });
export const FACTS = { level: 7, zone: null };

/** Conditions that are data, on a row that may have links. */
const conditionOn = (v: Any, isLinked: boolean, pick: number): Any => {
  const level = atLeast(v.id, caller.level);
  if (pick === 0) return level;
  if (pick === 1) return not(any(equals(v.id, 3), oneOfThese(v.next, [1, 2])));
  if (pick === 2 && isLinked) return all(isNull(v.to.id, false), not(equals(v.to.next, v.next)));
  if (pick === 3 && isLinked) return some(v.many, { where: (m: Any) => [atMost(m.id, caller.level)] } as Any);
  return any(level, isNull(v.next));
};

interface ColumnSpec {
  readonly kind: ColumnKind;
  readonly nullable: boolean;
}

const columns = fc.dictionary(
  fc.constantFrom(...awkward.filter((name) => !(name in Object.prototype))),
  fc.record({ kind: fc.constantFrom(...(Object.keys(KINDS) as ColumnKind[])), nullable: fc.boolean() }),
  { minKeys: 1, maxKeys: 6, noNullPrototype: true },
);

const specs = fc.tuple(columns, columns, columns);
export type Specs = readonly Readonly<Record<string, ColumnSpec>>[];

const NAMES = ['one', 'two', 'three'] as const;

export const modelOf = (columnsOf: Specs): Any => {
  const entities = NAMES.map((name, i) => {
    const made = Object.entries(columnsOf[i] ?? {}).map(([column, spec]) => {
      const plain = KINDS[spec.kind].make();
      return [column, spec.nullable ? plain.nullable() : plain];
    });
    return [
      name,
      entity(name, { id: integer().key(), next: integer().nullable(), ...Object.fromEntries(made) } as Any),
    ];
  });
  const links = { one: link('two'), two: link('three') };
  return model(Object.fromEntries(entities), links as Any, { columnNames: 'same' });
};

const link = (target: string): object => ({ to: toOne(target, 'next'), many: toMany(target, 'next') });

/** Rows of one entity, with rows of the next behind their links. */
const rowOf = (columnsOf: Specs, level: number): fc.Arbitrary<object> => {
  const values = Object.entries(columnsOf[level] ?? {}).map(
    ([column, { kind, nullable }]): [string, fc.Arbitrary<unknown>] => {
      const { value } = KINDS[kind];
      return [column, nullable ? fc.option(value) : value];
    },
  );
  const record = fc.record({ id: fc.nat(), next: fc.constant(1), ...Object.fromEntries(values) });
  if (level === 2) return record;
  const behind = rowOf(columnsOf, level + 1);
  const links = fc.record({ to: fc.option(behind), many: fc.array(behind, { maxLength: 3 }) });
  return fc.tuple(record, links).map(([row, linked]) => ({ ...row, ...linked }));
};

/** Text for any value; JSON objects may have a member `toString` that is no function. */
const wordsFor = (value: unknown): string =>
  typeof value === 'object' && value !== null && !(value instanceof Date) ? typeof value : String(value);

/** What a random shape does with each column and link, as numbers that choose. */
const choices = fc.array(fc.nat(99), { minLength: 24, maxLength: 24 });

/** What is selected of a list. */
const listed = (pick: number): object => {
  if (pick === 0) return { sort: ['id desc'], limit: 2 };
  if (pick === 1) return { where: (m: Any) => [not(equals(m.id, 1))], sort: ['next', 'id desc'] };
  return { where: (m: Any) => [any(atLeast(m.id, caller.level), isNull(m.next))] };
};

export const shapesOf = (db: Any, columnsOf: Specs, chosen: readonly number[]): ShapeOf<unknown> => {
  let turn = 0;
  const next = (below: number): number => (chosen[turn++ % chosen.length] ?? 0) % below;
  const member = (v: Any, level: number, column: string, spec: ColumnSpec): Any => {
    const value = v[column];
    const conversions = CONVERTED.get(spec.kind) ?? [];
    const pick = next(10);
    if (pick === 0) return { inside: value };
    if (pick === 1) return unlessNull(value);
    if (pick === 2)
      return given(
        holds([v.id], (id: Any) => id % 2 === 0),
        value,
      );
    if (pick === 3)
      return given(
        any(not(holds([v.id], (id: Any) => id > 9)), all(holds([v.id], (id: Any) => id > 99))),
        unlessNull(value),
      );
    if (pick === 4) return given(conditionOn(v, level < 2, next(5)), at({ otherwise: value }));
    if (pick === 6)
      return {
        inside: caller.zone,
        level: derive([v.id, caller.level], integer(), (a: Any, b: Any) => a + b),
        when: now,
      };
    if (pick === 8 && spec.nullable) {
      // Another column of the kind, behind a link that may lead nowhere too.
      const alike = Object.entries(columnsOf[level] ?? {}).filter(([, { kind }]) => kind === spec.kind);
      const [other] = alike[next(alike.length)] ?? [column];
      const behind = columnsOf[level + 1]?.[other]?.kind === spec.kind && next(2) === 0;
      return orElse(behind ? v.to[other] : value, v[other]);
    }
    if (pick === 5) return derive([value, v.id], json<unknown>(), (a: Any, id: Any) => [wordsFor(a), id]);
    const conversion = conversions[next(Math.max(1, conversions.length))];
    return conversion === undefined ? value : conversion(value);
  };
  const declare =
    (level: number, inner: Any) =>
    (v: Any): Any => {
      const members = Object.entries(columnsOf[level] ?? {}).map(([column, spec]) => [
        awkward[(next(awkward.length) + turn) % awkward.length],
        member(v, level, column, spec),
      ]);
      const own = Object.fromEntries(members);
      if (inner === null) return own;
      return {
        ...own,
        to: next(3) === 0 ? unlessNull(inner(v.to)) : inner(v.to),
        many: inner(next(2) === 0 ? v.many : some(v.many, listed(next(3)) as Any)),
        count: count(next(2) === 0 ? v.many : some(v.many, listed(2) as Any)),
        sum: sum(next(2) === 0 ? v.many : some(v.many, { where: () => [] } as Any), (m: Any) => m.id),
        most: maximum(v.many, (m: Any) => m.next),
        mean: average(v.many, (m: Any) => m.id),
        first: first(v.many, inner),
        deep: { ...(next(2) === 0 ? inner(v.to) : {}) },
      };
    };
  let inner: Any = null;
  for (let level = 2; level >= 0; level--) inner = shape(db[NAMES[level] ?? 'one'], declare(level, inner));
  return inner;
};

/** A random shape over a random model, with rows that fit it. */
export interface RandomCase {
  readonly columnsOf: Specs;
  readonly chosen: readonly number[];
  readonly rows: readonly object[];
}

/** Such cases. */
export const cases: fc.Arbitrary<RandomCase> = specs.chain((columnsOf) =>
  fc.record({
    columnsOf: fc.constant(columnsOf),
    chosen: choices,
    rows: fc.array(rowOf(columnsOf, 0), { maxLength: 4 }),
  }),
);
