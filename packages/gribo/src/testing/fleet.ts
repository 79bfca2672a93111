import { bool, decimal, entity, integer, model, oneOf, text, timestamp, toMany, toOne } from '../index.js';

/** A small model that most tests are about. */
export const fleet = model(
  {
    operator: entity('operator', {
      id: integer().key(),
      name: text(),
      phone: text().nullable().sealed('personal'),
      parentId: integer().nullable(),
    }),
    vessel: entity('vessel', {
      id: integer().key(),
      name: text(),
      callSign: text().nullable(),
      kind: oneOf('bulk', 'tanker', 'tug'),
      builtYear: integer(),
      tonnage: decimal(10, 1),
      active: bool(),
      operatorId: integer().nullable(),
      masterPhone: text().sealed('personal'),
    }),
    portCall: entity('portCall', {
      id: integer().key(),
      vesselId: integer(),
      eta: timestamp(),
      status: oneOf('announced', 'berthed', 'sailed'),
      remarks: text().nullable(),
    }),
    pilot: entity('pilot', { id: integer().key(), name: text() }),
    pilotage: entity('pilotage', { portCallId: integer().key(), pilotId: integer().key() }),
  },
  {
    operator: { parent: toOne('operator', 'parentId'), vessels: toMany('vessel', 'operatorId') },
    vessel: { operator: toOne('operator', 'operatorId'), portCalls: toMany('portCall', 'vesselId') },
    portCall: {
      vessel: toOne('vessel', 'vesselId'),
      pilots: toMany('pilot', { through: 'pilotage', from: 'portCallId', to: 'pilotId' }),
    },
  },
);

export const operatorRow = {
  id: 3,
  name: 'Lantern Bay',
  phone: '+00 555 123 4567',
  parentId: null,
  parent: null,
};

const call = (id: number, day: string, status: string, remarks: string | null = null) => ({
  id,
  vesselId: 1,
  eta: new Date(`${day}T06:00:00Z`),
  status,
  remarks,
  pilots: [],
});

export const vesselRow = {
  id: 1,
  name: 'Anselma',
  callSign: 'QA1',
  kind: 'tanker',
  builtYear: 1990,
  tonnage: '12345.50',
  active: true,
  operatorId: 3,
  masterPhone: '+00 555 765 4321',
  operator: operatorRow,
  portCalls: [
    call(11, '2026-03-01', 'sailed', 'Late swell.'),
    call(12, '2026-05-01', 'berthed'),
    call(13, '2026-04-01', 'berthed', 'Agent informed.'),
  ],
};

/** A vessel without an operator, a call sign or a port call. */
export const bareVesselRow = {
  ...vesselRow,
  id: 2,
  callSign: null,
  operatorId: null,
  operator: null,
  portCalls: [],
};
