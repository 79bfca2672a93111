import {
  type AnyApi,
  all,
  amending,
  any,
  api,
  asked,
  assigned,
  atLeast,
  atMost,
  audience,
  average,
  type Conditional,
  callerOf,
  collection,
  contains,
  count,
  derive,
  endpoint,
  equals,
  first,
  GriboError,
  given,
  input,
  integer,
  isNull,
  list,
  maximum,
  not,
  now,
  oneOfThese,
  optional,
  page,
  rowRule,
  shape,
  some,
  sum,
  text,
  unlessNull,
  uuid,
  values,
} from 'gribo';
import { stock } from '../../../gribo/src/testing/stock.js';

/*
 * Random APIs over the stock: shapes, conditions, row rules, filters and orders that a seed chooses. What their declaration
 * refuses is left out, as somebody would who reads the message.
 */

// biome-ignore lint/suspicious/noExplicitAny: random declarations have no static type
type Any = any;

/** The next of a row of choices, below a number. */
export type Choose = (below: number) => number;

export const choosing = (seed: number): Choose => {
  let state = seed >>> 0;
  return (below) => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) % below;
  };
};

export const facts = callerOf({ operatorId: integer().nullable(), year: integer() });

const pick = <T>(choose: Choose, from: readonly T[]): T => from[choose(from.length)] as T;

type Leaf = (row: Any, choose: Choose) => Conditional;

const DAY = new Date('2026-04-01T06:00:00.000Z');

const ALL_OPERATOR: readonly Leaf[] = [
  (o) => isNull(o.parentId),
  (o) => equals(o.id, facts.operatorId),
  (o) => contains(o.name, 'a'),
  (o) => equals(o.parent.name, 'Ostwick'),
  (o) => equals(o.parentId, facts.operatorId),
];
const ALL_CALL: readonly Leaf[] = [
  (c) => equals(c.status, 'berthed'),
  (c) => oneOfThese(c.status, ['announced', 'sailed']),
  (c) => isNull(c.remarks),
  (c) => atMost(c.eta, now),
  (c) => atLeast(c.eta, DAY),
  (c) => equals(c.vessel.operatorId, facts.operatorId),
  (c) => equals(c.vessel.kind, 'tug'),
  (c) => c.pilots,
  (c) => some(c.pilots, { where: (p: Any) => [atLeast(p.id, 2)] }),
];
const ALL_VESSEL: readonly Leaf[] = [
  (v) => equals(v.operatorId, facts.operatorId),
  (v) => equals(v.kind, 'tug'),
  (v) => atLeast(v.builtYear, facts.year),
  (v) => isNull(v.callSign),
  (v) => equals(v.active, true),
  (v) => equals(v.operator.name, 'Ostwick'),
  (v) => isNull(v.operatorId),
  (v) => isNull(v.operator.name),
  (v) => v.portCalls,
  (v) => some(v.portCalls, { where: (c: Any) => [equals(c.status, 'berthed')] }),
];
const ALL_PILOT: readonly Leaf[] = [(p) => atLeast(p.id, 2), (p) => contains(p.name, 'n')];
const ALL_PILOTAGE: readonly Leaf[] = [
  (p) => atLeast(p.pilotId, 2),
  (p) => equals(p.portCall.status, 'berthed'),
];

const condition = (leaves: readonly Leaf[], row: Any, choose: Choose, depth = 0): Conditional => {
  const inner = (): Conditional => condition(leaves, row, choose, depth + 1);
  switch (choose(depth > 1 ? 3 : 7)) {
    case 0:
      return audience(pick(choose, ['agent', 'office'] as const));
    case 3:
      return all(inner(), inner());
    case 4:
      return any(inner(), inner());
    case 5:
      return not(inner());
    default:
      return pick(choose, leaves)(row, choose);
  }
};

/** A member over a column, or nothing of it. */
const members = (
  choose: Choose,
  leaves: readonly Leaf[],
  row: Any,
  names: readonly string[],
): Record<string, Any> => {
  const made: Record<string, Any> = {};
  for (const name of names) {
    const value = row[name];
    const how = choose(8);
    if (how < 3) made[name] = value;
    else if (how < 5) made[name] = given(condition(leaves, row, choose) as Any, value);
    else if (how === 5) made[name] = given(asked('more'), { [name]: value });
    else if (how === 6) made[`${name}Said`] = derive([value], text(), (inner) => String(inner));
  }
  return made;
};

interface Taken {
  readonly dropped: ReadonlySet<string>;
  readonly choose: Choose;
}

const nestedRows = (
  { choose, dropped }: Taken,
  rows: Any,
  Shape: Any,
  where: readonly Leaf[],
  sorts: readonly string[],
  at: string,
): Any => {
  const selection: Record<string, Any> = {};
  if (choose(2) === 0) selection['where'] = (row: Any) => [condition(where, row, choose, 1)];
  const sort = pick(choose, sorts) + pick(choose, ['', ' desc']);
  if (choose(2) === 0 && !dropped.has(at)) selection['sort'] = [sort];
  if (choose(3) === 0) selection['limit'] = 1 + choose(2);
  const some_ = some(rows, selection as Any);
  if (choose(4) === 0) return count(some_ as never);
  return choose(4) === 0 ? first(some_ as never, Shape) : Shape(some_);
};

/** Figures about rows behind links, where there are some. */
const figures = (choose: Choose, v: Any): Record<string, Any> => {
  if (choose(2) === 0) return {};
  const tugs = some(v.operator.vessels, {
    where: (o: Any) => [oneOfThese(o.kind, ['tug', 'bulk'])],
  } as Any) as Any;
  return {
    built: sum(choose(2) === 0 ? v.operator.vessels : tugs, (o: Any) => o.builtYear),
    heaviest: maximum(v.operator.vessels, (o: Any) => o.tonnage),
    mean: average(tugs, (o: Any) => o.weight),
    newest: maximum(v.portCalls, (c: Any) => c.eta),
  };
};

/** What the conditions of one API are made of: few, so that there are columns that none of them looks at. */
interface Leaves {
  readonly OPERATOR: readonly Leaf[];
  readonly VESSEL: readonly Leaf[];
  readonly CALL: readonly Leaf[];
  readonly PILOT: readonly Leaf[];
  readonly PILOTAGE: readonly Leaf[];
}

const few = (choose: Choose, all_: readonly Leaf[]): readonly Leaf[] => [
  pick(choose, all_),
  pick(choose, all_),
];

const leavesOf = (choose: Choose): Leaves => ({
  OPERATOR: few(choose, ALL_OPERATOR),
  VESSEL: few(choose, ALL_VESSEL),
  CALL: few(choose, ALL_CALL),
  PILOT: few(choose, ALL_PILOT),
  PILOTAGE: few(choose, ALL_PILOTAGE),
});

const rulesOf = (choose: Choose, { OPERATOR, VESSEL, CALL, PILOT, PILOTAGE }: Leaves): Any[] =>
  (
    [
      [stock.operator, OPERATOR],
      [stock.vessel, VESSEL],
      [stock.portCall, CALL],
      [stock.pilot, PILOT],
      [stock.pilotage, PILOTAGE],
    ] as const
  ).flatMap(([entity, leaves]) =>
    choose(2) === 0 ? [rowRule(entity as Any, (row: Any) => condition(leaves as never, row, choose))] : [],
  );

const filtersOf =
  (taken: Taken, at: string, all_: Readonly<Record<string, (row: Any) => Any>>) => (row: Any) =>
    Object.fromEntries(
      Object.entries(all_)
        .filter(([name]) => !taken.dropped.has(`${at}?${name}`))
        .map(([name, make]) => [name, make(row)]),
    );

const declare = (seed: number, dropped: ReadonlySet<string>): AnyApi => {
  const choose = choosing(seed);
  const taken = { choose, dropped };
  const leaves = leavesOf(choose);
  const { OPERATOR, VESSEL, CALL, PILOT } = leaves;
  const rows = rulesOf(choose, leaves);
  const Pilot = shape(stock.pilot, (p) => ({ id: p.id, ...members(choose, PILOT, p, ['name']) }), {
    name: 'Pilot',
  });
  const Call = shape(
    stock.portCall,
    (c: Any) => ({
      id: c.id,
      ...members(choose, CALL, c, ['eta', 'status', 'remarks']),
      crew: nestedRows(taken, c.pilots, Pilot, PILOT, ['name', 'id'], 'Call.crew'),
      vessel: unlessNull(c.vessel.name),
    }),
    { name: 'Call' },
  );
  const Operator = shape(
    stock.operator,
    (o: Any) => ({ id: o.id, ...members(choose, OPERATOR, o, ['name', 'parentId']) }),
    {
      name: 'Operator',
    },
  );
  const Vessel = shape(
    stock.vessel,
    (v: Any) => ({
      id: v.id,
      ...members(choose, VESSEL, v, ['name', 'callSign', 'kind', 'builtYear', 'operatorId']),
      operator: pick(choose, [
        () => Operator(v.operator),
        () => v.operator.name,
        () => ({ id: v.operator.id }),
      ])(),
      group: v.operator.parent.name,
      calls: nestedRows(taken, v.portCalls, Call, CALL, ['eta', 'status', 'id'], 'Vessel.calls'),
      beside: count(v.operator.vessels),
      ...figures(choose, v),
    }),
    { name: 'Vessel' },
  );
  // Inputs name rows by keys, behind links and in nested lists. What changes sends no row back: what a caller changes itself may let it
  // see more.
  const Crew = input(stock.pilot, (p) => ({ id: assigned(p.id) }), { name: 'Crew' });
  const ofCall = (c: Any): Any => ({
    id: c.id,
    eta: c.eta,
    status: c.status,
    remarks: c.remarks,
    crew: optional(Crew(c.pilots)),
  });
  const InnerCall = input(stock.portCall, ofCall, { name: 'InnerCall' }) as Any;
  const NewCall = input(stock.portCall, (c: Any) => ({ ...ofCall(c), vesselId: c.vesselId }), {
    name: 'NewCall',
  }) as Any;
  const NewVessel = input(
    stock.vessel,
    (v: Any) => ({
      name: v.name,
      kind: v.kind,
      operatorId: v.operatorId,
      calls: optional(InnerCall(v.portCalls)),
    }),
    { name: 'NewVessel' },
  ) as Any;
  const NewOperator = input(stock.operator, (o: Any) => ({ parentId: o.parentId }), {
    name: 'NewOperator',
  }) as Any;
  const Moved = amending(
    input(stock.vessel, (v: Any) => ({ id: assigned(v.id), operatorId: v.operatorId }), {
      name: 'Moved',
    }) as Any,
    (v: Any) => ({ id: v.id, operatorId: v.operatorId }),
  ) as Any;
  const paged = (Shape: Any, at: string, sorts: readonly string[]): Any => {
    const by = pick(choose, ['number', 'cursor'] as const);
    const words = [pick(choose, sorts) + pick(choose, ['', ' desc'])];
    return page(Shape, { by, size: 2, totals: true, ...(dropped.has(at) ? {} : { sort: words }) } as Any);
  };
  const sortable = (at: string, names: readonly string[]): readonly string[] =>
    dropped.has(`${at}?sort`) ? [] : names;
  return api({
    title: 'Random',
    version: '1',
    audiences: ['agent', 'office'],
    asks: ['more'],
    caller: facts,
    rows,
    endpoints: {
      vessels: collection('/vessels', stock.vessel, {
        list: paged(Vessel, 'vessels.list', ['name', 'callSign', 'builtYear', 'operator.name']),
        read: Vessel,
        filters: filtersOf(taken, 'vessels.list', {
          name: (v) => contains(v.name),
          sign: (v) => isNull(v.callSign),
          kind: (v) => equals(v.kind),
          from: (v) => atLeast(v.builtYear),
          operator: (v) => equals(v.operator.name),
          owner: (v) => equals(v.operatorId),
          group: (v) => equals(v.operator.parent.name),
          alone: (v) => isNull(v.operator.name),
        }),
        sort: sortable('vessels.list', ['name', 'callSign', 'builtYear', 'operator.name']),
        remove: true,
        amend: {
          takes: amending(NewVessel, (v: Any) => ({ operatorId: v.operatorId, calls: v.calls })),
        },
      } as Any),
      calls: collection('/calls', stock.portCall, {
        list: paged(Call, 'calls.list', ['eta', 'status', 'vessel.name']),
        read: Call,
        filters: filtersOf(taken, 'calls.list', {
          from: (c) => atLeast(c.eta),
          to: (c) => atMost(c.eta),
          status: (c) => equals(c.status),
          remarks: (c) => isNull(c.remarks),
          vessel: (c) => equals(c.vessel.name),
        }),
        sort: sortable('calls.list', ['eta', 'status']),
        create: { takes: NewCall },
        remove: true,
        amend: {
          takes: amending(NewCall, (c: Any) => ({
            vesselId: c.vesselId,
            remarks: c.remarks,
            crew: c.crew,
          })),
        },
      } as Any),
      children: collection('/vessels/{vessel}/calls', stock.portCall, { under: 'vessel', list: list(Call) }),
      operators: collection('/operators', stock.operator, {
        list: list(Operator),
        read: Operator,
        remove: true,
        amend: { takes: amending(NewOperator, (o: Any) => ({ parentId: o.parentId })) },
      } as Any),
      pilots: collection('/pilots', stock.pilot, { list: list(Pilot), read: Pilot, remove: true }),
      many: collection('/many-calls', stock.portCall, { create: { takes: list(NewCall) } } as Any),
      moved: endpoint('PATCH /many-vessels', {
        from: stock.vessel,
        takes: list(Moved),
      } as Any),
      assign: endpoint('POST /calls/{id}/assign', {
        from: stock.portCall,
        takes: values({ vesselId: integer() }),
      } as Any),
      enlist: endpoint('POST /enlist', {
        from: stock.vessel,
        takes: values({
          operatorId: integer().nullable(),
          calls: list(values({ id: uuid(), pilotId: integer() })),
        }),
      } as Any),
      seen: endpoint('GET /seen', { from: stock.vessel, returns: list(Vessel) } as Any),
      ofVessel: endpoint('GET /vessels/{id}/named', { from: stock.vessel, returns: Vessel } as Any),
    },
  } as Any) as unknown as AnyApi;
};

/** The handlers of every random office: what they name, load and store is their caller's. */
export const officeHandlers: Any = {
  assign: async ({ key, input: { vesselId }, store }: Any) => {
    await store.amend('portCall', key, { vesselId });
  },
  enlist: async ({ input: { operatorId, calls }, store, transaction, now: eta }: Any) =>
    transaction(async () => {
      const [vesselId] = await store.create('vessel', { ...PLAIN_VESSEL, operatorId });
      for (const { id, pilotId } of calls) {
        await store.create('portCall', { id, vesselId, eta, status: 'sailed', remarks: null });
        await store.create('pilotage', { portCallId: id, pilotId });
      }
    }),
  seen: ({ load }: Any) => load.rows({ sort: ['id'] }),
  ofVessel: ({ load, parameters }: Any) => load.row(Number(parameters.id)),
};

const PLAIN_VESSEL = {
  name: 'Ebb',
  kind: 'tug',
  builtYear: 1999,
  tonnage: '1.0',
  draught: 1,
  active: true,
  weight: 1n,
  callSign: null,
};

/** What a refusal names, to be left out. */
const namedIn = (error: GriboError): string[] =>
  ((error as unknown as { findings: { path: string; message: string }[] }).findings ?? []).map(
    ({ path }) => path,
  );

/** A random API that its declaration takes; null where that leaves nothing to ask. */
export const randomOffice = (seed: number): AnyApi | null => {
  const dropped = new Set<string>(['nothing']);
  for (let i = 0; i < 4; i++) {
    try {
      return declare(seed, dropped);
    } catch (error) {
      if (!(error instanceof GriboError) || error.code !== 'DECLARATION') throw error;
      const before = dropped.size;
      for (const path of namedIn(error)) dropped.add(path);
      if (dropped.size === before) return null;
    }
  }
  return null;
};
