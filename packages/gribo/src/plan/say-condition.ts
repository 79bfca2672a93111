import type { ColumnNode, ConditionNode, FilterOperator, Operand, ValueNode } from './condition.js';
import { dottedName } from './dotted-name.js';
import { NOW } from './now.js';

const nameOf = ({ path, column }: ColumnNode): string => dottedName(path, column);

const sayValue = (value: unknown): string => {
  if (value instanceof Date) return value.toISOString();
  if (typeof value === 'bigint') return String(value);
  if (value instanceof Uint8Array) return `${value.length} bytes`;
  return Array.isArray(value) ? value.map(sayValue).join(', ') : JSON.stringify(value);
};

const sayOperand = (operand: Operand): string => {
  if (operand.kind === 'value') return sayValue(operand.value);
  if (operand.kind === 'column') return nameOf(operand);
  return operand.fact.name === NOW ? NOW : `caller.${operand.fact.name}`;
};

const WORDS: Readonly<Record<Exclude<FilterOperator, 'isNull'>, string>> = {
  equals: 'is',
  oneOfThese: 'is one of',
  atLeast: 'is at least',
  atMost: 'is at most',
  contains: 'contains',
};

const columnsIn = (node: ValueNode): readonly string[] => {
  switch (node.kind) {
    case 'column':
      return [nameOf(node)];
    case 'derived':
      return node.inputs.flatMap(columnsIn);
    case 'converted':
      return columnsIn(node.input);
    case 'figure':
      return [dottedName(node.path, node.link) + (node.of === null ? '' : `.${node.of.column.name}`)];
    case 'fact':
      return [sayOperand(node)];
    case 'constant':
      return [];
    default:
      return node satisfies never;
  }
};

const joined = (of: readonly ConditionNode[], word: string, empty: string): string => {
  const parts = of.map((part) => sayPart(part));
  return parts.length === 0 ? empty : parts.join(` ${word} `);
};

/** A condition inside another one: in parentheses where it is made of several. */
const sayPart = (condition: ConditionNode): string => {
  const isJoined = (condition.kind === 'all' || condition.kind === 'any') && condition.of.length > 1;
  return isJoined ? `(${sayCondition(condition)})` : sayCondition(condition);
};

/**
 * A condition in words, with the names of columns, links, audiences and facts as they are declared.
 *
 * @example
 * const [rule] = harbour.plan.rules;
 * rule === undefined ? 'everybody sees everything' : sayCondition(rule.see)
 */
export const sayCondition = (condition: ConditionNode): string => {
  switch (condition.kind) {
    case 'audience':
      return `for ${condition.names.join(', ')}`;
    case 'edition':
      return `from edition ${condition.from}`;
    case 'asked':
      return `asked: ${condition.name}`;
    case 'compares': {
      const { left, operator, right } = condition;
      if (operator === 'isNull')
        return `${nameOf(left)} ${right.kind === 'value' && right.value === true ? 'is null' : 'is not null'}`;
      return `${nameOf(left)} ${WORDS[operator]} ${sayOperand(right)}`;
    }
    case 'thereIs': {
      const { path, link, selection } = condition;
      const way = dottedName(path, link);
      const where = selection.where.length === 0 ? '' : ` where ${joined(selection.where, 'and', '')}`;
      return `there are ${way}${where}`;
    }
    case 'holds':
      return `code of ${[...new Set(condition.inputs.flatMap(columnsIn))].join(', ')}`;
    case 'all':
      return joined(condition.of, 'and', 'always');
    case 'any':
      return joined(condition.of, 'or', 'never');
    case 'not':
      if (condition.of.kind === 'edition') return `before edition ${condition.of.from}`;
      if (condition.of.kind === 'compares' && condition.of.operator === 'equals') {
        const { left, right } = condition.of;
        return `${nameOf(left)} is not ${sayOperand(right)}`;
      }
      return `not (${sayCondition(condition.of)})`;
    default:
      return condition satisfies never;
  }
};
