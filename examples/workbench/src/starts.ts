/** What there is to begin with. */
export const STARTS: readonly { readonly name: string; readonly source: string }[] = [
  {
    name: 'A card and a detail',
    source: `import {
  count, derive, integer, shape,
  shorten, some, unseal, unlessNull,
} from 'gribo';
import { db } from './model.js';

// What goes out for one port call.
export const CallLine = shape(db.portCall, (c) => ({
  status: c.status,
  eta: c.eta,
  berth: c.berth.code,           // null where there is none
}));

// What goes out for one vessel: change it.
export const Vessel = shape(db.vessel, (v) => ({
  id: v.id,
  name: v.name,
  flag: v.flagState,             // renamed
  operator: v.operator.name,     // flattened
  sisters: count(v.operator.vessels),
  age: derive([v.builtYear], integer(), (y) => 2026 - y),
  size: { length: v.lengthM, draught: v.draughtM },
  calls: CallLine(
    some(v.portCalls, { sort: ['eta desc'], limit: 2 }),
  ),
  notes: unlessNull(shorten(v.notes, 60)),
  // Only for this audience: choose it above.
  masterPhone: unseal('harbourMaster', v.masterPhone),
}));
`,
  },
  {
    name: 'What is sealed stays inside',
    source: `import { masked, shape } from 'gribo';
import { db } from './model.js';

// Take the comment marks away: the phone number is sealed, and
// there is no way around it but masked and unseal.
export const Operator = shape(db.operator, (o) => ({
  id: o.id,
  name: o.name,
  // phone: o.phone,
  hint: masked(o.phone, { showLast: 2 }),
  group: o.parent.name,
}));
`,
  },
  {
    name: 'A tree',
    source: `import { count, recursive } from 'gribo';
import { db } from './model.js';

// A quay with its parts, and their parts.
export const Quay = recursive(db.quay, { depth: 3, name: 'Quay' }, (q, self) => ({
  id: q.id,
  name: q.name,
  berths: count(q.berths),
  parts: self(q.parts),
}));
`,
  },
];
