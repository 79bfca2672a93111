import { columnsRead } from '../../plan/columns-read.js';
import type { RowCondition } from '../../plan/condition.js';
import type { ColumnPlan } from '../../plan/entity-plan.js';
import { leavesOf } from '../../plan/leaves-of.js';
import { sayCondition } from '../../plan/say-condition.js';
import type { ContractCondition } from '../contract.js';

/** Every column that a condition looks at, in rows behind links too. */
const columnsIn = (condition: RowCondition): readonly ColumnPlan[] =>
  leavesOf(condition).flatMap((leaf): readonly ColumnPlan[] => {
    switch (leaf.kind) {
      case 'compares':
        return leaf.right.kind === 'column' ? [leaf.left.column, leaf.right.column] : [leaf.left.column];
      case 'thereIs':
        return [...leaf.selection.where, ...leaf.middle].flatMap(columnsIn);
      case 'holds':
        return leaf.inputs.flatMap(columnsRead);
      case 'asked':
        return [];
      default:
        return leaf satisfies never;
    }
  });

const isUntold = (condition: RowCondition): boolean =>
  leavesOf(condition).some(({ kind }) => kind === 'holds') ||
  columnsIn(condition).some(({ sealed }) => sealed !== null);

/** A condition as a contract has it. */
export const describeCondition = (condition: RowCondition): ContractCondition => ({
  says: sayCondition(condition),
  ...(isUntold(condition) ? { untold: true } : {}),
});
