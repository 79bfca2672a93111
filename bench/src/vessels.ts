import { bool, entity, integer, list, model, real, shape, text, timestamp, toMany, toOne } from 'gribo';

interface Operator {
  readonly id: number;
  readonly name: string;
  readonly phone: string;
}

interface PortCall {
  readonly id: number;
  readonly vesselId: number;
  readonly eta: Date;
  readonly berth: string;
  readonly remarks: string | null;
  readonly internal: string;
}

export interface Vessel {
  readonly id: number;
  readonly name: string;
  readonly callSign: string | null;
  readonly imoNumber: string;
  readonly builtYear: number;
  readonly grossTonnage: number;
  readonly active: boolean;
  readonly registeredAt: Date;
  readonly masterPhone: string;
  readonly notes: string;
  readonly operatorId: number | null;
  readonly operator: Operator | null;
  readonly portCalls: readonly PortCall[];
}

const words = 'north quay pilot boarded late swell from west, tug requested, agent informed by radio'.split(
  ' ',
);
const prose = (many: number, seed: number): string =>
  Array.from({ length: many }, (_, k) => words[(seed * 7 + k * 3) % words.length]).join(' ');

/** Vessels with an operator and three port calls each, as a database hands them over. */
export const vesselRows = (many: number): Vessel[] => {
  const operators = Array.from({ length: 40 }, (_, id) => ({
    id,
    name: `Operator ${id}`,
    phone: `+00 ${id}`,
  }));
  return Array.from({ length: many }, (_, i): Vessel => {
    const operator = i % 7 === 0 ? null : (operators[i % 40] ?? null);
    return {
      id: i + 1,
      name: `Vessel ${i}`,
      callSign: i % 5 === 0 ? null : `XQ${i}`,
      imoNumber: `90${10000 + i}`,
      builtYear: 1970 + (i % 55),
      grossTonnage: 12345.5 + i,
      active: i % 3 === 0,
      registeredAt: new Date(1.6e12 + i * 86_400_000),
      masterPhone: 'x'.repeat(40),
      notes: prose(12, i),
      operatorId: operator?.id ?? null,
      operator,
      portCalls: Array.from({ length: 3 }, (__, k) => ({
        id: i * 10 + k,
        vesselId: i + 1,
        eta: new Date(1.7e12 + k * 3_600_000),
        berth: `B${k}`,
        remarks: k === 0 ? null : prose(6, i + k),
        internal: 'zz',
      })),
    };
  });
};

export const db = model(
  {
    operator: entity('operator', { id: integer().key(), name: text(), phone: text().sealed('personal') }),
    vessel: entity('vessel', {
      id: integer().key(),
      name: text(),
      callSign: text().nullable(),
      imoNumber: text(),
      builtYear: integer(),
      grossTonnage: real(),
      active: bool(),
      registeredAt: timestamp(),
      masterPhone: text().sealed('personal'),
      notes: text(),
      operatorId: integer().nullable(),
    }),
    portCall: entity('portCall', {
      id: integer().key(),
      vesselId: integer(),
      eta: timestamp(),
      berth: text(),
      remarks: text().nullable(),
      internal: text(),
    }),
  },
  {
    vessel: { operator: toOne('operator', 'operatorId'), portCalls: toMany('portCall', 'vesselId') },
  },
);

const OperatorBrief = shape(db.operator, (o) => ({ id: o.id, name: o.name }));
const PortCallLine = shape(db.portCall, ({ id, eta, berth, remarks }) => ({ id, eta, berth, remarks }));

export const VesselDetail = shape(db.vessel, (v) => ({
  id: v.id,
  name: v.name,
  callSign: v.callSign,
  imoNumber: v.imoNumber,
  builtYear: v.builtYear,
  grossTonnage: v.grossTonnage,
  active: v.active,
  registeredAt: v.registeredAt,
  notes: v.notes,
  operatorName: v.operator.name,
  operator: OperatorBrief(v.operator),
  portCalls: PortCallLine(v.portCalls),
}));

export const VesselList = list(VesselDetail);

/** The same by hand, as it is written today. */
export const mappedByHand = (v: Vessel): object => ({
  id: v.id,
  name: v.name,
  callSign: v.callSign,
  imoNumber: v.imoNumber,
  builtYear: v.builtYear,
  grossTonnage: v.grossTonnage,
  active: v.active,
  registeredAt: v.registeredAt,
  notes: v.notes,
  operatorName: v.operator?.name ?? null,
  operator: v.operator ? { id: v.operator.id, name: v.operator.name } : null,
  portCalls: v.portCalls.map((c) => ({ id: c.id, eta: c.eta, berth: c.berth, remarks: c.remarks })),
});
