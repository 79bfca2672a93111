import type { ConditionNode } from '../plan/condition.js';
import { ALWAYS, allOf, anyOf } from '../plan/joined.js';
import { NEVER } from '../plan/never.js';
import { freeze } from '../util/freeze.js';

/**
 * A condition without what is no data: it holds only where the condition does. Code is taken to hide, and what may be
 * asked for to be asked.
 */
export const asData = (condition: ConditionNode, isWanted = true): ConditionNode => {
  switch (condition.kind) {
    case 'audience':
    case 'compares':
    case 'thereIs':
      return condition;
    case 'holds':
      return isWanted ? NEVER : ALWAYS;
    case 'asked':
      return isWanted ? ALWAYS : NEVER;
    case 'all':
      return allOf(...condition.of.map((part) => asData(part, isWanted)));
    case 'any':
      return anyOf(...condition.of.map((part) => asData(part, isWanted)));
    case 'not': {
      const inner = asData(condition.of, !isWanted);
      if (inner === ALWAYS) return NEVER;
      return inner === NEVER ? ALWAYS : freeze({ kind: 'not', of: inner });
    }
    default:
      return condition satisfies never;
  }
};
