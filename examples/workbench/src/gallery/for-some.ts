import { all, asked, audience, given, not, shape, unseal } from 'gribo';
import { db } from './model.js';

// Who gets what: choose another audience above, and see members come and go.
export const Vessel = shape(db.vessel, (v) => ({
  id: v.id,
  name: v.name,
  // Agents and the office know how large it is.
  tonnage: given(audience('agent', 'harbourMaster'), v.grossTonnage),
  // Everybody but the public, where it was asked for with ?with=operator.
  operator: given(all(not(audience('public')), asked('operator')), { name: v.operator.name }),
  masterPhone: unseal('harbourMaster', v.masterPhone),
}));
