import { count, recursive } from 'gribo';
import { db } from './model.js';

// A quay with its parts, and their parts.
export const Quay = recursive(db.quay, { depth: 3, name: 'Quay' }, (q, self) => ({
  id: q.id,
  name: q.name,
  berths: count(q.berths),
  parts: self(q.parts),
}));
