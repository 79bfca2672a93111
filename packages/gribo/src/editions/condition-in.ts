import type {
  ConditionNode,
  FigureNode,
  ListSelection,
  SortKey,
  ThereIs,
  ValueNode,
} from '../plan/condition.js';
import { ALWAYS, allOf, anyOf, isAlways, isNever, notOf } from '../plan/joined.js';
import { NEVER } from '../plan/never.js';
import { freeze } from '../util/freeze.js';
import { mapKept, mapSame } from '../util/map-same.js';
import type { Here } from './here.js';

/** A condition in one edition, which settles what of it is about editions; the same object where nothing is. */
export const conditionIn = (condition: ConditionNode, here: Here): ConditionNode => {
  switch (condition.kind) {
    case 'edition':
      here.met.add(condition.from);
      return condition.holds(here.edition) ? ALWAYS : NEVER;
    case 'all':
    case 'any': {
      const of = mapSame(condition.of, (part) => conditionIn(part, here));
      if (of === condition.of) return condition;
      return condition.kind === 'all' ? allOf(...of) : anyOf(...of);
    }
    case 'not': {
      const of = conditionIn(condition.of, here);
      return of === condition.of ? condition : notOf(of);
    }
    case 'thereIs':
      return thereIsIn(condition, here);
    case 'holds': {
      const inputs = valuesIn(condition.inputs, here);
      return inputs === condition.inputs ? condition : freeze({ ...condition, inputs });
    }
    case 'audience':
    case 'asked':
    case 'compares':
      return condition;
    default:
      return condition satisfies never;
  }
};

const thereIsIn = (condition: ThereIs<ConditionNode>, here: Here): ConditionNode => {
  const selection = selectionIn(condition.selection, here);
  const middle = conditionsIn(condition.middle, here);
  const isSame = selection === condition.selection && middle === condition.middle;
  return isSame ? condition : freeze({ ...condition, selection, middle });
};

/** A condition that may be left out: null where it holds always. */
const openCondition = (condition: ConditionNode | null, here: Here): ConditionNode | null => {
  const left = condition === null ? null : conditionIn(condition, here);
  return left === null || isAlways(left) ? null : left;
};

/** What stands under a condition, in one edition; null where it is not there. */
export const thereIn = <T extends { readonly when: ConditionNode | null }>(one: T, here: Here): T | null => {
  const when = openCondition(one.when, here);
  if (when !== null && isNever(when)) return null;
  return when === one.when ? one : freeze({ ...one, when });
};

/** Conditions that all hold, in one edition: those that always do are none. */
const conditionsIn = (conditions: readonly ConditionNode[], here: Here): readonly ConditionNode[] =>
  mapKept(conditions, (condition) => {
    const left = conditionIn(condition, here);
    return left !== condition && isAlways(left) ? null : left;
  });

/** The rows of a selection in one edition. */
export const selectionIn = (
  selection: ListSelection<ConditionNode>,
  here: Here,
): ListSelection<ConditionNode> => {
  const where = conditionsIn(selection.where, here);
  const sort = keysIn(selection.sort, here);
  const isSame = where === selection.where && sort === selection.sort;
  return isSame ? selection : freeze({ ...selection, where, sort });
};

/** An order, or parameters, in one edition: what of a column is seen. */
export const keysIn = <K extends Pick<SortKey<ConditionNode>, 'shown'>>(
  keys: readonly K[],
  here: Here,
): readonly K[] =>
  mapSame(keys, (key) => {
    const shown = openCondition(key.shown, here);
    return shown === key.shown ? key : freeze({ ...key, shown });
  });

/** A value in one edition: what is counted may differ. */
export const valueIn = (node: ValueNode, here: Here): ValueNode => {
  switch (node.kind) {
    case 'column':
    case 'fact':
    case 'constant':
      return node;
    case 'derived': {
      const inputs = valuesIn(node.inputs, here);
      return inputs === node.inputs ? node : freeze({ ...node, inputs });
    }
    case 'converted': {
      const input = valueIn(node.input, here);
      return input === node.input ? node : freeze({ ...node, input });
    }
    case 'figure':
      return figureIn(node, here);
    default:
      return node satisfies never;
  }
};

const figureIn = (node: FigureNode<ConditionNode>, here: Here): ValueNode => {
  const selection = selectionIn(node.selection, here);
  return selection === node.selection ? node : freeze({ ...node, selection });
};

const valuesIn = (nodes: readonly ValueNode[], here: Here): readonly ValueNode[] =>
  mapSame(nodes, (node) => valueIn(node, here));
