import { RowError } from '../errors/row-error.js';
import type { ColumnPlan, StampGiven, StampPlan } from '../plan/entity-plan.js';
import { kindOfValue } from '../util/describe-value.js';
import { nameOfType, valueKind } from '../values/kinds.js';

/**
 * What a stamped column is set to, looked at like the value of a row. What came is not shown: facts may be in it.
 *
 * @throws {RowError} `ROW_FUNCTION` where the function throws, or gives what is no value of the column
 */
export const stampedValue = (
  entity: string,
  { name, type, nullable }: ColumnPlan,
  stamp: StampPlan,
  given: StampGiven,
): unknown => {
  const wrong = (came: string): RowError =>
    new RowError('ROW_FUNCTION', `${entity}.${name}`, `expected ${nameOfType(type)} from stamped(…)`, came);
  let value: unknown;
  try {
    value = stamp.value(given);
  } catch {
    throw wrong(': its function threw');
  }
  if (value === null && nullable) return null;
  const accepted = valueKind(type).accept(value, type);
  if (accepted === undefined) throw wrong(`, got ${kindOfValue(value)}`);
  return accepted;
};
