import type { ValueNode } from './condition.js';
import type { LinkPlan } from './entity-plan.js';

/** Whether there may be no row at the end of these to-one links. */
export const mayEndInNull = (path: readonly LinkPlan[]): boolean => path.some((link) => link.nullable);

/** Whether a value may be null, its links included. */
export const mayBeNull = (node: ValueNode): boolean => {
  switch (node.kind) {
    case 'column':
      return node.column.nullable || mayEndInNull(node.path);
    case 'fact':
      return node.fact.nullable;
    case 'derived':
      return node.nullable || mayEndInNull(node.guard);
    case 'converted':
      return mayBeNull(node.input);
    case 'constant':
      return node.value === null;
    case 'figure':
      // Of no rows there is a sum, but nothing else.
      return mayEndInNull(node.path) || (node.of !== null && node.of.how !== 'sum');
    default:
      return node satisfies never;
  }
};
