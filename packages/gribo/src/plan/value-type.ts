import { freeze } from '../util/freeze.js';
import type { ColumnType } from './column-type.js';
import type { ValueNode } from './condition.js';

const integerType: ColumnType = freeze({ kind: 'integer', min: null, max: null });
const jsonType: ColumnType = freeze({ kind: 'json' });

/** The type of what a value node yields. */
export const valueType = (node: ValueNode): ColumnType => {
  switch (node.kind) {
    case 'column':
      return node.column.type;
    case 'fact':
      return node.fact.type;
    case 'derived':
      return node.type;
    case 'converted':
      return node.conversion.yields;
    case 'figure':
      return node.of?.yields ?? integerType;
    case 'constant':
      return jsonType;
    default:
      return node satisfies never;
  }
};
