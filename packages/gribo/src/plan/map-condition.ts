import { freeze } from '../util/freeze.js';
import { mapSame } from '../util/map-same.js';
import type { Compares, ConditionNode, ThereIs } from './condition.js';

/** What becomes of the parts of a condition `C` that are data and not made of others. */
export interface ConditionMap<C> {
  compares(condition: Compares): C | Compares;
  thereIs(condition: ThereIs<C>): C | ThereIs<C>;
}

/** The same condition with other parts; the same object where every part stays as it is. */
export const mapCondition = <C extends ConditionNode>(condition: C, map: ConditionMap<C>): C => {
  switch (condition.kind) {
    case 'compares':
      return map.compares(condition) as C;
    case 'thereIs':
      // What is in a condition is of its own kind.
      return map.thereIs(condition as unknown as ThereIs<C>) as C;
    case 'all':
    case 'any': {
      const of = mapAll(condition.of as readonly C[], map);
      return of === condition.of ? condition : (freeze({ kind: condition.kind, of }) as unknown as C);
    }
    case 'not': {
      const of = mapCondition(condition.of as C, map);
      return of === condition.of ? condition : (freeze({ kind: 'not', of }) as unknown as C);
    }
    case 'audience':
    case 'edition':
    case 'asked':
    case 'holds':
      return condition;
    default:
      return condition satisfies never;
  }
};

/** The same of several. */
export const mapAll = <C extends ConditionNode>(
  conditions: readonly C[],
  map: ConditionMap<C>,
): readonly C[] => mapSame(conditions, (condition) => mapCondition(condition, map));
