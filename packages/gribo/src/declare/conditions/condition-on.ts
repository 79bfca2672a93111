import type { Finding } from '../../errors/declaration-error.js';
import type { ConditionNode } from '../../plan/condition.js';
import { leavesOf } from '../../plan/leaves-of.js';
import type { Bound, ModelTypes } from '../entity/model.js';
import { Broken } from '../references/member.js';
import { rootRow, rowRef } from '../references/row-ref.js';
import { conditionOf } from './condition-of.js';

/** A function of a row that declares a condition, without its types. */
export type DeclareCondition = (row: object) => unknown;

/**
 * The condition that a function of a row declares, or what is wrong with it.
 *
 * @param wrong why conditions of some kinds cannot be in it, by their kinds
 */
export const conditionOn = (
  over: Bound<ModelTypes, never>,
  place: string,
  declare: DeclareCondition,
  wrong: Readonly<Record<string, string>>,
): ConditionNode | Finding[] => {
  const row = rootRow(over);
  const built = conditionOf(declare(rowRef(row)));
  if (built instanceof Broken) return [...built.findings(place)];
  if (built.home !== null && built.home.origin !== row.home.origin)
    return [
      { path: place, message: 'the condition is about another row: use the one that the function is given' },
    ];
  const found = leavesOf(built.node).flatMap(({ kind }) => wrong[kind] ?? []);
  return found.length === 0 ? built.node : found.map((message) => ({ path: place, message }));
};
