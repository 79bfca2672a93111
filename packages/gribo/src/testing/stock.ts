import {
  bigint,
  bool,
  bytes,
  date,
  decimal,
  entity,
  integer,
  json,
  model,
  oneOf,
  real,
  text,
  time,
  timestamp,
  toMany,
  toOne,
  uuid,
} from '../index.js';

/** A model with every type of column and every kind of link, for what all stores must do. */
export const stock = model(
  {
    operator: entity('operator', {
      id: integer().key().generated(),
      name: text({ max: 80 }).unique(),
      parentId: integer().nullable(),
    }),
    vessel: entity('vessel', {
      id: integer().key().generated(),
      name: text({ max: 60 }),
      callSign: text({ max: 40 }).nullable(),
      kind: oneOf('bulk', 'tanker', 'tug'),
      builtYear: integer(),
      tonnage: decimal(10, 1),
      draught: real(),
      active: bool(),
      weight: bigint(),
      registered: date().nullable(),
      opens: time().nullable(),
      surveyedAt: timestamp().nullable(),
      details: json<unknown>().nullable(),
      photo: bytes({ max: 64 }).nullable(),
      operatorId: integer().nullable(),
    }),
    portCall: entity('portCall', {
      id: uuid().key(),
      vesselId: integer(),
      eta: timestamp(),
      status: oneOf('announced', 'berthed', 'sailed'),
      remarks: text({ max: 200 }).nullable(),
    }),
    pilot: entity('pilot', { id: integer().key().generated(), name: text({ max: 40 }) }),
    pilotage: entity('pilotage', { portCallId: uuid().key(), pilotId: integer().key() }),
  },
  {
    operator: { parent: toOne('operator', 'parentId'), vessels: toMany('vessel', 'operatorId') },
    vessel: { operator: toOne('operator', 'operatorId'), portCalls: toMany('portCall', 'vesselId') },
    portCall: {
      vessel: toOne('vessel', 'vesselId'),
      pilots: toMany('pilot', { through: 'pilotage', from: 'portCallId', to: 'pilotId' }),
    },
    pilot: { calls: toMany('portCall', { through: 'pilotage', from: 'pilotId', to: 'portCallId' }) },
    pilotage: { portCall: toOne('portCall', 'portCallId'), pilot: toOne('pilot', 'pilotId') },
  },
);

const vessel = (id: number, values: object): object => ({
  id,
  name: `Vessel ${id}`,
  callSign: null,
  kind: 'bulk',
  builtYear: 1980 + id,
  tonnage: `${id}00.5`,
  draught: id + 0.25,
  active: id % 2 === 0,
  weight: BigInt(id) * 1000n,
  registered: null,
  opens: null,
  surveyedAt: null,
  details: null,
  photo: null,
  operatorId: null,
  ...values,
});

const callId = (last: number): string => `00000000-0000-4000-8000-${String(last).padStart(12, '0')}`;

const call = (last: number, vesselId: number, day: string, status: string): object => ({
  id: callId(last),
  vesselId,
  eta: new Date(`${day}T06:00:00.000Z`),
  status,
  remarks: null,
});

/** Rows by entity, in an order in which they can be inserted. */
export const stockRows: Readonly<Record<string, readonly object[]>> = {
  operator: [
    { id: 1, name: 'Lantern Bay', parentId: null },
    { id: 2, name: 'Lantern Bay Lines', parentId: 1 },
    { id: 3, name: 'Ostwick', parentId: null },
  ],
  vessel: [
    vessel(1, { name: 'Anselma', callSign: 'MR1', kind: 'tanker', operatorId: 2 }),
    vessel(2, { name: 'Borrowed Light', operatorId: 1 }),
    vessel(3, {
      name: '100% "Tern"_\\ O\'Hara 青波 🚢\n',
      callSign: '',
      registered: '1969-07-20',
      opens: '06:30:00',
      surveyedAt: new Date('1965-02-03T04:05:06.789Z'),
      details: { colours: ['red', null], depth: 1.5, note: "it's" },
      photo: Uint8Array.of(0, 255, 10, 39, 92),
      weight: 9_007_199_254_740_993n,
      tonnage: '12345678.0',
      draught: 0.1,
      operatorId: 3,
    }),
    vessel(4, { name: 'Dunlin', callSign: 'MR4', builtYear: 1982 }),
    vessel(5, { name: 'Evening Tern', callSign: 'MR0', kind: 'tug', operatorId: 2 }),
  ],
  portCall: [
    call(1, 1, '2026-03-01', 'sailed'),
    call(2, 1, '2026-05-01', 'berthed'),
    call(3, 1, '2026-04-01', 'berthed'),
    call(4, 2, '2026-06-01', 'announced'),
  ],
  pilot: [
    { id: 1, name: 'Ines' },
    { id: 2, name: 'Tomas' },
  ],
  pilotage: [
    { portCallId: callId(2), pilotId: 2 },
    { portCallId: callId(2), pilotId: 1 },
    { portCallId: callId(3), pilotId: 1 },
  ],
};

export { callId };
