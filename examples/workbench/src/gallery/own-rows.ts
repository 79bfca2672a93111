import { shape } from 'gribo';
import { db } from './model.js';

// Rows of your own: change them. What they leave out is made up.
export const rows = {
  operator: [{ id: 1, name: 'Lantern Bay' }],
  vessel: [
    { id: 1, name: 'Anselma', builtYear: 1990, operatorId: 1 },
    { id: 2, name: 'Merel', builtYear: 2004, operatorId: null },
  ],
};

export const Vessel = shape(db.vessel, (v) => ({
  name: v.name,
  built: v.builtYear,
  operator: v.operator.name,
}));
