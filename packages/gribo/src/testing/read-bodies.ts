import { expect } from 'chai';
import {
  type AnyColumn,
  amending,
  entity,
  type Issue,
  input,
  integer,
  model,
  oneOf,
  optional,
  preset,
  type ReaderPolicies,
  reader,
  text,
  timestamp,
  toMany,
  toOne,
} from '../index.js';

// biome-ignore lint/suspicious/noExplicitAny: wrong bodies and declarations are the point
export type Any = any;

export const db = model(
  {
    operator: entity('operator', {
      id: integer().key().generated(),
      name: text({ min: 1, max: 20 }),
      phone: text().nullable().sealed('personal'),
    }),
    vessel: entity('vessel', {
      id: integer().key().generated(),
      imoNumber: text({ pattern: /^\d{7}$/ }),
      name: text({ min: 1, max: 10 }),
      callSign: text().nullable(),
      kind: oneOf('bulk', 'tanker'),
      builtYear: integer({ min: 1850, max: 2100 }),
      operatorId: integer().nullable(),
      flag: text().nullable(),
      createdAt: timestamp().generated(),
    }),
    portCall: entity('portCall', {
      id: integer().key().generated(),
      vesselId: integer(),
      eta: timestamp(),
      note: text().nullable(),
    }),
  },
  { vessel: { portCalls: toMany('portCall', 'vesselId'), operator: toOne('operator', 'operatorId') } },
);

export const NewCall = input(db.portCall, (c) => ({ eta: c.eta, note: optional(c.note) }), {
  name: 'NewCall',
});
export const NewVessel = input(
  db.vessel,
  (v) => ({
    imo: v.imoNumber,
    name: v.name,
    sign: optional(v.callSign),
    kind: v.kind,
    operator: { id: v.operatorId },
    built: preset(v.builtYear, 2000),
    more: optional({ flag: v.flag }),
    calls: optional(NewCall(v.portCalls)),
  }),
  { name: 'NewVessel' },
);
export const EditVessel = amending(NewVessel, ({ imo, calls, ...rest }) => rest);

export const good = { imo: '9100274', name: 'Anselma', kind: 'bulk', operator: { id: 3 } };

export const read = (body: unknown, policies: ReaderPolicies = {}, of: Any = NewVessel): unknown => {
  const parsed = reader(of, policies).object(body);
  const fromText = reader(of, policies).json(JSON.stringify(body));
  expect(fromText, 'json and object').to.deep.equal(parsed);
  if (!parsed.ok)
    throw new Error(
      parsed.issues.map(({ pointer, code, message }) => `${pointer} ${code}: ${message}`).join('\n'),
    );
  return parsed.value;
};

export const issues = (body: unknown, policies: ReaderPolicies = {}, of: Any = NewVessel): string[] => {
  try {
    read(body, policies, of);
    return [];
  } catch (error) {
    return (error as Error).message.split('\n');
  }
};

export const issuesOfText = (body: string | Uint8Array, policies: ReaderPolicies = {}): readonly Issue[] => {
  const got = reader(NewVessel, policies).json(body);
  return got.ok ? [] : got.issues;
};

/** An input of one member over a column. */
export const inputOf = (column: AnyColumn, convert: (value: Any) => Any = (value) => value): Any => {
  const one = model({ thing: entity('thing', { id: integer().key().generated(), value: column }) }, {});
  return input(one.thing, (t: Any) => ({ value: convert(t.value) }));
};
