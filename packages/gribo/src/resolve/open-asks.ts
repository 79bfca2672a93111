import type { RowCondition } from '../plan/condition.js';
import { leavesOf } from '../plan/leaves-of.js';

/** The names whose asking a condition depends on. */
export const namesAsked = (condition: RowCondition): readonly string[] => [
  ...new Set(leavesOf(condition).flatMap((leaf) => (leaf.kind === 'asked' ? [leaf.name] : []))),
];

/** Whether a condition holds where nothing is asked: yes, no, or as the row says. */
export const unasked = (condition: RowCondition): boolean | 'row' => {
  switch (condition.kind) {
    case 'asked':
      return false;
    case 'compares':
    case 'thereIs':
    case 'holds':
      return 'row';
    case 'all':
    case 'any': {
      const settles = condition.kind === 'any';
      const verdicts = condition.of.map(unasked);
      if (verdicts.includes(settles)) return settles;
      return verdicts.includes('row') ? 'row' : !settles;
    }
    case 'not': {
      const verdict = unasked(condition.of);
      return verdict === 'row' ? 'row' : !verdict;
    }
    default:
      return condition satisfies never;
  }
};
