// Compiles, or fails the check: the types of a model are those of Drizzle's tables.
import { bytes, input, json, type Output, type RowFor, shape } from 'gribo';
import { modelFrom } from '../index.js';
import { type Fittings, lockersMysql, lockersPostgres, lockersSqlite } from '../testing/lockers.js';
import { postgresStock } from '../testing/schemas.js';

type Same<A, B> = (<T>() => T extends A ? 1 : 2) extends <T>() => T extends B ? 1 : 2 ? true : false;
const same = <A, B>(_is: Same<A, B>): void => undefined;

/** Drizzle's row, with what a model holds in another way. */
type Row<T extends { $inferSelect: object }, Otherwise> = {
  [N in keyof T['$inferSelect']]: N extends keyof Otherwise ? Otherwise[N] : T['$inferSelect'][N];
};
type Flat<T> = { [N in keyof T]: T[N] };

const onPostgres = modelFrom(
  { locker: lockersPostgres },
  { locker: () => ({ place: json<[number, number]>().nullable() }) },
);
same<
  Flat<RowFor<typeof onPostgres.locker>>,
  Row<
    typeof lockersPostgres,
    { until: string | null; told: Date | null; keys: readonly string[]; marks: readonly number[] | null }
  >
>(true);

const onMysql = modelFrom({ locker: lockersMysql });
same<
  Flat<RowFor<typeof onMysql.locker>>,
  Row<typeof lockersMysql, { until: string | null; told: Date | null }>
>(true);

const onSqlite = modelFrom({ locker: lockersSqlite });
same<Flat<RowFor<typeof onSqlite.locker>>, Row<typeof lockersSqlite, { photo: Uint8Array | null }>>(true);

const fleet = modelFrom(postgresStock, {
  operator: ({ name }) => ({ name: name.sealed('personal') }),
  vessel: ({ callSign, ...others }) => {
    // What has no kind is not among them.
    same<'photo' extends keyof typeof others ? true : false, false>(true);
    return { photo: bytes({ max: 64 }).nullable(), callSign: callSign.about('The radio call sign.') };
  },
  pilot: () => ({ name: null }),
});

const Line = shape(
  fleet.vessel,
  (v) => ({
    id: v.id,
    kind: v.kind,
    weight: v.weight,
    sign: v.callSign,
    photo: v.photo,
    operator: v.operator.id,
    registered: v.registered,
    surveyed: v.surveyedAt,
  }),
  { name: 'Line' },
);
same<
  Output<typeof Line>,
  {
    id: number;
    kind: 'bulk' | 'tanker' | 'tug';
    weight: string;
    sign: string | null;
    photo: string | null;
    operator: number | null;
    registered: string | null;
    surveyed: string | null;
  }
>(true);

// A link over columns that are never null is always there, and one that may lead nowhere may be null.
const Call = shape(fleet.portCall, (c) => ({ vessel: c.vessel.name }), { name: 'Call' });
same<Output<typeof Call>, { vessel: string }>(true);

// @ts-expect-error what is sealed stays inside
shape(fleet.operator, (o) => ({ name: o.name }), { name: 'Leak' });
// @ts-expect-error what was left out is not there
shape(fleet.pilot, (p) => ({ name: p.name }), { name: 'Gone' });
// @ts-expect-error no input sets what the database makes
input(fleet.vessel, (v) => ({ id: v.id }), { name: 'NewVessel' });
same<RowFor<typeof onSqlite.locker>['fittings'], Fittings>(true);
