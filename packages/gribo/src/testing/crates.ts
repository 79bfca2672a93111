import {
  amending,
  api,
  asked,
  asNumber,
  at,
  audience,
  bigint,
  bytes,
  collection,
  decimal,
  deprecated,
  entity,
  equals,
  given,
  input,
  integer,
  isNull,
  type JsonSchema,
  json,
  list,
  masked,
  model,
  not,
  oneOf,
  oneOfThese,
  optional,
  page,
  preset,
  recursive,
  shape,
  text,
  time,
  timestamp,
  toMany,
  toOne,
  unlessNull,
  unseal,
  wrap,
} from '../index.js';

export const db = model(
  {
    crate: entity('crate', {
      id: integer().key().generated(),
      name: text({ min: 1, max: 60, pattern: /^[A-Z]/ })
        .about('What is painted on it.')
        .example('Lamps'),
      loose: text({ pattern: /x/i }),
      lax: text({ pattern: /^[\w-.]+$/ }),
      kind: oneOf('box', 'bag').nullable(),
      weight: bigint({ min: 0n }).example(25n),
      price: decimal(8, 2),
      made: timestamp().example(new Date('2026-03-01T06:30:00Z')),
      clock: time(),
      photo: bytes({ max: 4 }).nullable(),
      extra: json<unknown>(),
      phone: text().nullable().sealed('personal'),
      partOfId: integer().nullable(),
    }),
  },
  { crate: { partOf: toOne('crate', 'partOfId'), parts: toMany('crate', 'partOfId') } },
);

export const Line = shape(db.crate, (c) => ({ id: c.id, name: c.name }), {
  name: 'Line',
  about: 'A crate in a list.',
});

export const Crate = shape(
  db.crate,
  (c) => ({
    ...Line(c),
    loose: c.loose,
    lax: c.lax,
    kind: at({ list: c.kind, otherwise: c.kind }),
    weight: c.weight,
    pounds: asNumber(c.weight),
    price: c.price,
    made: c.made,
    clock: c.clock,
    photo: unlessNull(c.photo),
    extra: unlessNull(c.extra),
    phone: unseal('office', c.phone),
    hint: masked(c.phone),
    office: given(audience('office'), { made: c.made }),
    more: given(asked('more'), c.clock),
    less: given(not(asked('more')), c.clock),
    old: deprecated(c.clock, { since: '2026-01-01', sunset: '2026-12-31', instead: 'made' }),
    partOf: Line(c.partOf),
    parts: Line(c.parts),
  }),
  { name: 'Crate' },
);

const Tree = recursive(db.crate, { depth: 3, name: 'Tree' }, (c, self) => ({
  id: c.id,
  parts: self(c.parts),
}));

export const NewCrate = input(
  db.crate,
  (c) => ({
    name: c.name,
    kind: preset(c.kind, 'box'),
    size: { weight: c.weight, price: c.price },
    by: optional({ phone: c.phone, photo: c.photo }),
    may: { kilos: optional(c.partOfId) },
  }),
  { name: 'NewCrate', about: 'What a crate is entered with.' },
);

export const store = api({
  title: 'Store',
  version: '1.0.0',
  audiences: ['public', 'office'],
  endpoints: {
    crates: collection('/crates', db.crate, {
      list: page(Line, { size: 5, max: 50 }),
      read: Crate,
      create: { takes: NewCrate, returns: Crate },
      amend: { takes: amending(NewCrate, ({ name, ...rest }) => rest, { name: 'EditCrate' }) },
      remove: true,
      filters: (c) => ({ name: equals(c.name), kinds: oneOfThese(c.kind), light: isNull(c.photo) }),
      sort: ['name'],
      about: { read: 'One crate, with its parts.' },
    }),
    trees: collection('/trees', db.crate, {
      list: wrap(list(Tree), (trees, info) => ({ trees, count: info.total })),
      audiences: ['office'],
      deprecated: { since: '2026-01-01', sunset: '2026-12-31', instead: '/crates' },
    }),
  },
});

export type Json = Record<string, JsonSchema>;

export const members = (schema: JsonSchema, name: string): Json =>
  ((schema['$defs'] as Json)[name] as JsonSchema)['properties'] as Json;
