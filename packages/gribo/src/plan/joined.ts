import { freeze } from '../util/freeze.js';
import type { ConditionNode, StoreCondition } from './condition.js';
import { conditionText } from './condition-text.js';
import { NEVER } from './never.js';

/** What holds for every row: of no conditions, all do. */
export const ALWAYS: StoreCondition = freeze({ kind: 'all', of: freeze([]) });

const isEmpty = (condition: ConditionNode, kind: 'all' | 'any'): boolean =>
  condition.kind === kind && condition.of.length === 0;

/** Whether a condition holds, or does not, whatever the row: as far as it says so by itself. */
export const isAlways = (condition: ConditionNode): boolean => isEmpty(condition, 'all');
export const isNever = (condition: ConditionNode): boolean => isEmpty(condition, 'any');

const join = <C extends ConditionNode>(kind: 'all' | 'any', conditions: readonly C[]): C => {
  // Those without parts are of every kind of condition, and so is what is joined of conditions of one kind.
  const [settles, rest] = (kind === 'all' ? [NEVER, ALWAYS] : [ALWAYS, NEVER]) as unknown as [C, C];
  const decides = kind === 'all' ? isNever : isAlways;
  const isIdle = kind === 'all' ? isAlways : isNever;
  if (conditions.some(decides)) return settles;
  const all = conditions.filter((condition) => !isIdle(condition));
  const of = [...new Map(all.map((condition) => [conditionText(condition), condition])).values()];
  const [only] = of;
  if (only === undefined) return rest;
  return of.length === 1 ? only : (freeze({ kind, of: freeze(of) }) as unknown as C);
};

/** The opposite of this. */
export const notOf = (condition: ConditionNode): ConditionNode => {
  if (isAlways(condition)) return NEVER;
  return isNever(condition) ? ALWAYS : freeze({ kind: 'not', of: condition });
};

/** All of these, without those that say nothing. */
export const allOf = <C extends ConditionNode>(...conditions: readonly C[]): C => join('all', conditions);

/** Any of these, without those that say nothing. */
export const anyOf = <C extends ConditionNode>(...conditions: readonly C[]): C => join('any', conditions);
