import {
  decimal,
  entity,
  integer,
  type Model,
  type ModelOf,
  model,
  oneOf,
  text,
  timestamp,
  toMany,
  toOne,
  uuid,
} from 'gribo';

const operator = entity('operator', {
  id: integer().key().generated(),
  name: text({ min: 1, max: 80 }),
  phone: text().nullable().sealed('personal'),
  parentId: integer().nullable(),
});

const vessel = entity('vessel', {
  id: integer().key().generated(),
  name: text({ min: 1, max: 60 }),
  callSign: text({ max: 8 }).nullable(),
  kind: oneOf('bulk', 'tanker', 'tug'),
  builtYear: integer({ min: 1850, max: 2100 }),
  tonnage: decimal(10, 1),
  notes: text().nullable(),
  masterPhone: text().sealed('personal'),
  operatorId: integer().nullable(),
});

const portCall = entity('portCall', {
  id: uuid().key(),
  vesselId: integer(),
  status: oneOf('announced', 'berthed', 'sailed'),
  eta: timestamp(),
  hazard: text().nullable(),
});

const fleet = model(
  { operator, vessel, portCall },
  {
    operator: { parent: toOne('operator', 'parentId'), vessels: toMany('vessel', 'operatorId') },
    vessel: { operator: toOne('operator', 'operatorId'), portCalls: toMany('portCall', 'vesselId') },
    portCall: { vessel: toOne('vessel', 'vesselId') },
  },
);

export interface Fleet extends ModelOf<typeof fleet> {}

export const db: Model<Fleet> = fleet;

/** A vessel as a database hands it over, with what is behind its links. */
export const row = {
  id: 1,
  name: 'Anselma',
  callSign: null,
  kind: 'tanker',
  builtYear: 1990,
  tonnage: '25814.60',
  notes: 'Tug requested; agent informed by radio.',
  masterPhone: '+00 555 542 6733',
  operatorId: 3,
  operator: { id: 3, name: 'Lantern Bay', phone: '+00 555 000 1147', parentId: null, parent: null },
  portCalls: [
    {
      id: '08fd833e-eca9-4202-9c78-bbb8121c8ca2',
      vesselId: 1,
      status: 'sailed',
      eta: new Date('2026-04-30T21:00:00Z'),
      hazard: null,
    },
    {
      id: 'b3040ecb-b982-49f6-8980-527bd42bc15a',
      vesselId: 1,
      status: 'berthed',
      eta: new Date('2026-07-08T00:00:00Z'),
      hazard: 'Class 3',
    },
  ],
};
