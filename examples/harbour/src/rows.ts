import { all, any, callerOf, equals, integer, not, rowRule, text } from 'gribo';
import { db } from './model.js';
import { audience } from './names.js';

/** What the office knows of whoever asks: whose vessels an agent looks after. */
export const caller = callerOf({
  user: text().about('The name that is kept with what the caller changes.'),
  operatorId: integer().nullable().about('The operator whose vessels an agent looks after.'),
});

/** Agents look after the vessels of their operator; everybody may see which vessels there are. */
export const vesselRows = rowRule(db.vessel, () => all(), {
  change: (v) =>
    any(audience('harbourMaster'), all(audience('agent'), equals(v.operatorId, caller.operatorId))),
  about: 'An agent changes the vessels of its own operator.',
});

/** Everybody may see photographs; who may change a vessel may change its photograph. */
export const photoRows = rowRule(db.photo, () => all(), {
  change: (p) =>
    any(audience('harbourMaster'), all(audience('agent'), equals(p.vessel.operatorId, caller.operatorId))),
  about: 'An agent changes the photographs of vessels of its own operator.',
});

/** Cargo is of its call: who sees that sees it, and who may change that may enter it. */
export const cargoRows = rowRule(
  db.cargoItem,
  (i) =>
    any(
      audience('harbourMaster'),
      all(audience('agent'), equals(i.portCall.vessel.operatorId, caller.operatorId)),
      not(equals(i.portCall.status, 'announced')),
    ),
  {
    change: (i) =>
      any(
        audience('harbourMaster'),
        all(audience('agent'), equals(i.portCall.vessel.operatorId, caller.operatorId)),
      ),
    about: 'An agent enters the cargo of calls of its own operator.',
  },
);

/** What is only announced is for the office, and for the agent who announced it. */
export const callRows = rowRule(
  db.portCall,
  (c) =>
    any(
      audience('harbourMaster'),
      all(audience('agent'), equals(c.vessel.operatorId, caller.operatorId)),
      not(equals(c.status, 'announced')),
    ),
  {
    change: (c) =>
      any(audience('harbourMaster'), all(audience('agent'), equals(c.vessel.operatorId, caller.operatorId))),
    about: 'An agent changes the calls of its own operator.',
  },
);
