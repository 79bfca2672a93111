import { dateOnly, derive, integer, rounded, shape, text } from 'gribo';
import { db } from './model.js';

// Values that are made: by functions of yours, and by conversions.
export const Vessel = shape(db.vessel, (v) => ({
  name: v.name,
  title: derive([v.name, v.kind], text(), (name, kind) => `${name} (${kind})`),
  age: derive([v.builtYear], integer(), (year) => 2026 - year),
  draught: rounded(v.draughtM, 0),
  entered: dateOnly(v.createdAt),
}));
