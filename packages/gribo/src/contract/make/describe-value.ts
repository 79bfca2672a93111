import type { JsonValue, ValueNode } from '../../plan/condition.js';
import { convert } from '../../plan/conversion.js';
import { valueType } from '../../plan/value-type.js';
import { jsonReady } from '../../values/kinds.js';

/** What is said about a value, in a sentence; null where nothing is. */
export const aboutOf = (node: ValueNode): string | null => {
  switch (node.kind) {
    case 'column':
      return node.column.about;
    case 'fact':
      return node.fact.about;
    case 'derived':
      return node.about;
    case 'converted':
      return aboutOf(node.input);
    case 'constant':
    case 'figure':
      return null;
    default:
      return node satisfies never;
  }
};

/** The example of a value as a row holds it; undefined where nobody gave one. */
const exampleOf = (node: ValueNode): unknown => {
  if (node.kind === 'column') return node.column.example;
  if (node.kind !== 'converted') return undefined;
  const example = exampleOf(node.input);
  return example === undefined ? undefined : convert(node.conversion, example);
};

/** The example of a value as JSON shows it; undefined where nobody gave one. */
export const jsonExample = (node: ValueNode): JsonValue | undefined => {
  const example = exampleOf(node);
  // What a column's example is was checked where it was declared.
  return example === undefined ? undefined : (jsonReady(valueType(node), example) as JsonValue);
};
