import { amending, asNumber, given, input, integer, optional, preset, text, values } from 'gribo';
import { db } from './model.js';
import { editionBefore, editionFrom } from './names.js';

/** What a vessel is entered with. Its IMO number is set once. */
export const NewVessel = input(
  db.vessel,
  (v) => ({
    imoNumber: v.imoNumber,
    name: v.name,
    callSign: optional(v.callSign),
    kind: v.kind,
    flag: v.flagState,
    builtYear: v.builtYear,
    size: { length: v.lengthM, draught: v.draughtM, tonnage: v.grossTonnage },
    operator: { id: v.operatorId },
    masterPhone: optional(v.masterPhone),
    notes: optional(v.notes),
  }),
  { name: 'NewVessel' },
);

export const EditVessel = amending(NewVessel, ({ imoNumber, ...rest }) => rest, { name: 'EditVessel' });

/** Everything about a vessel anew, but for what is set once. */
export const ReplaceVessel = input(
  db.vessel,
  (v) => ({
    name: v.name,
    callSign: v.callSign,
    kind: v.kind,
    flag: v.flagState,
    builtYear: v.builtYear,
    size: { length: v.lengthM, draught: v.draughtM, tonnage: v.grossTonnage },
    operator: { id: v.operatorId },
    masterPhone: v.masterPhone,
    notes: v.notes,
  }),
  { name: 'ReplaceVessel' },
);

export const NewCargo = input(
  db.cargoItem,
  (c) => ({
    commodity: c.commodity,
    weightKg: asNumber(c.weightKg),
    hazardClass: optional(c.hazardClass),
    consignee: c.consignee,
  }),
  { name: 'NewCargo' },
);

/** Where a vessel was seen: these come by the many. */
export const NewPosition = input(
  db.positionReport,
  (p) => ({
    vesselId: p.vesselId,
    at: p.at,
    lat: p.lat,
    lon: p.lon,
    speedKn: p.speedKn,
    raw: optional(p.raw),
  }),
  { name: 'NewPosition' },
);

/** A port call is announced with its cargo. */
export const NewPortCall = input(
  db.portCall,
  (c) => ({
    id: c.id,
    vessel: { id: c.vesselId },
    berth: optional({ id: c.berthId }),
    status: preset(c.status, 'announced'),
    eta: c.eta,
    etd: optional(c.etd),
    // Whoever announces a call has to say it since; before, nothing said meant no.
    hazardous: given(editionFrom('2026-05'), c.hazardous, preset(c.hazardous, false)),
    // It comes in as it goes out since.
    hazardDetail: given(editionBefore('2026-02'), optional(c.hazardDetail)),
    hazard: given(editionFrom('2026-02'), optional({ detail: c.hazardDetail })),
    dues: preset(c.dues, '0.00'),
    remarks: optional(c.remarks),
    embargoUntil: optional(c.embargoUntil),
    cargo: preset(NewCargo(c.cargo), []),
  }),
  { name: 'NewPortCall' },
);

export const EditPortCall = amending(NewPortCall, ({ id, vessel, ...rest }) => rest, {
  name: 'EditPortCall',
});

/** Everything about a port call anew, but for whose it is. */
export const ReplacePortCall = input(
  db.portCall,
  (c) => ({
    berth: { id: c.berthId },
    status: c.status,
    eta: c.eta,
    etd: c.etd,
    hazardous: c.hazardous,
    hazardDetail: given(editionBefore('2026-02'), c.hazardDetail),
    hazard: given(editionFrom('2026-02'), { detail: c.hazardDetail }),
    dues: c.dues,
    remarks: c.remarks,
    embargoUntil: c.embargoUntil,
    cargo: NewCargo(c.cargo),
  }),
  { name: 'ReplacePortCall' },
);

/** Why a call is cancelled. */
export const Cancellation = values({ reason: text({ min: 3, max: 200 }) }, { name: 'Cancellation' });

/** Which berth is kept for a call, and who brings the vessel in. */
export const Reservation = values(
  { berth: integer().about('The berth’s number.'), pilot: optional(integer()) },
  { name: 'Reservation' },
);
