import { average, count, equals, maximum, shape, some, sum } from 'gribo';
import { db } from './model.js';

// Figures of rows behind a link: look at the load plan, no such row is loaded.
export const Operator = shape(db.operator, (o) => ({
  name: o.name,
  vessels: count(o.vessels),
  tugs: count(some(o.vessels, { where: (v) => [equals(v.kind, 'tug')] })),
  tonnage: sum(o.vessels, (v) => v.grossTonnage),
  newest: maximum(o.vessels, (v) => v.builtYear),
  length: average(o.vessels, (v) => v.lengthM),
}));
