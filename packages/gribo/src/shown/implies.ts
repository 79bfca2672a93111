import type { ConditionNode } from '../plan/condition.js';
import { conditionText } from '../plan/condition-text.js';

/** Whether one condition holds wherever another does, as far as their forms tell: nothing is known of values. */
export const implies = (one: ConditionNode, other: ConditionNode): boolean => {
  if (conditionText(one) === conditionText(other)) return true;
  if (other.kind === 'all') return other.of.every((part) => implies(one, part));
  if (one.kind === 'any') return one.of.every((part) => implies(part, other));
  if (one.kind === 'all' && one.of.some((part) => implies(part, other))) return true;
  return other.kind === 'any' && other.of.some((part) => implies(one, part));
};
