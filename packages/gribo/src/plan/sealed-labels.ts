import type { ValueNode } from './declared.js';

/** The labels of the seals that a value carries. Derived and converted values carry those of their inputs. */
export const sealedLabels = (node: ValueNode): readonly string[] => {
  switch (node.kind) {
    case 'column':
      return node.column.sealed === null ? [] : [node.column.sealed];
    case 'derived':
      return [...new Set(node.inputs.flatMap(sealedLabels))];
    case 'converted':
      return node.conversion.lifts ? [] : sealedLabels(node.input);
    case 'constant':
    case 'count':
      return [];
    default:
      return node satisfies never;
  }
};
