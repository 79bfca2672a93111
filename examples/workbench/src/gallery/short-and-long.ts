import { at, count, shape, shorten, some } from 'gribo';
import { db } from './model.js';

const CallLine = shape(db.portCall, ({ status, eta }) => ({ status, eta }));

// One shape for lists and details: choose another endpoint above.
export const Vessel = shape(db.vessel, (v) => ({
  id: v.id,
  name: v.name,
  notes: at({ list: shorten(v.notes, 20), read: v.notes }),
  calls: at({
    list: count(v.portCalls),
    read: CallLine(some(v.portCalls, { sort: ['eta desc'], limit: 3 })),
  }),
}));
