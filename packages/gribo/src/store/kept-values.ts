import type { Values } from '../change/change-plan.js';
import type { ColumnType } from '../plan/column-type.js';
import type { EntityPlan } from '../plan/entity-plan.js';
import { keptBy } from '../util/kept-by.js';
import { isDecimal } from '../values/checks.js';
import { withPlaces } from '../values/decimals.js';

/** As a number; where none is exactly that, it stays as it is. */
const asNumber = (value: bigint): number | bigint =>
  Number.isSafeInteger(Number(value)) ? Number(value) : value;

const keptValue = (type: ColumnType, value: unknown): unknown => {
  if (type.kind === 'array' && Array.isArray(value)) return value.map((each) => keptValue(type.of, each));
  // A link may hold numbers of one size in columns of the other.
  if (type.kind === 'integer' && typeof value === 'bigint') return asNumber(value);
  if (type.kind === 'bigint' && typeof value === 'number' && Number.isInteger(value)) return BigInt(value);
  return type.kind === 'decimal' && isDecimal(value) ? withPlaces(value, type.scale) : value;
};

const typesOf = keptBy(
  ({ columns }: EntityPlan): ReadonlyMap<string, ColumnType> =>
    new Map(columns.map(({ name, type }) => [name, type])),
);

/** Values of an entity's columns in the one form that databases keep: decimals have all their places, whole numbers are of their column's size. */
export const keptValues = (entity: EntityPlan, values: Values): Values => {
  const types = typesOf(entity);
  const kept: Record<string, unknown> = { ...values };
  for (const name of Object.keys(kept)) {
    const type = types.get(name);
    if (type !== undefined) kept[name] = keptValue(type, kept[name]);
  }
  return kept;
};
