import type { Compare } from '../plan/condition.js';
import { compareValues } from './orders.js';

/** Compares a value of a row as a condition says. Null compares with nothing: `isNull` asks for it. */
export const compares: Compare = (operator, type, value, other) => {
  if (operator === 'isNull') return (value === null) === other;
  if (value === null || other === null) return false;
  switch (operator) {
    case 'equals':
      return compareValues(type, value, other) === 0;
    case 'oneOfThese':
      return (other as readonly unknown[]).some((choice) => compareValues(type, value, choice) === 0);
    case 'atLeast':
      return compareValues(type, value, other) >= 0;
    case 'atMost':
      return compareValues(type, value, other) <= 0;
    case 'contains':
      return String(value).toLowerCase().includes(String(other).toLowerCase());
    default:
      return operator satisfies never;
  }
};
