import type { SettledValue } from './condition.js';
import type { ColumnPlan } from './entity-plan.js';

/** The columns that a value is made of, whatever conversions and functions are between. */
export const columnsRead = (node: SettledValue): readonly ColumnPlan[] => {
  switch (node.kind) {
    case 'column':
      return [node.column];
    case 'derived':
      return node.inputs.flatMap(columnsRead);
    case 'converted':
      return columnsRead(node.input);
    case 'figure':
      return node.of === null ? [] : [node.of.column];
    case 'fact':
    case 'constant':
      return [];
    default:
      return node satisfies never;
  }
};
