import { expect } from 'chai';
import {
  amending,
  api,
  asked,
  at,
  bigint,
  bool,
  bytes,
  type Contract,
  collection,
  compare,
  constant,
  contractOf,
  date,
  decimal,
  deprecated,
  endpoint,
  entity,
  equals,
  given,
  input,
  integer,
  json,
  list,
  model,
  oneOf,
  oneOfThese,
  optional,
  page,
  preset,
  real,
  shape,
  some,
  text,
  time,
  timestamp,
  toMany,
  toOne,
  unlessNull,
  uuid,
} from '../../index.js';

const db = model(
  {
    crate: entity('crate', {
      id: integer().key().generated(),
      name: text({ min: 1, max: 60, pattern: /^[A-Z]/ }),
      free: text(),
      note: text().nullable(),
      count: integer({ min: 0, max: 99 }),
      load: real({ min: 0, max: 5 }),
      weight: bigint({ min: 0n, max: 10n }),
      price: decimal(8, 2),
      open: bool(),
      day: date(),
      clock: time(),
      made: timestamp(),
      tag: uuid(),
      extra: json<unknown>(),
      photo: bytes({ max: 30 }),
      kind: oneOf('box', 'bag', 'barrel'),
      ownerId: integer(),
    }),
    owner: entity('owner', { id: integer().key(), name: text() }),
  },
  { crate: { owner: toOne('owner', 'ownerId') }, owner: { crates: toMany('crate', 'ownerId') } },
);

const Owner = shape(db.owner, (o) => ({ id: o.id, name: o.name }), { name: 'Owner' });
const Line = shape(db.crate, (c) => ({ id: c.id, name: c.name }), { name: 'Line' });

const Crate = shape(
  db.crate,
  (c) => ({
    id: c.id,
    name: c.name,
    free: c.free,
    note: c.note,
    sign: unlessNull(c.note),
    count: c.count,
    load: c.load,
    weight: c.weight,
    price: c.price,
    open: c.open,
    day: c.day,
    made: c.made,
    tag: c.tag,
    extra: c.extra,
    photo: c.photo,
    kind: c.kind,
    fixed: constant('crate'),
    size: { load: c.load, count: c.count },
    owner: Owner(c.owner),
    mates: Line(some(c.owner.crates, { limit: 5 })),
    more: given(asked('more'), c.clock),
    old: deprecated(c.clock, { since: '2026-01-01', sunset: '2026-06-30', instead: 'made' }),
    where: at({ read: c.free }),
  }),
  { name: 'Crate' },
);

const NewPart = input(db.crate, (c) => ({ name: c.name, note: optional(c.note) }), { name: 'NewPart' });
const NewCrate = input(
  db.crate,
  (c) => ({
    name: c.name,
    free: optional(c.free),
    note: c.note,
    count: preset(c.count, 1),
    load: c.load,
    weight: c.weight,
    price: c.price,
    tag: c.tag,
    photo: c.photo,
    kind: c.kind,
    size: { day: c.day },
  }),
  { name: 'NewCrate' },
);
const NewOwner = input(db.owner, (o) => ({ id: o.id, name: o.name, crates: NewPart(o.crates) }), {
  name: 'NewOwner',
});
const EditCrate = amending(NewCrate, ({ tag, ...rest }) => rest, { name: 'EditCrate' });

const store = api({
  title: 'Store',
  version: '1.2.3',
  audiences: ['public', 'office'],
  endpoints: {
    crates: collection('/crates', db.crate, {
      list: page(Line, { size: 20, max: 100 }),
      read: Crate,
      create: { takes: NewCrate, returns: Crate },
      amend: { takes: EditCrate },
      remove: true,
      filters: (c) => ({ kind: oneOfThese(c.kind), name: equals(c.name) }),
      sort: ['name'],
    }),
    owners: collection('/owners', db.owner, {
      list: list(Owner),
      create: { takes: NewOwner },
      audiences: ['office'],
    }),
    lines: endpoint('GET /lines', {
      from: db.crate,
      returns: list(Line),
      deprecated: { since: '2026-01-01' },
    }),
  },
});

type Json = Record<string, unknown>;

const isNamed = (value: unknown, name: string): boolean =>
  typeof value === 'object' && value !== null && (value as Json)['name'] === name;

/** The object or array that a path leads to: arrays of members and endpoints are gone into by name. */
const inside = (value: unknown, parts: readonly string[]): unknown =>
  parts.reduce<unknown>((at, part) => {
    if (!Array.isArray(at)) return (at as Json)[part];
    return at.find((item) => isNamed(item, part)) ?? at[Number(part)];
  }, value);

/** The contract with one place of it made different; undefined takes it away. */
const edited = (path: string, value: unknown): Contract => {
  const copy = JSON.parse(JSON.stringify(contractOf(store))) as Contract;
  const parts = path.split('/');
  const last = parts.pop() ?? '';
  const target = inside(copy, parts);
  if (Array.isArray(target)) {
    const index = target.findIndex((item) => isNamed(item, last));
    if (value === undefined) target.splice(index, 1);
    else if (index === -1) target.push(value);
    else target[index] = value;
  } else if (value === undefined) delete (target as Json)[last];
  else (target as Json)[last] = value;
  return copy;
};

const told = (before: Contract, after: Contract, mark: string): readonly string[] =>
  compare(before, after)
    .differences.filter(({ path, reach }) => mark === '' || `${path} ${reach[0]?.endpoint}`.includes(mark))
    .map(({ effect, code, path }) => [effect, code, path].filter((part) => part !== '').join(' '));

/** What is made different, what that is to clients, and what the way back is. */
type Case = readonly [what: string, path: string, value: unknown, there: string, back: string];

const sent = 'shapes/Crate/members';
const taken = 'inputs/NewCrate/members';
const optionalText = { name: 'fresh', type: { kind: 'text' }, when: 'optional' };

const CASES: readonly Case[] = [
  // What is sent.
  [
    'a member',
    `${sent}/fresh`,
    { name: 'fresh', type: { kind: 'text' } },
    'safe member-added fresh',
    'breaking member-removed fresh',
  ],
  ['null', `${sent}/free/nullable`, true, 'breaking null-added free', 'safe null-removed free'],
  [
    'a member for some rows',
    `${sent}/free/when`,
    'some',
    'breaking presence-loosened free',
    'safe presence-tightened free',
  ],
  [
    'a member to be asked for',
    `${sent}/sign`,
    { name: 'sign', type: { kind: 'text' }, when: 'asked', asks: ['x'] },
    'breaking presence-loosened sign',
    'safe presence-tightened sign',
  ],
  [
    'another name to ask',
    `${sent}/more/asks`,
    ['other'],
    'breaking presence-loosened more',
    'breaking presence-loosened more',
  ],
  [
    'text for a number',
    `${sent}/count/type`,
    { kind: 'text' },
    'breaking type-changed count',
    'breaking type-changed count',
  ],
  [
    'a number for a whole one',
    `${sent}/count/type`,
    { kind: 'real', min: 0, max: 99 },
    'risky type-changed count',
    'safe type-changed count',
  ],
  [
    'text for a UUID',
    `${sent}/tag/type`,
    { kind: 'text' },
    'risky type-changed tag',
    'safe type-changed tag',
  ],
  [
    'text for choices',
    `${sent}/kind/type`,
    { kind: 'text' },
    'risky type-changed kind',
    'safe type-changed kind',
  ],
  [
    'any JSON for text',
    `${sent}/free/type`,
    { kind: 'json' },
    'risky type-changed free',
    'safe type-changed free',
  ],
  [
    'a day for a moment',
    `${sent}/made/type`,
    { kind: 'date' },
    'breaking type-changed made',
    'breaking type-changed made',
  ],
  [
    'a list for an object',
    `${sent}/owner/type`,
    { kind: 'list', of: 'Owner' },
    'breaking type-changed owner',
    'breaking type-changed owner',
  ],
  [
    'an object for text',
    `${sent}/free/type`,
    { kind: 'object', of: 'Owner' },
    'breaking type-changed free',
    'breaking type-changed free',
  ],
  [
    'another fixed value',
    `${sent}/fixed/type/value`,
    'bag',
    'breaking constant-changed fixed',
    'breaking constant-changed fixed',
  ],
  [
    'a value for a fixed one',
    `${sent}/fixed/type`,
    { kind: 'text' },
    'breaking type-changed fixed',
    'breaking type-changed fixed',
  ],
  [
    'one choice more',
    `${sent}/kind/type/choices`,
    ['box', 'bag', 'barrel', 'sack'],
    'risky choice-added kind',
    'safe choice-removed kind',
  ],
  ['longer text', `${sent}/name/type/max`, 90, 'risky limit-loosened name', 'safe limit-tightened name'],
  [
    'text without a greatest length',
    `${sent}/name/type/max`,
    undefined,
    'risky limit-loosened name',
    'safe limit-tightened name',
  ],
  ['shorter text', `${sent}/name/type/min`, 0, 'risky limit-loosened name', 'safe limit-tightened name'],
  [
    'another pattern',
    `${sent}/name/type/pattern`,
    '^[a-z]',
    'risky pattern-changed name',
    'risky pattern-changed name',
  ],
  [
    'no pattern',
    `${sent}/name/type/pattern`,
    undefined,
    'risky pattern-changed name',
    'safe pattern-changed name',
  ],
  [
    'a greater number',
    `${sent}/count/type/max`,
    999,
    'risky limit-loosened count',
    'safe limit-tightened count',
  ],
  [
    'a greater bigint',
    `${sent}/weight/type/max`,
    '99999999999999999999',
    'risky limit-loosened weight',
    'safe limit-tightened weight',
  ],
  [
    'a finer decimal',
    `${sent}/price/type`,
    { kind: 'decimal', precision: 9, scale: 3 },
    'risky limit-loosened price',
    'safe limit-tightened price',
  ],
  [
    'a larger decimal',
    `${sent}/price/type`,
    { kind: 'decimal', precision: 9, scale: 2 },
    'risky limit-loosened price',
    'safe limit-tightened price',
  ],
  ['more bytes', `${sent}/photo/type/max`, 60, 'risky limit-loosened photo', 'safe limit-tightened photo'],
  [
    'a member in a group',
    `${sent}/size/type/members/fresh`,
    { name: 'fresh', type: { kind: 'text' } },
    'safe member-added size.fresh',
    'breaking member-removed size.fresh',
  ],
  [
    'a nested member',
    'shapes/Owner/members/fresh',
    { name: 'fresh', type: { kind: 'text' } },
    'safe member-added owner.fresh',
    'breaking member-removed owner.fresh',
  ],
  [
    'a member of listed rows',
    'shapes/Line/members/name/nullable',
    true,
    'breaking null-added mates[].name',
    'safe null-removed mates[].name',
  ],
  [
    'more rows in a list',
    `${sent}/mates/type/limit`,
    9,
    'risky limit-loosened mates',
    'risky limit-tightened mates',
  ],
  [
    'all rows in a list',
    `${sent}/mates/type/limit`,
    undefined,
    'risky limit-loosened mates',
    'risky limit-tightened mates',
  ],
  [
    'an earlier end',
    `${sent}/old/deprecated/sunset`,
    '2026-03-01',
    'risky member-deprecated old',
    'safe member-deprecated old',
  ],
  ['no end', `${sent}/old/deprecated`, undefined, 'safe member-deprecated old', 'safe member-deprecated old'],
  // What is taken.
  [
    'a member that may be left out',
    `${taken}/fresh`,
    optionalText,
    'safe member-added fresh',
    'breaking member-removed fresh',
  ],
  [
    'a member that is required',
    `${taken}/fresh`,
    { name: 'fresh', type: { kind: 'text' } },
    'breaking member-added fresh',
    'breaking member-removed fresh',
  ],
  [
    'an optional member that is required',
    `${taken}/free/when`,
    undefined,
    'breaking presence-tightened free',
    'safe presence-loosened free',
  ],
  ['another preset', `${taken}/count/preset`, 2, 'risky preset-changed count', 'risky preset-changed count'],
  [
    'a preset for an optional member',
    `${taken}/free`,
    { name: 'free', type: { kind: 'text' }, when: 'preset', preset: 'x' },
    'risky preset-changed free',
    'risky preset-changed free',
  ],
  ['no null', `${taken}/note/nullable`, undefined, 'breaking null-removed note', 'safe null-added note'],
  ['less text', `${taken}/name/type/max`, 30, 'breaking limit-tightened name', 'safe limit-loosened name'],
  [
    'another pattern taken',
    `${taken}/name/type/pattern`,
    '^[a-z]',
    'breaking pattern-changed name',
    'breaking pattern-changed name',
  ],
  [
    'any text taken',
    `${taken}/name/type/pattern`,
    undefined,
    'safe pattern-changed name',
    'breaking pattern-changed name',
  ],
  [
    'whole numbers only',
    `${taken}/load/type/kind`,
    'integer',
    'breaking type-changed load',
    'safe type-changed load',
  ],
  [
    'one choice less',
    `${taken}/kind/type/choices`,
    ['box', 'bag'],
    'breaking choice-removed kind',
    'safe choice-added kind',
  ],
  [
    'text taken for a UUID',
    `${taken}/tag/type`,
    { kind: 'text' },
    'safe type-changed tag',
    'breaking type-changed tag',
  ],
  [
    'fewer bytes taken',
    `${taken}/photo/type/max`,
    3,
    'breaking limit-tightened photo',
    'safe limit-loosened photo',
  ],
  [
    'a coarser decimal',
    `${taken}/price/type`,
    { kind: 'decimal', precision: 7, scale: 1 },
    'breaking limit-tightened price',
    'safe limit-loosened price',
  ],
  [
    'a smaller bigint',
    `${taken}/weight/type/max`,
    '9',
    'breaking limit-tightened weight',
    'safe limit-loosened weight',
  ],
  [
    'a member in a group taken',
    `${taken}/size/type/members/fresh`,
    optionalText,
    'safe member-added size.fresh',
    'breaking member-removed size.fresh',
  ],
  [
    'a member of nested rows taken',
    'inputs/NewPart/members/note/when',
    undefined,
    'breaking presence-tightened crates[].note',
    'safe presence-loosened crates[].note',
  ],
  // Around them.
  ['no endpoint', 'endpoints/crates.read', undefined, 'breaking endpoint-removed', 'safe endpoint-added'],
  ['another path', 'endpoints/lines/path', '/rows', 'breaking route-changed', 'breaking route-changed'],
  ['another method', 'endpoints/lines/method', 'POST', 'breaking route-changed', 'breaking route-changed'],
  ['another name', 'endpoints/lines/name', 'rows', 'risky endpoint-renamed', 'risky endpoint-renamed'],
  [
    'fewer callers',
    'endpoints/lines/audiences',
    ['office'],
    'breaking audience-removed',
    'safe audience-added',
  ],
  [
    'another caller',
    'endpoints/owners.list/audiences',
    ['office', 'public'],
    'safe audience-added',
    'breaking audience-removed',
  ],
  [
    'no end of an endpoint',
    'endpoints/lines/deprecated',
    undefined,
    'safe endpoint-deprecated',
    'safe endpoint-deprecated',
  ],
  [
    'a filter less',
    'endpoints/crates.list/filters/name',
    undefined,
    'breaking parameter-removed name',
    'safe parameter-added name',
  ],
  [
    'another comparison',
    'endpoints/crates.list/filters/name/compares',
    'contains',
    'breaking parameter-changed name',
    'breaking parameter-changed name',
  ],
  [
    'another type of filter',
    'endpoints/crates.list/filters/name/type',
    { kind: 'integer' },
    'breaking parameter-changed name',
    'breaking parameter-changed name',
  ],
  [
    'fewer choices to filter by',
    'endpoints/crates.list/filters/kind/type/choices',
    ['box', 'bag'],
    'breaking parameter-changed kind',
    'safe parameter-changed kind',
  ],
  [
    'another type in the path',
    'endpoints/crates.read/parameters/id/type',
    { kind: 'uuid' },
    'breaking parameter-changed id',
    'breaking parameter-changed id',
  ],
  [
    'nothing to sort by',
    'endpoints/crates.list/sort',
    [],
    'breaking parameter-removed sort',
    'safe parameter-added sort',
  ],
  [
    'nothing to ask for',
    'endpoints/crates.read/asks',
    [],
    'breaking parameter-removed with',
    'safe parameter-added with',
  ],
  [
    'smaller pages',
    'endpoints/crates.list/page/size',
    10,
    'risky page-changed size',
    'risky page-changed size',
  ],
  [
    'a smaller greatest page',
    'endpoints/crates.list/page/max',
    50,
    'breaking page-changed size',
    'safe page-changed size',
  ],
  [
    'pages by cursor',
    'endpoints/crates.list/page/by',
    'cursor',
    'breaking page-changed page',
    'breaking page-changed page',
  ],
  [
    'no body sent',
    'endpoints/crates.read/returns',
    undefined,
    'breaking body-removed response',
    'safe body-added response',
  ],
  [
    'no body taken',
    'endpoints/crates.amend/takes',
    undefined,
    'risky body-removed request',
    'breaking body-added request',
  ],
  [
    'a list taken',
    'endpoints/crates.create/takesMany',
    true,
    'breaking body-changed request',
    'breaking body-changed request',
  ],
  [
    'a list of one',
    'endpoints/crates.read/returns/many',
    true,
    'breaking body-changed response',
    'breaking body-changed response',
  ],
];

describe('compare', () => {
  const base = contractOf(store);

  it('has a table of at least 80 cases', () => expect(CASES.length * 2).to.be.at.least(80));

  for (const [what, path, value, there, back] of CASES) {
    const mark = there.split(' ')[2] ?? '';
    it(`${what}: ${there}`, () => expect(told(base, edited(path, value), mark)).to.include(there));
    it(`${what}, and back: ${back}`, () => {
      expect(told(edited(path, value), base, mark)).to.include(back);
    });
  }

  it('finds nothing in what is the same, whatever shapes are called', () => {
    expect(compare(base, JSON.parse(JSON.stringify(base)) as Contract).differences).to.deep.equal([]);
    const text = JSON.stringify(base).replaceAll('"Owner"', '"Keeper"').replaceAll('"NewPart"', '"Part"');
    expect(compare(base, JSON.parse(text) as Contract).differences).to.deep.equal([]);
  });

  it('says no more than what is different', () => {
    const { differences } = compare(base, edited(`${sent}/free/nullable`, true));
    expect(differences).to.deep.equal([
      {
        code: 'null-added',
        effect: 'breaking',
        path: 'free',
        message: 'It may be null now.',
        side: 'response',
        reach: [{ endpoint: 'crates.read', audiences: [null, 'public', 'office'] }],
      },
    ]);
  });

  it('tells once what reaches several endpoints, the worst first', () => {
    const { differences } = compare(
      base,
      edited('shapes/Owner/members/fresh', { name: 'fresh', type: { kind: 'text' } }),
    );
    const [nested, listed] = differences;
    expect(nested?.reach.map(({ endpoint: name }) => name)).to.deep.equal(['crates.read', 'crates.create']);
    expect(listed?.reach).to.deep.equal([{ endpoint: 'owners.list', audiences: ['office'] }]);
    const mixed = edited('endpoints/crates.read', undefined);
    const effects = compare(mixed, edited('shapes/Line/members/name', undefined)).differences.map(
      ({ effect }) => effect,
    );
    expect(effects).to.deep.equal([...effects].sort());
    expect(new Set(effects).size).to.equal(2);
  });

  it('says that a member is set once now, where it is', () => {
    const wider = api({
      title: 'Store',
      version: '1.2.3',
      endpoints: {
        crates: collection('/crates', db.crate, {
          amend: { takes: amending(NewCrate, (members) => members) },
        }),
      },
    });
    const narrower = api({
      title: 'Store',
      version: '1.2.3',
      endpoints: { crates: collection('/crates', db.crate, { amend: { takes: EditCrate } }) },
    });
    const [only] = compare(contractOf(wider), contractOf(narrower)).differences;
    expect(only?.message).to.equal('It is set once now, when created.');
  });

  it('finds members in another order, and an audience that is gone', () => {
    const members = [...(base.shapes['Line']?.members ?? [])].reverse();
    expect(told(base, edited('shapes/Line/members', members), '')).to.include('risky members-reordered');
    const fewer = edited('audiences', ['public']);
    expect(told(base, fewer, '')).to.include('breaking audience-removed');
  });

  it('suggests the step of the version, and knows whether it was taken', () => {
    const verdict = (after: Contract, version: string) => {
      const { step, suggested, announced } = compare(base, { ...after, version });
      return [step, suggested, announced];
    };
    const breaking = edited('endpoints/crates.read', undefined);
    const safe = edited(`${sent}/fresh`, { name: 'fresh', type: { kind: 'text' } });
    expect(verdict(breaking, '1.2.4')).to.deep.equal(['major', '2.0.0', false]);
    expect(verdict(breaking, '2.0.0')).to.deep.equal(['major', '2.0.0', true]);
    expect(verdict(breaking, '3.1.0-rc.1')).to.deep.equal(['major', '2.0.0', true]);
    expect(verdict(safe, '1.2.3')).to.deep.equal(['minor', '1.3.0', false]);
    expect(verdict(safe, '1.3.0')).to.deep.equal(['minor', '1.3.0', true]);
    expect(verdict(base, '1.2.3')).to.deep.equal([null, '1.2.3', true]);
    const early = compare({ ...base, version: '0.4.0' }, { ...breaking, version: '0.5.0' });
    expect([early.suggested, early.announced]).to.deep.equal(['0.5.0', true]);
    const dated = compare({ ...base, version: '2026-01' }, { ...breaking, version: '2026-02' });
    expect([dated.suggested, dated.announced]).to.deep.equal([null, true]);
  });
});
