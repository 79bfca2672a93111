import { first, oneOfThese, shape, some } from 'gribo';
import { db } from './model.js';

const CallLine = shape(db.portCall, (c) => ({ status: c.status, eta: c.eta, berth: c.berth.code }));

// Not all rows behind a link: which, in what order, how many.
export const Vessel = shape(db.vessel, (v) => ({
  name: v.name,
  next: first(
    some(v.portCalls, {
      where: (c) => [oneOfThese(c.status, ['announced', 'confirmed'])],
      sort: ['eta'],
    }),
    CallLine,
  ),
  latest: CallLine(some(v.portCalls, { sort: ['eta desc'], limit: 2 })),
}));
