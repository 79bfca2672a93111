import { expect } from 'chai';
import {
  api,
  asked,
  bool,
  bytes,
  collection,
  constant,
  contractOf,
  deprecated,
  endpoint,
  entity,
  equals,
  file,
  fileOf,
  given,
  input,
  integer,
  isNull,
  json,
  list,
  model,
  oneOf,
  oneOfThese,
  optional,
  page,
  preset,
  shape,
  text,
  timestamp,
  toMany,
  toOne,
  typesSource,
  uuid,
  values,
} from '../../index.js';

const db = model(
  {
    crate: entity('crate', {
      id: integer().key(),
      name: text().about('Its name. */ alert'),
      kind: oneOf('box', 'bag'),
      partOfId: integer().nullable(),
      extra: json<unknown>().nullable(),
      ok: bool(),
      picture: bytes(),
    }),
    spot: entity('spot', { id: uuid().key(), no: integer().key() }),
  },
  { crate: { parts: toMany('crate', 'partOfId'), partOf: toOne('crate', 'partOfId') } },
);
const Line = shape(db.crate, (c) => ({ id: c.id, 'a-b': c.kind }), { name: 'Line', about: 'One line.' });
const Crate = shape(
  db.crate,
  (c) => ({
    name: c.name,
    group: { ok: c.ok, of: Line(c.partOf) },
    parts: Line(c.parts),
    extra: c.extra,
    version: constant({ v: [1, 'x', null] }),
    more: given(asked('more'), c.kind),
    old: deprecated(c.kind, { since: '2026-01-01', instead: 'kind' }),
    older: deprecated(c.kind, { since: '2026-01-01' }),
  }),
  { name: 'Crate' },
);
const New = input(db.crate, (c) => ({ name: c.name, kind: optional(c.kind) }), { name: 'New' });
const store = api({
  title: 'T',
  version: '1',
  audiences: ['office'],
  endpoints: {
    crates: collection('/crates', db.crate, {
      list: page(Line, { by: 'cursor' }),
      read: Crate,
      create: { takes: New },
      remove: true,
      filters: (c) => ({ name: equals(c.name), kinds: oneOfThese(c.kind), loose: isNull(c.partOfId) }),
      sort: ['name'],
      audiences: { list: ['office'] },
    }),
    pages: collection('/pages', db.crate, { list: page(Line, { size: 5 }) }),
    spots: collection('/spots', db.spot, { remove: true }),
    all: endpoint('GET /all', { from: db.crate, returns: list(Line) }),
    seal: endpoint('POST /crates/{id}/seal', {
      from: db.crate,
      takes: values({ by: text(), at: { dock: integer() } }, { name: 'Sealing' }),
      query: values({ level: integer(), dryRun: preset(bool(), false), note: optional(text().nullable()) }),
      problems: {
        'sealed-before': {
          status: 409,
          title: 'It is sealed.',
          members: values({ on: timestamp(), by: optional(text()) }),
        },
        b: { status: 422, title: 'B' },
      },
      files: { picture: file(), note: file({ optional: true }) },
    }),
    picture: endpoint('GET /crates/{id}/picture', {
      from: db.crate,
      returns: fileOf(db.crate, (c) => ({ bytes: c.picture, type: constant('image/png') })),
    }),
  },
});
const SOURCE = `/** Whom responses are for; an empty name stands for callers of no audience. */
export type Audience = "office" | "";

export interface LinePage {
  readonly items: readonly Line[];
  readonly page: {
    readonly size: number;
    readonly next: string | null;
    readonly previous: string | null;
  };
}

/** One line. */
export interface Line {
  readonly id: number;
  readonly "a-b": "box" | "bag";
}

export interface Crate {
  /** Its name. * / alert */
  readonly name: string;
  readonly group: {
    readonly ok: boolean;
    readonly of: Line | null;
  };
  readonly parts: readonly Line[];
  readonly extra: unknown;
  readonly version: { readonly "v": readonly [1, "x", null] };
  /** Only where \`more\` is asked for. */
  readonly more?: "box" | "bag";
  /** @deprecated Use kind. */
  readonly old: "box" | "bag";
  /** @deprecated */
  readonly older: "box" | "bag";
}

export interface LinePageList {
  readonly items: readonly Line[];
  readonly page: {
    readonly number: number;
    readonly size: number;
    readonly total: number;
    readonly pages: number;
  };
}

export interface New {
  /** Its name. * / alert */
  readonly name: string;
  readonly kind?: "box" | "bag";
}

export interface Sealing {
  readonly by: string;
  readonly at: At;
}

export interface At {
  readonly dock: number;
}

/** What each endpoint sends, by audience. */
export interface Responses {
  readonly "crates.list": { readonly office: LinePage };
  readonly "crates.read": { readonly "": Crate; readonly office: Crate };
  readonly "pages.list": { readonly "": LinePageList; readonly office: LinePageList };
  readonly "all": { readonly "": readonly Line[]; readonly office: readonly Line[] };
  readonly "picture": { readonly office: Blob; readonly "": Blob };
}

/** What each endpoint takes, by audience. */
export interface Requests {
  readonly "crates.create": { readonly "": New; readonly office: New };
  readonly "seal": { readonly "": Sealing; readonly office: Sealing };
}

/** The files that each endpoint takes. */
export interface Files {
  readonly "seal": { readonly picture: Blob; readonly note?: Blob };
}

/** The parameters in the path of each endpoint. */
export interface PathParameters {
  readonly "crates.read": { readonly id: string | number };
  readonly "crates.remove": { readonly id: string | number };
  readonly "spots.remove": { readonly id: string | number; readonly no: string | number };
  readonly "seal": { readonly id: string | number };
  readonly "picture": { readonly id: string | number };
}

/** The query parameters of each endpoint. */
export interface Queries {
  readonly "crates.list": { readonly name?: string; readonly kinds?: readonly ("box" | "bag")[]; readonly loose?: boolean; readonly size?: number; readonly after?: string; readonly sort?: readonly ("name" | "name desc")[]; readonly fields?: readonly string[] };
  readonly "crates.read": { readonly with?: readonly ("more")[]; readonly fields?: readonly string[] };
  readonly "pages.list": { readonly size?: number; readonly page?: number; readonly fields?: readonly string[] };
  readonly "all": { readonly fields?: readonly string[] };
  readonly "seal": { readonly level: number; readonly dryRun?: boolean; readonly note?: string | null };
}

/** The problems of each endpoint’s own, told apart by their codes. */
export interface Problems {
  readonly "seal": { readonly code: "sealed-before"; readonly status: 409; readonly on: string; readonly by?: string } | { readonly code: "b"; readonly status: 422 };
}
`;

describe('the source of types', () => {
  it('says all of an API, and no more', () => {
    expect(typesSource(contractOf(store))).to.equal(SOURCE);
  });
});
