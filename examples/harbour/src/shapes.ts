import {
  all,
  any,
  asNumber,
  atMost,
  constant,
  count,
  dateOnly,
  derive,
  equals,
  fileOf,
  first,
  given,
  integer,
  isNull,
  labelled,
  list,
  masked,
  now,
  oneOfThese,
  recursive,
  rounded,
  shape,
  shorten,
  some,
  text,
  unlessNull,
  type Value,
} from 'gribo';
import { ageOf, fullName } from './functions.js';
import { db } from './model.js';
import { asked, at, audience, editionBefore, editionFrom, unseal } from './names.js';

export const OperatorBrief = shape(db.operator, ({ id, name, country }) => ({ id, name, country }), {
  name: 'OperatorBrief',
});

export const OperatorDetail = shape(
  db.operator,
  (o) => ({
    ...OperatorBrief(o),
    group: o.parent.parent.name,
    phone: masked(o.phone, { showLast: 2 }),
    email: unseal('harbourMaster', o.email),
    fleet: count(o.vessels),
  }),
  { name: 'OperatorDetail' },
);

export const CargoLine = shape(
  db.cargoItem,
  (c) => ({
    id: c.id,
    commodity: c.commodity,
    weightKg: c.weightKg,
    hazardClass: unlessNull(c.hazardClass),
  }),
  { name: 'CargoLine' },
);

export const PilotName = shape(
  db.pilot,
  (p) => ({
    id: p.id,
    name: derive([p.firstName, p.lastName], text(), fullName),
  }),
  { name: 'PilotName' },
);

/** Before its embargo is over, when and where a call is planned is for agents and the office only. */
const isPublic = (embargoUntil: Value<Date | null, unknown>) =>
  any(audience('agent', 'harbourMaster'), isNull(embargoUntil), atMost(embargoUntil, now));

export const PortCallLine = shape(
  db.portCall,
  (c) => ({
    id: c.id,
    status: c.status,
    eta: given(isPublic(c.embargoUntil), c.eta),
    berth: given(isPublic(c.embargoUntil), c.berth.code),
  }),
  { name: 'PortCallLine' },
);

export const VesselName = shape(db.vessel, ({ id, name }) => ({ id, name }), { name: 'VesselName' });

/** A port call in the list of all: whose it is, too. */
export const Arrival = shape(db.portCall, (c) => ({ ...PortCallLine(c), vessel: VesselName(c.vessel) }), {
  name: 'Arrival',
});

/** A number at first, and money since: what it is in is said. */
const duesOf = (dues: Value<string, string>) =>
  given(editionFrom('2026-05'), { amount: asNumber(dues), currency: constant('MQC') }, asNumber(dues));

export const PortCallDetail = shape(
  db.portCall,
  (c) => ({
    ...PortCallLine(c),
    vessel: VesselName(c.vessel),
    etd: given(isPublic(c.embargoUntil), c.etd),
    arrivedAt: unlessNull(c.arrivedAt),
    dues: given(audience('agent', 'harbourMaster'), duesOf(c.dues)),
    remarks: given(audience('agent', 'harbourMaster'), c.remarks),
    hazard: given(all(audience('agent', 'harbourMaster'), equals(c.hazardous, true)), {
      detail: c.hazardDetail,
    }),
    cargo: given(asked('cargo'), CargoLine(c.cargo)),
    pilots: given(audience('harbourMaster'), PilotName(c.pilots)),
    changed: given(audience('harbourMaster'), { at: c.updatedAt, by: c.changedBy }),
  }),
  { name: 'PortCallDetail' },
);

/** A vessel in a list: flat, short, nothing to look up. */
export const VesselCard = shape(
  db.vessel,
  (v) => ({
    id: v.id,
    name: v.name,
    callSign: v.callSign,
    kind: v.kind,
    flag: v.flagState,
    operatorName: v.operator.name,
    operator: given(asked('operator'), OperatorBrief(v.operator)),
  }),
  { name: 'VesselCard' },
);

/** One vessel, with what belongs to it. */
export const VesselDetail = shape(
  db.vessel,
  (v) => ({
    ...VesselCard(v),
    imoNumber: v.imoNumber,
    builtYear: v.builtYear,
    age: derive([v.builtYear], integer(), ageOf),
    size: { length: v.lengthM, draught: rounded(v.draughtM, 1), tonnage: v.grossTonnage },
    operator: OperatorBrief(v.operator),
    portCalls: PortCallLine(some(v.portCalls, { sort: ['eta desc'], limit: 3 })),
    expected: first(
      some(v.portCalls, { where: (c) => [oneOfThese(c.status, ['announced', 'confirmed'])], sort: ['eta'] }),
      PortCallLine,
    ),
    masterPhone: unseal('harbourMaster', v.masterPhone),
    notes: unlessNull(shorten(v.notes, 90)),
    // A rename: whoever asks in the first edition reads it as it was.
    enteredOn: given(editionBefore('2026-02'), dateOnly(v.createdAt)),
    registeredOn: given(editionFrom('2026-02'), dateOnly(v.createdAt)),
  }),
  { name: 'VesselDetail' },
);

const QuayName = shape(db.quay, ({ id, name }) => ({ id, name }), { name: 'QuayName' });

/** One shape for three endpoints: `berths.list`, `berths.read` and `berths.options`. */
export const Berth = shape(
  db.berth,
  (b) => ({
    id: b.id,
    code: b.code,
    name: b.name,
    quay: at({ list: b.quay.name, read: QuayName(b.quay) }),
    maxDraught: at({ list: b.maxDraughtM, read: b.maxDraughtM }),
    maxLength: at({ read: b.maxLengthM }),
    inService: at({ list: b.inService, read: b.inService }),
    description: at({ list: shorten(b.description, 40), read: b.description }),
    gateCode: at({ read: unseal('harbourMaster', b.gateCode) }),
    calls: at({ read: given(audience('agent', 'harbourMaster'), count(b.portCalls)) }),
  }),
  { name: 'Berth' },
);

export const PilotLine = shape(
  db.pilot,
  (p) => ({
    ...PilotName(p),
    licence: labelled(p.licence, { A: 'any vessel', B: 'up to 180 m', C: 'up to 90 m' }),
  }),
  { name: 'PilotLine' },
);

/** A quay with its parts, and their parts. */
export const QuayTree = recursive(db.quay, { depth: 3, name: 'QuayTree' }, (q, self) => ({
  id: q.id,
  name: q.name,
  berths: count(q.berths),
  parts: self(q.parts),
}));

export const PositionLine = shape(
  db.positionReport,
  ({ id, at, lat, lon, speedKn, raw }) => ({ id, at, lat, lon, speedKn, raw }),
  { name: 'PositionLine' },
);

export const VesselCards = list(VesselCard);

/** The photograph of a vessel, as a file. */
export const Photo = fileOf(db.photo, (p) => ({ bytes: p.image, type: p.mediaType }), { name: 'Photo' });
