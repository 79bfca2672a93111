import type { Values } from '../change/change-plan.js';
import type { ColumnType } from '../plan/column-type.js';
import type { EntityPlan } from '../plan/entity-plan.js';
import { isDecimal } from '../values/checks.js';
import { withPlaces } from '../values/decimals.js';

const keptValue = (type: ColumnType, value: unknown): unknown => {
  if (type.kind === 'array' && Array.isArray(value)) return value.map((each) => keptValue(type.of, each));
  return type.kind === 'decimal' && isDecimal(value) ? withPlaces(value, type.scale) : value;
};

/** Values of an entity's columns in the one form that databases keep: decimals have all their places. */
export const keptValues = ({ columns }: EntityPlan, values: Values): Values => {
  const kept: Record<string, unknown> = { ...values };
  for (const { name, type } of columns) if (name in kept) kept[name] = keptValue(type, kept[name]);
  return kept;
};
