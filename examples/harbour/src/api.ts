import {
  api,
  atLeast,
  bool,
  collection,
  contains,
  endpoint,
  equals,
  file,
  given,
  list,
  oneOfThese,
  page,
  preset,
  real,
  text,
  values,
} from 'gribo';
import {
  Cancellation,
  EditPortCall,
  EditVessel,
  NewCargo,
  NewPortCall,
  NewPosition,
  NewVessel,
  ReplacePortCall,
  ReplaceVessel,
  Reservation,
} from './inputs.js';
import { db } from './model.js';
import { editionFrom, names } from './names.js';
import { caller, callRows, cargoRows, photoRows, vesselRows } from './rows.js';
import {
  Arrival,
  Berth,
  CargoLine,
  OperatorDetail,
  Photo,
  PilotLine,
  PortCallDetail,
  PositionLine,
  QuayTree,
  VesselCard,
  VesselDetail,
} from './shapes.js';

/** The API of the Merrow Harbour Office, for its three audiences. */
export const harbour = api({
  title: 'Merrow Harbour Office',
  version: '1.0.0',
  editions: [
    { name: '2025-11', deprecated: { since: '2026-05-04', sunset: '2026-12-31' } },
    '2026-02',
    '2026-05',
  ],
  audiences: names.audiences,
  asks: names.asks,
  caller,
  rows: [vesselRows, photoRows, callRows, cargoRows],
  endpoints: {
    vessels: collection('/vessels', db.vessel, {
      list: page(VesselCard, { size: 20, max: 100, sort: ['name', 'id'] }),
      read: VesselDetail,
      create: { takes: NewVessel, returns: VesselDetail },
      replace: { takes: ReplaceVessel, returns: VesselDetail },
      amend: { takes: EditVessel, returns: VesselDetail },
      remove: true,
      audiences: {
        create: ['agent', 'harbourMaster'],
        replace: ['agent', 'harbourMaster'],
        amend: ['agent', 'harbourMaster'],
        remove: ['harbourMaster'],
      },
      filters: (v) => ({ flag: equals(v.flagState), builtAfter: atLeast(v.builtYear), q: contains(v.name) }),
      sort: ['name', 'builtYear'],
      about: {
        list: 'Vessels that have called here, a page at a time.',
        read: 'One vessel, with its operator and its last calls.',
        create: 'Enters a vessel. Its IMO number is set once.',
        amend: 'Changes what is named, and leaves the rest as it is.',
      },
    }),
    'vessels.photo': endpoint('GET /vessels/{vesselId}/photo', {
      from: db.photo,
      returns: Photo,
      about: 'The photograph of a vessel.',
    }),
    'vessels.setPhoto': endpoint('PUT /vessels/{vesselId}/photo', {
      makes: true,
      from: db.photo,
      files: { image: file({ types: ['image/png', 'image/jpeg'], max: 200_000 }) },
      audiences: ['agent', 'harbourMaster'],
      about: 'Keeps a photograph of a vessel, in the place of the one before.',
    }),
    operators: collection('/operators', db.operator, { read: OperatorDetail }),
    portCalls: collection('/port-calls', db.portCall, {
      list: page(Arrival, { size: 20, sort: ['eta desc', 'id'] }),
      read: PortCallDetail,
      create: { takes: NewPortCall, returns: PortCallDetail },
      replace: { takes: ReplacePortCall, returns: PortCallDetail },
      amend: { takes: EditPortCall, returns: PortCallDetail },
      remove: true,
      audiences: {
        create: ['agent', 'harbourMaster'],
        replace: ['agent', 'harbourMaster'],
        amend: ['agent', 'harbourMaster'],
        remove: ['harbourMaster'],
      },
      filters: (c) => ({
        status: oneOfThese(c.status),
        from: atLeast(c.eta),
        vessel: contains(c.vessel.name),
      }),
      sort: ['eta', 'status', 'vessel.name'],
      about: {
        list: 'What is expected, in harbour, and gone.',
        create: 'Announces a port call, with its cargo.',
      },
    }),
    'portCalls.cancel': endpoint('POST /port-calls/{id}/cancel', {
      from: db.portCall,
      takes: Cancellation,
      query: values({ dryRun: preset(bool().about('Only says what would come of it.'), false) }),
      returns: PortCallDetail,
      problems: {
        'not-expected': {
          status: 409,
          title: 'The call is not expected any more.',
          about: 'The vessel is in harbour, has left, or was cancelled before.',
          members: values({ callStatus: text() }),
        },
      },
      audiences: ['agent', 'harbourMaster'],
      about: 'Cancels an expected call, for a reason.',
    }),
    'portCalls.reserve': endpoint('POST /port-calls/{id}/reserve', {
      from: db.portCall,
      takes: Reservation,
      returns: Arrival,
      problems: {
        'not-expected': {
          status: 409,
          title: 'The call is not expected any more.',
          members: values({ callStatus: text() }),
        },
        'does-not-fit': {
          status: 409,
          title: 'The vessel does not fit the berth.',
          members: values({ draughtM: real(), maxDraughtM: real() }),
        },
      },
      audiences: ['agent', 'harbourMaster'],
      about: 'Keeps a berth for a call and a pilot, both or neither, and confirms it.',
    }),
    cargo: collection('/port-calls/{portCall}/cargo', db.cargoItem, {
      under: 'portCall',
      list: list(CargoLine),
      create: { takes: list(NewCargo) },
      audiences: { create: ['agent', 'harbourMaster'] },
      about: { create: 'Enters the cargo of a call by the many, all of it or none.' },
    }),
    // One shape serves three endpoints: what differs is said where it differs.
    berths: collection('/berths', db.berth, { list: list(Berth), read: Berth }),
    'berths.options': endpoint('GET /berths/options', { from: db.berth, returns: list(Berth) }),
    pilots: collection('/pilots', db.pilot, {
      // An array at first; since the office has more pilots, a page at a time.
      list: given(editionFrom('2026-02'), page(PilotLine, { size: 20 }), list(PilotLine)),
      read: PilotLine,
      audiences: ['harbourMaster'],
    }),
    quays: collection('/quays', db.quay, { list: list(QuayTree) }),
    positions: collection('/positions', db.positionReport, {
      list: list(PositionLine),
      create: { takes: list(NewPosition) },
      audiences: { create: ['agent', 'harbourMaster'] },
      about: {
        list: 'Every position report, as a stream: many thousands of rows.',
        create: 'Takes position reports by the many, all of them or none: as JSON, CSV or lines of JSON.',
      },
    }),
  },
});
