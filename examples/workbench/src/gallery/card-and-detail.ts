import { count, derive, integer, shape, shorten, some, unlessNull, unseal } from 'gribo';
import { db } from './model.js';

// What goes out for one port call.
export const CallLine = shape(db.portCall, (c) => ({
  status: c.status,
  eta: c.eta,
  berth: c.berth.code, // null where there is none
}));

// What goes out for one vessel: change it.
export const Vessel = shape(db.vessel, (v) => ({
  id: v.id,
  name: v.name,
  flag: v.flagState, // renamed
  operator: v.operator.name, // flattened
  sisters: count(v.operator.vessels),
  age: derive([v.builtYear], integer(), (y) => 2026 - y),
  size: { length: v.lengthM, draught: v.draughtM },
  calls: CallLine(some(v.portCalls, { sort: ['eta desc'], limit: 2 })),
  notes: unlessNull(shorten(v.notes, 60)),
  // Only for this audience: choose it above.
  masterPhone: unseal('harbourMaster', v.masterPhone),
}));
