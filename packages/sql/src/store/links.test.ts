import { expect } from 'chai';
import {
  amending,
  api,
  collection,
  count,
  entity,
  equals,
  input,
  integer,
  list,
  model,
  optional,
  shape,
  some,
  text,
  toMany,
  toOne,
} from 'gribo';
import { asking, everyPlace, type Kept } from '../testing/every-place.js';

/** A pilot may have a locker, under the pilot's own number; and a desk of a branch, whose key is in another order. */
const db = model(
  {
    pilot: entity(
      'pilot',
      {
        id: integer().key(),
        name: text(),
        badge: text().unique().nullable(),
        company: integer(),
        branchNumber: integer(),
      },
      { stored: 'linked_pilot' },
    ),
    locker: entity('locker', { pilotId: integer().key(), code: text() }, { stored: 'linked_locker' }),
    branch: entity(
      'branch',
      { number: integer().key(), company: integer().key(), name: text() },
      { stored: 'linked_branch' },
    ),
    watch: entity(
      'watch',
      { id: integer().key(), badge: text(), hours: integer() },
      { stored: 'linked_watch' },
    ),
  },
  {
    pilot: {
      locker: toOne('locker', 'id', { optional: true }),
      branch: toOne('branch', { company: 'company', branchNumber: 'number' }),
      watches: toMany('watch', { badge: 'badge' }),
    },
    locker: { pilot: toOne('pilot', 'pilotId') },
    branch: { pilots: toMany('pilot', { branchNumber: 'number', company: 'company' }) },
    watch: {
      pilot: toOne('pilot', { badge: 'badge' }),
      locker: toOne('locker', 'hours', { optional: true }),
    },
  },
);

const ROWS = {
  branch: [
    { company: 1, number: 2, name: 'West' },
    { company: 2, number: 1, name: 'East' },
  ],
  pilot: [
    { id: 1, name: 'Anouk', badge: 'A', company: 1, branchNumber: 2 },
    { id: 2, name: 'Bo', badge: null, company: 2, branchNumber: 1 },
  ],
  locker: [{ pilotId: 1, code: 'L1' }],
  watch: [
    { id: 1, badge: 'A', hours: 4 },
    { id: 2, badge: 'A', hours: 1 },
  ],
};

const KEPT: Kept = {
  model: db,
  tables: () => ({
    linked_branch:
      'company integer not null, number integer not null, name varchar(40) not null, primary key (company, number)',
    linked_pilot: `id integer primary key, name varchar(40) not null, badge varchar(10) unique, company integer not null,
      branch_number integer not null, foreign key (company, branch_number) references linked_branch (company, number)`,
    linked_locker:
      'pilot_id integer primary key, code varchar(10) not null, foreign key (pilot_id) references linked_pilot (id)',
    linked_watch: `id integer primary key, badge varchar(10) not null, hours integer not null,
      foreign key (badge) references linked_pilot (badge)`,
  }),
  rows: ROWS,
};

const Locker = shape(db.locker, ({ code }) => ({ code }));
const Watch = shape(db.watch, (w) => ({ hours: w.hours, pilot: w.pilot.name, locker: w.locker.code }));
const Pilot = shape(db.pilot, (p) => ({
  name: p.name,
  locker: Locker(p.locker),
  branch: p.branch.name,
  watches: Watch(some(p.watches, { sort: ['id'] })),
  many: count(p.watches),
}));
const Branch = shape(db.branch, (b) => ({ name: b.name, pilots: count(b.pilots) }));
const LockerIn = input(db.locker, ({ code }) => ({ code }));
const PilotIn = input(db.pilot, (p) => ({
  id: p.id,
  name: p.name,
  company: p.company,
  branchNumber: p.branchNumber,
  locker: optional(LockerIn(p.locker)),
}));
const CrewIn = input(db.pilot, ({ id, name }) => ({ id, name }), { name: 'CrewIn' });
const office = api({
  title: 'Pilots',
  version: '1.0.0',
  endpoints: {
    pilots: collection('/pilots', db.pilot, {
      list: list(Pilot),
      read: Pilot,
      create: { takes: PilotIn, returns: Pilot },
      amend: { takes: amending(PilotIn, ({ locker }) => ({ locker })), returns: Pilot },
      remove: true,
      sort: ['locker.code', 'id'],
      filters: (p) => ({ locker: equals(p.locker.code), branch: equals(p.branch.name) }),
    }),
    branches: collection('/branches', db.branch, { list: list(Branch) }),
    crew: collection('/companies/{company}/branches/{branchNumber}/pilots', db.pilot, {
      under: 'branch',
      list: list(Pilot),
      read: Pilot,
      create: { takes: CrewIn, returns: Pilot },
      remove: true,
    }),
    watches: collection('/watches', db.watch, { list: list(Watch) }),
  },
});

everyPlace('links over other columns', KEPT, (place) => {
  const ask: ReturnType<typeof asking> = (...asked) => asking(office, place().stores[0])(...asked);

  const anouk = {
    name: 'Anouk',
    locker: { code: 'L1' },
    branch: 'West',
    watches: [
      { hours: 4, pilot: 'Anouk', locker: null },
      { hours: 1, pilot: 'Anouk', locker: 'L1' },
    ],
    many: 2,
  };
  const bo = { name: 'Bo', locker: null, branch: 'East', watches: [], many: 0 };

  it('lead to a row that may be missing, to unique columns, and by pairs in any order', async () => {
    expect(await ask('GET', '/pilots')).to.deep.equal([200, [anouk, bo]]);
    expect(await ask('GET', '/branches')).to.deep.equal([
      200,
      [
        { name: 'East', pilots: 1 },
        { name: 'West', pilots: 1 },
      ],
    ]);
    expect(await ask('GET', '/watches')).to.deep.equal([200, anouk.watches]);
    expect(await ask('GET', '/pilots?locker=L1&branch=West')).to.deep.equal([200, [anouk]]);
    expect(await ask('GET', '/pilots?sort=locker.code')).to.deep.equal([200, [anouk, bo]]);
  });

  it('lead to a parent of several columns, in the path of a child collection', async () => {
    expect(await ask('GET', '/companies/1/branches/2/pilots')).to.deep.equal([200, [anouk]]);
    expect(await ask('GET', '/companies/2/branches/1/pilots/2')).to.deep.equal([200, bo]);
    expect((await ask('GET', '/companies/1/branches/2/pilots/2'))[0]).to.equal(404);
    expect((await ask('GET', '/companies/2/branches/2/pilots'))[0]).to.equal(404);
    expect((await ask('GET', '/companies/x/branches/2/pilots'))[0]).to.equal(404);
    const [made, row] = await ask('POST', '/companies/2/branches/1/pilots', { id: 6, name: 'Fen' });
    expect([made, (row as { branch: string }).branch]).to.deep.equal([201, 'East']);
    expect((await ask('DELETE', '/companies/1/branches/2/pilots/6'))[0]).to.equal(404);
    expect((await ask('DELETE', '/companies/2/branches/1/pilots/6'))[0]).to.equal(204);
  });

  it('take a row with the one that holds its key, and make that where it is not there', async () => {
    const cai = { id: 3, name: 'Cai', company: 1, branchNumber: 2 };
    const [made, row] = await ask('POST', '/pilots', { ...cai, locker: { code: 'L3' } });
    expect([made, row]).to.deep.equal([
      201,
      { name: 'Cai', locker: { code: 'L3' }, branch: 'West', watches: [], many: 0 },
    ]);
    const none = await ask('POST', '/pilots', { ...cai, id: 4 });
    expect(none).to.deep.equal([201, { ...(row as object), locker: null }]);
    expect(await ask('PATCH', '/pilots/4', { locker: { code: 'L4' } })).to.deep.equal([
      200,
      { ...(row as object), locker: { code: 'L4' } },
    ]);
    expect(await ask('PATCH', '/pilots/4', { locker: { code: 'L5' } })).to.deep.equal([
      200,
      { ...(row as object), locker: { code: 'L5' } },
    ]);
    const [missing] = await ask('POST', '/pilots', { ...cai, id: 5, branchNumber: 9 });
    expect(missing).to.equal(409);
    const [needed] = await ask('DELETE', '/pilots/4');
    expect(needed).to.equal(409);
    const [removed] = await ask('DELETE', '/pilots/2');
    expect(removed).to.equal(204);
  });
});
