import type { ConditionNode } from '../plan/condition.js';
import { ALWAYS, allOf, anyOf, notOf } from '../plan/joined.js';
import { NEVER } from '../plan/never.js';

/**
 * A condition without what is no data: it holds only where the condition does. Code is taken to hide, and what may be
 * asked for to be asked.
 */
export const asData = (condition: ConditionNode, isWanted = true): ConditionNode => {
  switch (condition.kind) {
    case 'audience':
    case 'edition':
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
    case 'not':
      return notOf(asData(condition.of, !isWanted));
    default:
      return condition satisfies never;
  }
};
