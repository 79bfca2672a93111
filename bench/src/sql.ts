import { sqlStore } from '@gribo/sql';
import { api, atLeast, callerOf, collection, integer, loadPlan, rowRule, storeFor, writer } from 'gribo';
import { comparison } from 'gribo/kit';
import { type ColumnType, CompiledQuery, type Kysely, type Selectable } from 'kysely';
import type { Figure } from './figure.js';
import { inTurns, type Side } from './in-turns.js';
import { openPostgres, prepared, serverUrl } from './postgres.js';
import { db, VesselList, vesselRows } from './vessels.js';

interface Tables {
  operator: { id: number; name: string; phone: string };
  vessel: {
    id: number;
    name: string;
    call_sign: string | null;
    imo_number: string;
    built_year: number;
    gross_tonnage: number;
    active: boolean;
    registered_at: ColumnType<Date, string>;
    master_phone: string;
    notes: string;
    operator_id: number | null;
  };
  port_call: {
    id: number;
    vessel_id: number;
    eta: ColumnType<Date, string>;
    berth: string;
    remarks: string | null;
    internal: string;
  };
}

const SCHEMA = `
drop schema if exists gribo_bench cascade;
create schema gribo_bench;
set search_path to gribo_bench;
create table operator (id integer primary key, name text not null, phone text not null);
create table vessel (id integer primary key, name text not null, call_sign text, imo_number text not null, built_year integer not null,
  gross_tonnage double precision not null, active boolean not null, registered_at timestamptz not null, master_phone text not null,
  notes text not null, operator_id integer references operator (id));
create table port_call (id integer primary key, vessel_id integer not null references vessel (id), eta timestamptz not null,
  berth text not null, remarks text, internal text not null);
create index on port_call (vessel_id);
`;

/** The database is embedded, unless a server is named: then the time is not the database's alone. */
const isServer = serverUrl !== undefined;

const fill = async (kysely: Kysely<Tables>): Promise<void> => {
  for (const statement of SCHEMA.split(';\n')) {
    if (statement.trim() !== '') await kysely.executeQuery(CompiledQuery.raw(statement));
  }
  const vessels = vesselRows(1000);
  const operators = new Map(vessels.flatMap(({ operator: o }) => (o === null ? [] : [[o.id, o]])));
  await kysely
    .insertInto('operator')
    .values([...operators.values()])
    .execute();
  await kysely
    .insertInto('vessel')
    .values(
      vessels.map((v) => ({
        id: v.id,
        name: v.name,
        call_sign: v.callSign,
        imo_number: v.imoNumber,
        built_year: v.builtYear,
        gross_tonnage: v.grossTonnage,
        active: v.active,
        registered_at: v.registeredAt.toISOString(),
        master_phone: v.masterPhone,
        notes: v.notes,
        operator_id: v.operatorId,
      })),
    )
    .execute();
  await kysely
    .insertInto('port_call')
    .values(
      vessels.flatMap((v) =>
        v.portCalls.map((c) => ({
          id: c.id,
          vessel_id: c.vesselId,
          eta: c.eta.toISOString(),
          berth: c.berth,
          remarks: c.remarks,
          internal: c.internal,
        })),
      ),
    )
    .execute();
  await kysely.executeQuery(CompiledQuery.raw('analyze'));
};

const PAGE = { limit: 50, offset: 100 };

type OwnColumns = Pick<
  Selectable<Tables['vessel']>,
  | 'id'
  | 'name'
  | 'call_sign'
  | 'imo_number'
  | 'built_year'
  | 'gross_tonnage'
  | 'active'
  | 'registered_at'
  | 'notes'
>;

/** The members of a vessel that are columns of its own, mapped by hand. */
const ownMembers = (v: OwnColumns) => ({
  id: v.id,
  name: v.name,
  callSign: v.call_sign,
  imoNumber: v.imo_number,
  builtYear: v.built_year,
  grossTonnage: v.gross_tonnage,
  active: v.active,
  registeredAt: v.registered_at,
  notes: v.notes,
});

/** What is written by hand today: two queries with just these columns, and the mapping. */
const byHand = async (kysely: Kysely<Tables>): Promise<Uint8Array> => {
  const vessels = await kysely
    .selectFrom('vessel as v')
    .leftJoin('operator as o', 'o.id', 'v.operator_id')
    .select(['v.id', 'v.name', 'v.call_sign', 'v.imo_number', 'v.built_year', 'v.gross_tonnage', 'v.active'])
    .select(['v.registered_at', 'v.notes', 'o.id as operator_id', 'o.name as operator_name'])
    .orderBy('v.id')
    .limit(PAGE.limit)
    .offset(PAGE.offset)
    .execute();
  const ids = vessels.map(({ id }) => id);
  const calls = await kysely
    .selectFrom('port_call')
    .select(['id', 'vessel_id', 'eta', 'berth', 'remarks'])
    .where('vessel_id', 'in', ids)
    .orderBy('id')
    .execute();
  const callsOf = new Map<number, object[]>(ids.map((id) => [id, []]));
  for (const { id, vessel_id, eta, berth, remarks } of calls)
    callsOf.get(vessel_id)?.push({ id, eta, berth, remarks });
  const mapped = vessels.map((v) => ({
    ...ownMembers(v),
    operatorName: v.operator_name,
    operator: v.operator_id === null ? null : { id: v.operator_id, name: v.operator_name },
    portCalls: callsOf.get(v.id),
  }));
  return Buffer.from(JSON.stringify(mapped));
};

/** As people do it at first: the page, and for each row whatever it needs, all columns of it. */
const oneByOne = async (kysely: Kysely<Tables>): Promise<Uint8Array> => {
  const vessels = await kysely
    .selectFrom('vessel')
    .selectAll()
    .orderBy('id')
    .limit(PAGE.limit)
    .offset(PAGE.offset)
    .execute();
  const mapped: object[] = [];
  for (const v of vessels) {
    const operator =
      v.operator_id === null
        ? null
        : await kysely
            .selectFrom('operator')
            .selectAll()
            .where('id', '=', v.operator_id)
            .executeTakeFirstOrThrow();
    const calls = await kysely
      .selectFrom('port_call')
      .selectAll()
      .where('vessel_id', '=', v.id)
      .orderBy('id')
      .execute();
    mapped.push({
      ...ownMembers(v),
      operatorName: operator?.name ?? null,
      operator: operator === null ? null : { id: operator.id, name: operator.name },
      portCalls: calls.map(({ id, eta, berth, remarks }) => ({ id, eta, berth, remarks })),
    });
  }
  return Buffer.from(JSON.stringify(mapped));
};

/** The ratio to hand-written queries to reach on a server. Embedded, nearly all the time is the database's. */
const AT_LEAST = 1.8;

const caller = callerOf({ year: integer() });

/** An API whose vessels are for callers by a fact. */
const ruled = api({
  title: 'Ruled',
  version: '1',
  caller,
  rows: [rowRule(db.vessel, (v) => atLeast(v.builtYear, caller.year))],
  endpoints: { vessels: collection('/vessels', db.vessel, { list: VesselList }) },
});

/** How much longer a page within a row rule may take than with the same condition as a filter. */
const AT_MOST = 1.05;

/** The page with a rule by a fact of the caller, and with the rule's condition as a filter. */
const benchRule = async (kysely: Kysely<Tables>, where: string): Promise<Figure> => {
  const store = sqlStore(db, kysely);
  const plan = loadPlan(VesselList);
  const write = writer(VesselList);
  const [builtYear] = db.vessel.entity.columns.filter(({ name }) => name === 'builtYear');
  if (builtYear === undefined) throw new Error('sql: there is no builtYear');
  const year = 1985;
  const filtered: Side = async () =>
    write.bytes(await store.list(plan, { ...PAGE, where: [comparison(builtYear, 'atLeast', year)] }));
  const within: Side = async () => write.bytes(await storeFor(store, ruled, { year }).list(plan, PAGE));
  const [filter = 1, rule = 0] = await inTurns('sql', [filtered, within], 31, 10);
  return {
    what: `the same within a row rule by a fact, ${where}`,
    than: 'the rule as a filter',
    theirs: filter,
    ours: rule,
    unit: 'ms',
    ratio: filter / rule,
    bar: isServer ? 1 / AT_MOST : null,
    beside: '',
  };
};

/** A page of 50 vessels with operator and port calls, rows to bytes. */
export const benchSql = async (): Promise<readonly Figure[]> => {
  const kysely: Kysely<Tables> = openPostgres();
  await fill(kysely);
  const plan = loadPlan(VesselList);
  const write = writer(VesselList);
  const side =
    (store: ReturnType<typeof sqlStore>): Side =>
    async () =>
      write.bytes(await store.list(plan, PAGE));
  const ours = prepared(kysely);
  const batched = side(sqlStore(db, ours, { strategy: 'batched' }));
  const single = side(sqlStore(db, ours, { strategy: 'single' }));
  const [hand = 0, same = 0, first = 0, second = 0] = await inTurns(
    'sql',
    [() => byHand(kysely), () => byHand(ours), batched, single],
    31,
    10,
  );
  const [naive = 0, again = 1] = await inTurns('sql', [() => oneByOne(kysely), batched], 5, 2);
  const where = isServer ? 'server' : 'embedded';
  const figure = (than: string, theirs: number, ours: number, bar: number | null, how = ''): Figure => ({
    what: `page of 50 vessels with links from PostgreSQL, ${where}${how}`,
    than,
    theirs,
    ours,
    unit: 'ms',
    ratio: theirs / ours,
    bar,
    beside: '',
  });
  const rule = await benchRule(ours, where);
  await kysely.executeQuery(CompiledQuery.raw('drop schema gribo_bench cascade'));
  if (ours !== kysely) await ours.destroy();
  await kysely.destroy();
  return [
    figure('hand-written', hand, first, isServer ? AT_LEAST : null),
    figure('hand-written, prepared', same, first, null),
    figure('a query for each record', naive, again, null),
    figure('hand-written', hand, second, null, ', all in one statement'),
    rule,
  ];
};
