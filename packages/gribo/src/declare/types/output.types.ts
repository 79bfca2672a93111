// Compiles, or fails the check: what shapes write, and what they must refuse.
import {
  all,
  amending,
  any,
  api,
  array,
  asked,
  asNumber,
  assigned,
  at,
  audience,
  average,
  bigint,
  bool,
  bytes,
  type Change,
  collection,
  constant,
  count,
  date,
  dateOnly,
  decimal,
  deprecated,
  derive,
  endpoint,
  entity,
  equals,
  everything,
  first,
  given,
  holds,
  input,
  inputFrom,
  integer,
  json,
  labelled,
  list,
  masked,
  minimum,
  model,
  type NameIn,
  not,
  type Output,
  oneOf,
  optional,
  type ParametersOf,
  page,
  preset,
  type RequestOf,
  type ResponseOf,
  type RowFor,
  reader,
  recursive,
  shape,
  shorten,
  some,
  sum,
  text,
  timestamp,
  toMany,
  toOne,
  unlessNull,
  unseal,
  upper,
  uuid,
  wrap,
  writer,
} from '../../index.js';

type Equal<A, B> = (<T>() => T extends A ? 1 : 2) extends <T>() => T extends B ? 1 : 2 ? true : false;
const expectTrue = <T extends true>(): T | undefined => undefined;

const operator = entity('operator', {
  id: integer().key(),
  name: text(),
  phone: text().nullable().sealed('personal'),
  parentId: integer().nullable(),
});
const vessel = entity('vessel', {
  id: integer().key(),
  name: text(),
  callSign: text().nullable(),
  kind: oneOf('bulk', 'tanker'),
  masterPhone: text().sealed('personal'),
  operatorId: integer().nullable(),
  builtYear: integer(),
});
const portCall = entity('portCall', {
  id: uuid().key(),
  vesselId: integer(),
  eta: timestamp(),
  day: date(),
  dues: decimal(12, 2),
  weight: bigint(),
  raw: bytes().nullable(),
  extra: json<{ readonly colour: string }>(),
});
const db = model(
  { operator, vessel, portCall },
  {
    operator: { parent: toOne('operator', 'parentId'), vessels: toMany('vessel', 'operatorId') },
    vessel: { operator: toOne('operator', 'operatorId'), portCalls: toMany('portCall', 'vesselId') },
    portCall: { vessel: toOne('vessel', 'vesselId') },
  },
);

const OperatorBrief = shape(db.operator, (o) => ({ id: o.id, name: o.name }));
const CallLine = shape(db.portCall, (c) => ({
  id: c.id,
  eta: c.eta,
  day: c.day,
  dues: c.dues,
  weight: c.weight,
  raw: c.raw,
  extra: c.extra,
  vesselName: c.vessel.name,
  owner: c.vessel.operator.name,
}));

// Values as JSON shows them; null through nullable links only.
expectTrue<
  Equal<
    Output<typeof CallLine>,
    {
      id: string;
      eta: string;
      day: string;
      dues: string;
      weight: string;
      raw: string | null;
      extra: { readonly colour: string };
      vesselName: string;
      owner: string | null;
    }
  >
>();

const VesselCard = shape(db.vessel, ({ id, name, kind }) => ({ id, name, kind }));
const VesselDetail = shape(db.vessel, (v) => {
  const { kind, ...card } = VesselCard(v);
  return {
    ...card,
    sort: kind,
    operator: OperatorBrief(v.operator),
    flat: { ...OperatorBrief(v.operator), more: v.name },
    calls: CallLine(v.portCalls),
    sisters: VesselCard(v.operator.vessels),
    last: first(
      some(v.portCalls, { where: (c) => [equals(c.dues, '1.00')], sort: ['eta desc'], limit: 1 }),
      VesselCall,
    ),
    callCount: count(v.portCalls),
    sisterCount: count(v.operator.vessels),
    age: derive([v.builtYear, v.callSign], integer(), (year, sign) => year + (sign?.length ?? 0)),
    maybe: derive([v.name], text().nullable(), () => null),
    short: shorten(v.callSign, 3),
    label: labelled(v.kind, { bulk: 'Bulk carrier', tanker: 'Tanker' }),
    fixed: constant('vessel'),
    sign: unlessNull(v.callSign),
    owner: unlessNull(OperatorBrief(v.operator)),
    phone: masked(v.operator.phone),
    old: deprecated(v.name, {}),
  };
});
const VesselCall = shape(db.portCall, (c) => ({ on: dateOnly(c.eta), dues: asNumber(c.dues) }));

expectTrue<
  Equal<
    Output<typeof VesselDetail>,
    {
      id: number;
      name: string;
      sort: 'bulk' | 'tanker';
      operator: { id: number; name: string } | null;
      flat: { id: number | null; name: string | null; more: string };
      calls: Output<typeof CallLine>[];
      sisters: { id: number; name: string; kind: 'bulk' | 'tanker' }[] | null;
      last: { on: string; dues: number } | null;
      callCount: number;
      sisterCount: number | null;
      age: number;
      maybe: string | null;
      short: string | null;
      label: 'Bulk carrier' | 'Tanker';
      fixed: 'vessel';
      sign?: string;
      owner?: { id: number; name: string };
      phone: string | null;
      old: string;
    }
  >
>();

// What depends on the situation is optional.
const Conditional = shape(db.vessel, (v) => ({
  id: v.id,
  about: at({ list: v.name, read: v.callSign }),
  phone: unseal('harbourMaster', v.masterPhone),
  built: given(audience('agent'), v.builtYear),
  some: given(
    all(
      not(audience('agent')),
      any(
        asked('x'),
        holds([v.id], (id) => id > 1),
      ),
    ),
    { name: v.name },
  ),
}));
expectTrue<
  Equal<
    Output<typeof Conditional>,
    { id: number; about?: string | null; phone?: string; built?: number; some?: { name: string } }
  >
>();
expectTrue<
  Equal<Output<typeof Conditional, 'vessels.list', 'agent'>, { id: number; about: string; built: number }>
>();
expectTrue<
  Equal<
    Output<typeof Conditional, 'vessels.read', 'harbourMaster'>,
    { id: number; about: string | null; phone: string; some?: { name: string } }
  >
>();

// The response of an endpoint, exactly.
const office = api({
  title: 'Office',
  version: '1',
  audiences: ['agent', 'harbourMaster'],
  endpoints: {
    vessels: collection('/vessels', db.vessel, {
      list: page(Conditional, { size: 20, sort: ['name desc', 'id'] }),
      read: Conditional,
      create: { takes: input(db.vessel, ({ name }) => ({ name })), returns: VesselCard },
      remove: true,
      sort: ['name'],
    }),
    deep: { options: endpoint('GET /vessels/options', { from: db.vessel, returns: list(VesselCard) }) },
    'vessels.wrapped': endpoint('GET /wrapped/{id}', {
      from: db.vessel,
      returns: wrap(Conditional, (content, info) => ({ data: content, total: info.total })),
    }),
    cursor: endpoint('GET /cursor', { from: db.vessel, returns: page(VesselCard, { by: 'cursor' }) }),
  },
});
type Office = typeof office;
expectTrue<
  Equal<
    NameIn<Office>,
    | 'vessels.list'
    | 'vessels.read'
    | 'vessels.create'
    | 'vessels.remove'
    | 'deep.options'
    | 'vessels.wrapped'
    | 'cursor'
  >
>();
expectTrue<
  Equal<
    ResponseOf<Office, 'vessels.list', 'agent'>,
    {
      items: { id: number; about: string; built: number }[];
      page: { number: number; size: number; total: number; pages: number };
    }
  >
>();
expectTrue<
  Equal<
    ResponseOf<Office, 'vessels.read'>,
    { id: number; about: string | null; phone?: string; built?: number; some?: { name: string } }
  >
>();
expectTrue<Equal<ResponseOf<Office, 'vessels.remove'>, null>>();
// Of several audiences or endpoints, one of what each is sent: nothing is certain that only one of them gets.
expectTrue<
  Equal<
    ResponseOf<Office, 'vessels.read', 'agent' | 'harbourMaster'>,
    | { id: number; about: string | null; built: number }
    | { id: number; about: string | null; phone: string; some?: { name: string } }
  >
>();
expectTrue<
  Equal<ResponseOf<Office, 'vessels.remove' | 'deep.options'>, Output<typeof VesselCard>[] | null>
>();
const Never = shape(db.vessel, (v) => ({
  id: v.id,
  none: given(not(any(audience('agent'), audience('office'))), v.name),
  some: given(
    not(
      any(
        audience('agent'),
        holds([v.id], (id) => id > 1),
      ),
    ),
    v.name,
  ),
  every: given(not(all(audience('agent'), audience('office'))), v.name),
}));
expectTrue<Equal<Output<typeof Never, 'x', 'agent'>, { id: number; every: string }>>();
expectTrue<Equal<Output<typeof Never, 'x', 'office'>, { id: number; some?: string; every: string }>>();
expectTrue<
  Equal<Output<typeof Never, 'x', 'public'>, { id: number; none: string; some?: string; every: string }>
>();

// What is not known when it is declared may be there, or be either.
declare const isCounted: boolean;
declare const way: 'number' | 'cursor';
const Perhaps = page(VesselCard, { totals: isCounted });
expectTrue<
  Equal<Output<typeof Perhaps>['page'], { number: number; size: number; total?: number; pages?: number }>
>();
const Either = page(VesselCard, { by: way });
expectTrue<
  Equal<
    Output<typeof Either>['page'],
    | { number: number; size: number; total: number; pages: number }
    | { size: number; next: string | null; previous: string | null }
  >
>();
const Plain = page(VesselCard);
expectTrue<
  Equal<Output<typeof Plain>['page'], { number: number; size: number; total: number; pages: number }>
>();

// JSON columns are what they are said to be, in an API too.
const paper = entity('paper', {
  id: integer().key(),
  // biome-ignore lint/suspicious/noExplicitAny: people declare it so
  any: json<any>(),
  unknown: json<unknown>(),
  list: json<string[]>(),
  word: json<'a' | 'b'>(),
});
const papers = model({ paper }, {});
const Paper = shape(papers.paper, (p) => ({ ...everything(p), within: { any: p.any, list: p.list } }));
const archive = api({
  title: 'Archive',
  version: '1',
  endpoints: { papers: collection('/papers', papers.paper, { read: Paper }) },
});
expectTrue<Equal<ResponseOf<typeof archive, 'papers.read'>, Output<typeof Paper>>>();
expectTrue<
  Equal<
    Output<typeof Paper>,
    {
      id: number;
      // biome-ignore lint/suspicious/noExplicitAny: as it was declared
      any: any;
      unknown: unknown;
      list: string[];
      word: 'a' | 'b';
      // biome-ignore lint/suspicious/noExplicitAny: as it was declared
      within: { any: any; list: string[] };
    }
  >
>();

// Left out where it is null: over a link that may lead nowhere too.
const Grouped = shape(db.operator, (o) => ({
  id: unlessNull(o.parentId),
  brief: unlessNull(OperatorBrief(o.parent)),
}));
const Spread = shape(db.vessel, (v) => ({ ...Grouped(v.operator) }));
expectTrue<Equal<Output<typeof Spread>, { id?: number; brief?: { id: number; name: string } }>>();

// An input that is made from a shape sets its columns, as far as they can come back.
const FromCard = inputFrom(
  shape(db.vessel, (v) => ({
    ...VesselCard(v),
    about: { sign: unlessNull(v.callSign) },
    by: v.operator.name,
  })),
);
expectTrue<
  Equal<
    Change<typeof FromCard>,
    { id?: number; name?: string; kind?: 'bulk' | 'tanker'; callSign?: string | null }
  >
>();

expectTrue<Equal<ResponseOf<Office, 'vessels.create'>, Output<typeof VesselCard>>>();
expectTrue<Equal<ResponseOf<Office, 'deep.options'>, Output<typeof VesselCard>[]>>();
expectTrue<
  Equal<
    ResponseOf<Office, 'vessels.wrapped', 'harbourMaster'>,
    { data: { id: number; phone: string; some?: { name: string } }; total: number | null }
  >
>();
expectTrue<
  Equal<
    ResponseOf<Office, 'cursor'>,
    {
      items: Output<typeof VesselCard>[];
      page: { size: number; next: string | null; previous: string | null };
    }
  >
>();
expectTrue<Equal<ParametersOf<Office, 'vessels.wrapped'>, { readonly id: string }>>();
expectTrue<Equal<ParametersOf<Office, 'vessels.read'>, { readonly id: string }>>();
expectTrue<Equal<ParametersOf<Office, 'vessels.list'>, { readonly [N in never]: string }>>();
expectTrue<Equal<RequestOf<Office, 'vessels.create'>, { name: string }>>();
expectTrue<Equal<RequestOf<Office, 'vessels.remove'>, null>>();
expectTrue<Equal<RequestOf<Office, 'cursor'>, null>>();
// @ts-expect-error no such column to sort by
page(VesselCard, { sort: ['nme'] });
// @ts-expect-error no such link
collection('/vessels', db.vessel, { read: VesselCard, under: 'oprator' });
// @ts-expect-error no such operation's body
collection('/vessels', db.vessel, { list: VesselCard });
collection('/vessels', db.vessel, {
  list: list(VesselCard),
  // @ts-expect-error a sealed column cannot filter
  filters: (v) => ({ phone: equals(v.masterPhone) }),
});

const Tree = recursive(db.operator, { depth: 3 }, (o, self) => ({ id: o.id, group: self(o.parent) }));
const treeNode: Output<typeof Tree> = { id: 1, group: { id: 2, group: null } };

const Everything = shape(db.operator, (o) => ({ ...everything(o) }));
expectTrue<Equal<Output<typeof Everything>, { id: number; name: string; parentId: number | null }>>();

const rows: Output<typeof VesselCard>[] = writer(list(VesselCard)).object([{ id: 1 }]);
const row: Output<typeof VesselCard> = writer(VesselCard).object({ id: 1 });

// What an input sets, under the entity's own names.
const NewCall = input(db.portCall, (c) => ({ id: c.id, when: c.eta, weight: optional(asNumber(c.weight)) }));
const NewVessel = input(db.vessel, (v) => ({
  title: v.name,
  sign: optional(v.callSign),
  kind: labelled(v.kind, { bulk: 'Bulk', tanker: 'Tanker' }),
  owner: { id: v.operatorId },
  phone: v.masterPhone,
  built: preset(v.builtYear, 2000),
  calls: optional(NewCall(v.portCalls)),
}));
type NewVesselChange = {
  name: string;
  callSign?: string | null;
  kind: 'bulk' | 'tanker';
  operatorId: number | null;
  masterPhone: string;
  builtYear: number;
  portCalls?: { id: string; eta: Date; weight?: bigint }[];
};
expectTrue<Equal<Change<typeof NewVessel>, NewVesselChange>>();
const EditVessel = amending(NewVessel, ({ title, calls, ...rest }) => rest);
expectTrue<Equal<Change<typeof EditVessel>, Partial<Omit<NewVesselChange, 'name' | 'portCalls'>>>>();
const got = reader(NewVessel).object({});
const readName: string = got.ok ? got.value.name : (got.issues[0]?.pointer ?? '');
const stamped = entity('stamped', { id: integer().key().generated(), at: timestamp().generated() });
const stamps = model({ stamped }, {});
input(stamps.stamped, (s) => ({ id: assigned(s.id) }));
// @ts-expect-error made by the database
input(stamps.stamped, (s) => ({ id: s.id }));
// @ts-expect-error computed
input(db.vessel, (v) => ({ x: derive([v.name], text(), (name) => name) }));
// @ts-expect-error an input over another entity
input(db.vessel, (v) => ({ x: NewCall(v.operator) }));

// A shape over a sealed column, whatever is done to it short of masking and unsealing.
// @ts-expect-error sealed
shape(db.operator, (o) => ({ phone: o.phone }));
// @ts-expect-error sealed, converted
shape(db.operator, (o) => ({ phone: upper(o.phone) }));
// @ts-expect-error sealed, derived
shape(db.operator, (o) => ({ phone: derive([o.name, o.phone], text(), (name) => name) }));
// @ts-expect-error sealed, in a group
shape(db.operator, (o) => ({ group: { phone: o.phone } }));
// @ts-expect-error sealed, under a condition
shape(db.operator, (o) => ({ phone: given(audience('agent'), o.phone) }));
// @ts-expect-error sealed, over a link
shape(db.vessel, (v) => ({ phone: v.operator.phone }));
// Whether a column behind a link equals a sealed one is known when it is declared, not to the compiler.
shape(db.operator, (o) => ({ name: unseal('agent', o.name) }));
// @ts-expect-error no such column
shape(db.vessel, (v) => ({ x: v.nope }));
// @ts-expect-error a shape over another entity
shape(db.vessel, (v) => ({ x: CallLine(v.operator) }));
// @ts-expect-error no member
shape(db.vessel, () => ({ x: 5 }));
// @ts-expect-error a whole row
shape(db.vessel, (v) => ({ x: v.operator }));
// @ts-expect-error no such column to sort by
shape(db.vessel, (v) => ({ x: count(some(v.portCalls, { sort: ['etaa'] })) }));
// @ts-expect-error a comparison with a value of another type
shape(db.vessel, (v) => ({ x: count(some(v.portCalls, { where: (c) => [equals(c.eta, 5)] })) }));
// @ts-expect-error a conversion of a value of another type
shape(db.vessel, (v) => ({ x: dateOnly(v.name) }));
// @ts-expect-error a label is missing
shape(db.vessel, (v) => ({ x: labelled(v.kind, { bulk: 'Bulk' }) }));
// @ts-expect-error the function returns something else
shape(db.vessel, (v) => ({ x: derive([v.id], text(), (id) => id) }));
// @ts-expect-error no such entity
model({ vessel }, { vessel: { operator: toOne('operatr', 'operatorId') } });
// @ts-expect-error it may be null
const nullable: string = writer(CallLine).object({}).owner;

export { nullable, readName, row, rows, treeNode };

// Arrays, stored forms, links to one row or none, and figures have types of their own.
const berth = entity('berth', {
  id: integer().key(),
  code: text().unique(),
  tags: array(bigint()),
  lit: bool().coded({ as: text(), read: (said) => said === 'Y', write: (value) => (value ? 'Y' : 'N') }),
});
const lamp = entity('lamp', {
  berthId: integer().key(),
  watts: bigint(),
  price: decimal(6, 2).nullable(),
  at: timestamp(),
});
const quays = model(
  { berth, lamp },
  {
    berth: { lamp: toOne('lamp', 'id', { optional: true }), lamps: toMany('lamp', 'berthId') },
    lamp: { berth: toOne('berth', { berthId: 'id' }) },
  },
);
const BerthFigures = shape(quays.berth, (b) => ({
  tags: b.tags,
  lit: b.lit,
  watts: b.lamp.watts,
  total: sum(b.lamps, (l) => l.watts),
  paid: sum(b.lamps, (l) => l.price),
  mean: average(b.lamps, (l) => l.watts),
  first: minimum(b.lamps, (l) => l.at),
  code: b.lamp.berth.code,
}));
expectTrue<
  Equal<
    Output<typeof BerthFigures>,
    {
      tags: readonly string[];
      lit: boolean;
      watts: string | null;
      total: string;
      paid: string;
      mean: string | null;
      first: string | null;
      code: string | null;
    }
  >
>();
expectTrue<
  Equal<RowFor<typeof quays.berth>, { id: number; code: string; tags: readonly bigint[]; lit: boolean }>
>();
// @ts-expect-error a stored form is read into the column's own type
bool().coded({ as: integer(), read: (said) => said, write: () => 1 });
// @ts-expect-error there is no such column to hold the key
model({ berth, lamp }, { berth: { lamp: toOne('lamp', 'nowhere') } });
