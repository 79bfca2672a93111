import {
  bool,
  entity,
  given,
  integer,
  isNull,
  list,
  model,
  not,
  real,
  shape,
  text,
  timestamp,
  toOne,
  writer,
} from 'gribo';
import { compare } from './compare.js';
import type { Figure } from './figure.js';

const MANY = 1000;

const words = 'the tide was early and the crane stood still while they waited for the pilot ';

const textOf = (id: number, n: number): string => words.repeat(1 + ((id + n) % 4)).slice(id % 9);

const db = model(
  {
    note: entity('note', {
      id: integer().key(),
      title: text(),
      said: text(),
      more: text(),
      place: text(),
      by: text(),
    }),
    measure: entity('measure', {
      ...{ id: integer().key(), a: real(), b: real(), c: real(), d: real(), e: integer(), f: integer() },
      ...{ g: integer(), h: real(), i: real(), j: integer() },
    }),
    watch: entity('watch', {
      ...{ id: integer().key(), began: timestamp(), ended: timestamp(), called: timestamp() },
      ...{ left: timestamp().nullable(), back: timestamp().nullable() },
    }),
    node: entity('node', { id: integer().key(), name: text(), nextId: integer().nullable() }),
    flag: entity('flag', {
      ...{ id: integer().key(), a: text().nullable(), b: text().nullable(), c: integer().nullable() },
      ...{ d: integer().nullable(), e: bool(), f: text().nullable() },
    }),
  },
  { node: { next: toOne('node', 'nextId') } },
);

/** What a mix is made of: its rows, how Gribo writes them, and how they are mapped by hand. */
interface Mix {
  readonly what: string;
  readonly rows: readonly object[];
  readonly map: (row: never) => object;
  readonly bytes: () => Uint8Array;
}

const times = <T>(make: (id: number) => T): T[] => Array.from({ length: MANY }, (_, id) => make(id));

const notes = times((id) => ({
  id,
  title: `Note ${id}`,
  said: textOf(id, 1),
  more: textOf(id, 2),
  place: id % 5 === 0 ? 'Südkai "Ost"' : 'East quay',
  by: textOf(id, 0),
}));
const Note = list(
  shape(db.note, (n) => ({ id: n.id, title: n.title, said: n.said, more: n.more, place: n.place, by: n.by })),
);

const measures = times((id) => ({
  ...{ id, a: id / 7, b: id / 1000, c: -id / 10, d: 54 + id / 1e5, e: id * 13, f: -id },
  ...{ g: id % 3, h: Math.sqrt(id), i: 0.5, j: id * 100_003 },
}));
const Measure = list(
  shape(db.measure, (m) => ({
    ...{ id: m.id, a: m.a, b: m.b, c: m.c, d: m.d, e: m.e, f: m.f, g: m.g, h: m.h, i: m.i, j: m.j },
  })),
);

const at = (id: number, n: number): Date => new Date(1.7e12 + id * 977_003 + n * 7_001);
const watches = times((id) => ({
  ...{ id, began: at(id, 1), ended: at(id, 2), called: at(id, 3) },
  ...{ left: id % 3 === 0 ? null : at(id, 4), back: id % 4 === 0 ? null : at(id, 5) },
}));
const Watch = list(
  shape(db.watch, (w) => ({
    ...{ id: w.id, began: w.began, ended: w.ended, called: w.called, left: w.left, back: w.back },
  })),
);

interface Node {
  readonly id: number;
  readonly name: string;
  readonly nextId: number | null;
  readonly next: Node | null;
}

const nodeOf = (id: number, depth: number): Node => ({
  ...{ id, name: `Node ${id}`, nextId: depth === 0 ? null : id + 1 },
  next: depth === 0 ? null : nodeOf(id + 1, depth - 1),
});
const DEEP = 6;
const nodes = times((id) => nodeOf(id, DEEP));
const Leaf = shape(db.node, ({ id, name }) => ({ id, name }));
// Each level is a shape of its own, with the one below in it.
const Two = shape(db.node, (n) => ({ id: n.id, name: n.name, next: Leaf(n.next) }));
const Three = shape(db.node, (n) => ({ id: n.id, name: n.name, next: Two(n.next) }));
const Four = shape(db.node, (n) => ({ id: n.id, name: n.name, next: Three(n.next) }));
const Five = shape(db.node, (n) => ({ id: n.id, name: n.name, next: Four(n.next) }));
const Deep = list(shape(db.node, (n) => ({ id: n.id, name: n.name, next: Five(n.next) })));

const nodeByHand = ({ id, name, next }: Node, depth: number): object =>
  depth === 0 ? { id, name } : { id, name, next: next === null ? null : nodeByHand(next, depth - 1) };

const flags = times((id) => ({
  ...{ id, a: id % 2 === 0 ? null : 'a', b: id % 3 === 0 ? null : 'b', c: id % 5 === 0 ? null : id },
  ...{ d: id % 7 === 0 ? null : id, e: id % 2 === 0, f: id % 11 === 0 ? null : 'f' },
}));
const Flag = list(
  shape(db.flag, (v) => ({
    id: v.id,
    a: given(not(isNull(v.a)), v.a),
    b: given(not(isNull(v.a)), v.b),
    c: given(not(isNull(v.c)), v.c),
    d: given(not(isNull(v.d)), v.d),
    e: v.e,
    f: given(not(isNull(v.f)), v.f),
  })),
);

type FlagRow = (typeof flags)[number];

const MIXES: readonly Mix[] = [
  {
    what: 'texts',
    rows: notes,
    map: ({ id, title, said, more, place, by }: (typeof notes)[number]) => ({
      id,
      title,
      said,
      more,
      place,
      by,
    }),
    bytes: () => writer(Note).bytes(notes),
  },
  {
    what: 'numbers',
    rows: measures,
    map: ({ id, a, b, c, d, e, f, g, h, i, j }: (typeof measures)[number]) => ({
      id,
      a,
      b,
      c,
      d,
      e,
      f,
      g,
      h,
      i,
      j,
    }),
    bytes: () => writer(Measure).bytes(measures),
  },
  {
    what: 'moments',
    rows: watches,
    map: ({ id, began, ended, called, left, back }: (typeof watches)[number]) => ({
      ...{ id, began: began.toISOString(), ended: ended.toISOString(), called: called.toISOString() },
      ...{ left: left?.toISOString() ?? null, back: back?.toISOString() ?? null },
    }),
    bytes: () => writer(Watch).bytes(watches),
  },
  {
    what: 'six rows nested in each other',
    rows: nodes,
    map: (node: Node) => nodeByHand(node, 5),
    bytes: () => writer(Deep).bytes(nodes as never),
  },
  {
    what: 'five conditions on the row',
    rows: flags,
    map: ({ id, a, b, c, d, e, f }: FlagRow) => ({
      id,
      ...(a === null ? {} : { a, b }),
      ...(c === null ? {} : { c }),
      ...(d === null ? {} : { d }),
      e,
      ...(f === null ? {} : { f }),
    }),
    bytes: () => writer(Flag).bytes(flags),
  },
];

/** Rows of one sort each, against mapping by hand, and against objects that have their shape already. */
export const benchMixes = (): readonly Figure[] =>
  MIXES.flatMap(({ what, rows, map, bytes }) => {
    const mapped = (): object[] => rows.map((row) => map(row as never));
    const ready: unknown = JSON.parse(JSON.stringify(mapped()));
    const common = { byGribo: bytes, calls: 4 };
    return [
      compare({
        ...common,
        what: `1,000 rows: ${what}`,
        byHand: () => Buffer.from(JSON.stringify(mapped())),
      }),
      compare({
        ...common,
        what: `1,000 rows: ${what}`,
        than: 'JSON.stringify of ready objects',
        byHand: () => Buffer.from(JSON.stringify(ready)),
      }),
    ];
  });
