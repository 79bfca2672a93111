import { freeze } from '../util/freeze.js';
import type { Compares, StoreCondition } from './condition.js';
import { allOf, anyOf } from './joined.js';

/**
 * A comparison of a value that is shown only where these hold: elsewhere it counts as null.
 *
 * @param condition the comparison
 * @param shown what must hold for the value to be seen; nothing: it always is
 * @example
 * const [id] = db.vessel.entity.columns;
 * whereShown(comparison(id, 'equals', 17), []).kind // => "compares"
 */
export const whereShown = (condition: Compares, shown: readonly StoreCondition[]): StoreCondition => {
  if (shown.length === 0) return condition;
  const { operator, right } = condition;
  const asksForNull = operator === 'isNull' && right.kind === 'value' && right.value === true;
  if (!asksForNull) return allOf<StoreCondition>(...shown, condition);
  return anyOf<StoreCondition>(freeze({ kind: 'not', of: allOf(...shown) }), condition);
};
