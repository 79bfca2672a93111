import type { RowCondition } from '../plan/resolved.js';
import { freeze } from '../util/freeze.js';

const names = new WeakMap<RowCondition, string>();

/** Stands for a name that may or may not be asked for. */
export const openAsk = (name: string): RowCondition => {
  const leaf: RowCondition = freeze({
    kind: 'holds',
    guard: freeze([]),
    inputs: freeze([]),
    test: () => false,
  });
  names.set(leaf, name);
  return leaf;
};

/** The name that a condition stands for; undefined where the row decides. */
export const askedName = (condition: RowCondition): string | undefined => names.get(condition);

/** The names whose asking a condition depends on. */
export const namesAsked = (condition: RowCondition): readonly string[] => {
  switch (condition.kind) {
    case 'holds': {
      const name = askedName(condition);
      return name === undefined ? [] : [name];
    }
    case 'all':
    case 'any':
      return [...new Set(condition.of.flatMap(namesAsked))];
    case 'not':
      return namesAsked(condition.of);
    default:
      return condition satisfies never;
  }
};

/** Whether a condition holds where nothing is asked: yes, no, or as the row says. */
export const unasked = (condition: RowCondition): boolean | 'row' => {
  switch (condition.kind) {
    case 'holds':
      return askedName(condition) === undefined ? 'row' : false;
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
