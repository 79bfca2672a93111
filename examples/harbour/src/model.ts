import {
  bigint,
  bool,
  bytes,
  date,
  decimal,
  entity,
  integer,
  type Model,
  type ModelOf,
  model,
  oneOf,
  real,
  type StampGiven,
  text,
  timestamp,
  toMany,
  toOne,
  uuid,
} from 'gribo';

/** Who changes a row, and when: kept by the changes themselves. */
const user = ({ caller }: StampGiven): string => caller['user'] as string;
const moment = ({ now }: StampGiven): Date => now;

const operator = entity('operator', {
  id: integer().key().generated(),
  name: text({ min: 1, max: 80 }),
  country: text({ pattern: /^[A-Z]{2}$/ }),
  phone: text({ max: 30 }).nullable().sealed('personal'),
  email: text({ max: 120 }).nullable().sealed('personal'),
  creditNote: text({ max: 400 }).nullable().sealed('finance'),
  parentId: integer().nullable(),
  createdAt: timestamp().generated(),
  updatedAt: timestamp().generated(),
});

const vessel = entity('vessel', {
  id: integer().key().generated(),
  imoNumber: text({ pattern: /^\d{7}$/ }).unique(),
  name: text({ min: 1, max: 60 }),
  callSign: text({ max: 8 }).nullable(),
  kind: oneOf('bulk', 'tanker', 'ferry', 'fishing', 'yacht', 'tug'),
  flagState: text({ pattern: /^[A-Z]{2}$/ }),
  builtYear: integer({ min: 1850, max: 2100 }),
  grossTonnage: decimal(10, 1),
  lengthM: real({ min: 1, max: 500 }),
  draughtM: real({ min: 0, max: 30 }),
  operatorId: integer().nullable(),
  masterPhone: text({ max: 30 }).nullable().sealed('personal'),
  notes: text().nullable(),
  createdAt: timestamp().generated(),
  updatedAt: timestamp().generated().stamped('change', moment),
  changedBy: text({ max: 40 }).nullable().stamped('change', user),
});

const photo = entity('photo', {
  vesselId: integer().key(),
  image: bytes({ max: 200_000 }),
  mediaType: oneOf('image/png', 'image/jpeg'),
});

const quay = entity('quay', {
  id: integer().key().generated(),
  name: text({ min: 1, max: 60 }),
  parentId: integer().nullable(),
});

const berth = entity('berth', {
  id: integer().key().generated(),
  code: text({ pattern: /^[A-Z]\d{1,2}$/ }).unique(),
  name: text({ min: 1, max: 60 }),
  quayId: integer(),
  maxDraughtM: real({ min: 0, max: 30 }),
  maxLengthM: real({ min: 0, max: 500 }),
  gateCode: text({ max: 12 }).sealed('security'),
  description: text(),
  inService: bool(),
});

const pilot = entity('pilot', {
  id: integer().key().generated(),
  firstName: text({ min: 1, max: 40 }),
  lastName: text({ min: 1, max: 40 }),
  licence: oneOf('A', 'B', 'C'),
  phone: text({ max: 30 }).sealed('personal'),
  medicalUntil: date().sealed('medical'),
});

const portCall = entity('portCall', {
  id: uuid().key(),
  vesselId: integer(),
  berthId: integer().nullable(),
  status: oneOf('announced', 'confirmed', 'berthed', 'sailed', 'cancelled'),
  eta: timestamp(),
  etd: timestamp().nullable(),
  arrivedAt: timestamp().nullable(),
  hazardous: bool(),
  hazardDetail: text({ max: 400 }).nullable(),
  dues: decimal(12, 2),
  remarks: text().nullable(),
  embargoUntil: timestamp().nullable(),
  createdAt: timestamp().generated(),
  updatedAt: timestamp().generated().stamped('change', moment),
  changedBy: text({ max: 40 }).nullable().stamped('change', user),
});

const cargoItem = entity('cargoItem', {
  id: integer().key().generated(),
  portCallId: uuid(),
  commodity: text({ min: 1, max: 60 }),
  weightKg: bigint({ min: 0n }),
  hazardClass: text({ max: 8 }).nullable(),
  consignee: text({ max: 80 }).sealed('commercial'),
});

const pilotage = entity('pilotage', {
  portCallId: uuid().key(),
  pilotId: integer().key(),
  boardedAt: timestamp(),
});

const positionReport = entity('positionReport', {
  id: bigint().key().generated(),
  vesselId: integer(),
  at: timestamp(),
  lat: real({ min: -90, max: 90 }),
  lon: real({ min: -180, max: 180 }),
  speedKn: real({ min: 0, max: 60 }),
  raw: bytes({ max: 64 }).nullable(),
});

/** The entities of the Merrow Harbour Office and their links. */
const harbour = model(
  { operator, vessel, photo, quay, berth, pilot, portCall, cargoItem, pilotage, positionReport },
  {
    operator: { parent: toOne('operator', 'parentId'), vessels: toMany('vessel', 'operatorId') },
    vessel: {
      operator: toOne('operator', 'operatorId'),
      portCalls: toMany('portCall', 'vesselId'),
      positions: toMany('positionReport', 'vesselId'),
    },
    photo: { vessel: toOne('vessel', 'vesselId') },
    quay: {
      parent: toOne('quay', 'parentId'),
      parts: toMany('quay', 'parentId'),
      berths: toMany('berth', 'quayId'),
    },
    berth: { quay: toOne('quay', 'quayId'), portCalls: toMany('portCall', 'berthId') },
    portCall: {
      vessel: toOne('vessel', 'vesselId'),
      berth: toOne('berth', 'berthId'),
      cargo: toMany('cargoItem', 'portCallId'),
      pilots: toMany('pilot', { through: 'pilotage', from: 'portCallId', to: 'pilotId' }),
    },
    cargoItem: { portCall: toOne('portCall', 'portCallId') },
    pilot: { portCalls: toMany('portCall', { through: 'pilotage', from: 'pilotId', to: 'portCallId' }) },
    pilotage: { portCall: toOne('portCall', 'portCallId'), pilot: toOne('pilot', 'pilotId') },
    positionReport: { vessel: toOne('vessel', 'vesselId') },
  },
);

/** The model's name, as types and messages say it. */
export interface Harbour extends ModelOf<typeof harbour> {}

export const db: Model<Harbour> = harbour;
