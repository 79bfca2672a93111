import { expect } from 'chai';
import {
  amending,
  api,
  assigned,
  collection,
  entity,
  input,
  integer,
  model,
  optional,
  shape,
  some,
  text,
  toMany,
  toOne,
} from 'gribo';
import { asking, everyPlace, type Kept } from '../testing/every-place.js';

/** A voyage with its legs, which the database numbers; its stops, which are known by their place; and its crew, each in a role. */
const db = model(
  {
    voyage: entity('voyage', { id: integer().key(), name: text() }),
    leg: entity('leg', { id: integer().key().generated(), voyageId: integer(), port: text() }),
    stop: entity('stop', { voyageId: integer().key(), place: integer().key(), port: text() }),
    hand: entity('hand', { id: integer().key(), name: text() }),
    duty: entity('duty', { voyageId: integer().key(), handId: integer().key(), role: text().nullable() }),
  },
  {
    voyage: {
      legs: toMany('leg', 'voyageId'),
      stops: toMany('stop', 'voyageId'),
      hands: toMany('hand', { through: 'duty', from: 'voyageId', to: 'handId' }),
      duties: toMany('duty', 'voyageId'),
    },
    leg: { voyage: toOne('voyage', 'voyageId') },
  },
);

const Leg = shape(db.leg, ({ id, port }) => ({ id, port }));
const Stop = shape(db.stop, ({ place, port }) => ({ place, port }));
const Duty = shape(db.duty, ({ handId, role }) => ({ handId, role }));
const Voyage = shape(db.voyage, (v) => ({
  name: v.name,
  legs: Leg(some(v.legs, { sort: ['id'] })),
  stops: Stop(some(v.stops, { sort: ['place'] })),
  duties: Duty(some(v.duties, { sort: ['handId'] })),
}));
const LegIn = input(
  db.leg,
  (l) => ({ id: optional(assigned(l.id)), port: l.port, voyageId: optional(l.voyageId) }),
  { name: 'LegIn' },
);
const StopIn = input(db.stop, ({ place, port }) => ({ place, port }), { name: 'StopIn' });
const HandIn = input(db.hand, ({ id }) => ({ id }), { name: 'HandIn' });
const VoyageIn = input(db.voyage, (v) => ({
  id: v.id,
  name: v.name,
  legs: optional(LegIn(v.legs)),
  stops: optional(StopIn(v.stops)),
  hands: optional(HandIn(v.hands)),
}));

const office = api({
  title: 'Voyages',
  version: '1.0.0',
  endpoints: {
    voyages: collection('/voyages', db.voyage, {
      read: Voyage,
      create: { takes: VoyageIn, returns: Voyage },
      amend: { takes: amending(VoyageIn, ({ id: _id, ...rest }) => rest), returns: Voyage },
    }),
  },
});

const SERIAL: Readonly<Record<string, string>> = {
  postgres: 'integer generated always as identity primary key',
  mysql: 'integer auto_increment primary key',
  sqlite: 'integer primary key autoincrement',
};

const KEPT: Kept = {
  model: db,
  tables: (dialect) => ({
    voyage: 'id integer primary key, name varchar(20) not null',
    leg: `id ${SERIAL[dialect]}, voyage_id integer not null, port varchar(20) not null, unique (voyage_id, port)`,
    stop: 'voyage_id integer not null, place integer not null, port varchar(20) not null, primary key (voyage_id, place)',
    hand: 'id integer primary key, name varchar(20) not null',
    duty: 'voyage_id integer not null, hand_id integer not null, role varchar(20), primary key (voyage_id, hand_id)',
  }),
  rows: { hand: [1, 2, 3].map((id) => ({ id, name: `H${id}` })) },
};

interface Told {
  readonly legs: readonly { readonly id: number; readonly port: string }[];
  readonly stops: readonly object[];
  readonly duties: readonly object[];
}

everyPlace('nested rows that are known', KEPT, (place) => {
  const ask = async (method: string, path: string, body?: unknown): Promise<readonly [number, Told]> =>
    asking(office, place().stores[0])(method, path, body);

  beforeEach(async () => {
    await ask('POST', '/voyages', {
      id: 1,
      name: 'North',
      legs: [{ port: 'A' }, { port: 'B' }, { port: 'C' }],
      stops: [
        { place: 1, port: 'A' },
        { place: 2, port: 'B' },
      ],
      hands: [{ id: 1 }, { id: 2 }],
    });
    await place().stores[0].amend('duty', [1, 1], { role: 'cook' });
  });

  it('stay where their keys are given: others go, and new ones come', async () => {
    const [, before] = await ask('GET', '/voyages/1');
    const [a, , c] = before.legs;
    const [status, after] = await ask('PATCH', '/voyages/1', {
      legs: [{ id: c?.id, port: 'C2' }, { port: 'D' }, { id: a?.id, port: 'A' }],
      stops: [
        { place: 2, port: 'B2' },
        { place: 3, port: 'C' },
      ],
      hands: [{ id: 1 }, { id: 3 }],
    });
    expect(status).to.equal(200);
    expect(after.legs.slice(0, 2)).to.deep.equal([a, { id: c?.id, port: 'C2' }]);
    expect(after.legs.map(({ port }) => port)).to.deep.equal(['A', 'C2', 'D']);
    expect(after.stops).to.deep.equal([
      { place: 2, port: 'B2' },
      { place: 3, port: 'C' },
    ]);
    // What the row in the middle has of its own stays too.
    expect(after.duties.map((duty) => Object.values(duty).join())).to.deep.equal(['1,cook', '3,']);
  });

  it('stay with their owner, whatever a body says', async () => {
    await ask('POST', '/voyages', { id: 2, name: 'South' });
    const [, { legs }] = await ask('GET', '/voyages/1');
    const moved = [
      { id: legs[0]?.id, port: 'A', voyageId: 2 },
      { port: 'N', voyageId: 2 },
    ];
    const [status, after] = await ask('PATCH', '/voyages/1', { legs: moved });
    expect([status, after.legs.map(({ port }) => port)]).to.deep.equal([200, ['A', 'N']]);
    expect((await ask('GET', '/voyages/2'))[1].legs).to.deep.equal([]);
  });

  it('are named once', async () => {
    const [, { legs }] = await ask('GET', '/voyages/1');
    const [id] = legs.map((leg) => leg.id);
    for (const twice of [
      {
        legs: [
          { id, port: 'X' },
          { id, port: 'Y' },
        ],
      },
      {
        stops: [
          { place: 7, port: 'X' },
          { place: 7, port: 'Y' },
        ],
      },
      { hands: [{ id: 1 }, { id: 1 }] },
    ]) {
      const [status, problem] = await ask('PATCH', '/voyages/1', twice);
      expect(status, JSON.stringify(problem)).to.equal(409);
    }
    expect((await ask('GET', '/voyages/1'))[1].legs).to.deep.equal(legs);
  });

  it('are not taken from another owner, nor made under a key that the database makes', async () => {
    await ask('POST', '/voyages', { id: 2, name: 'South', legs: [{ port: 'Z' }] });
    const [, other] = await ask('GET', '/voyages/2');
    const id = other.legs[0]?.id;
    for (const unknown of [id, 999]) {
      const [status, problem] = await ask('PATCH', '/voyages/1', { legs: [{ id: unknown, port: 'X' }] });
      expect(status, JSON.stringify(problem)).to.equal(409);
    }
    const [, unchanged] = await ask('GET', '/voyages/1');
    expect(unchanged.legs.map(({ port }) => port)).to.deep.equal(['A', 'B', 'C']);
    expect((await ask('GET', '/voyages/2'))[1]).to.deep.equal(other);
    // A caller who chooses a key that only the database makes causes no failure of ours.
    const [made] = await ask('POST', '/voyages', { id: 3, name: 'East', legs: [{ id: 77, port: 'Q' }] });
    expect(made).to.be.below(500);
  });
});
