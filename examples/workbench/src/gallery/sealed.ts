import { masked, shape } from 'gribo';
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
