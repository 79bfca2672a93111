import { freeze } from '../util/freeze.js';
import type { ColumnNode, ConditionNode } from './condition.js';
import type { LinkPlan } from './entity-plan.js';
import { mapCondition } from './map-condition.js';

/** In a condition there may be no row behind any link: what a caller may not see is not there. */
export const looked = (path: readonly LinkPlan[]): readonly LinkPlan[] =>
  freeze(path.map((link) => (link.nullable ? link : freeze({ ...link, nullable: true }))));

/** The same condition, on the row at the end of a way. */
export const behind = <C extends ConditionNode>(path: readonly LinkPlan[], condition: C): C => {
  if (path.length === 0) return condition;
  const way = looked(path);
  const moved = (node: ColumnNode): ColumnNode => freeze({ ...node, path: freeze([...way, ...node.path]) });
  return mapCondition<C>(condition, {
    compares: (part) =>
      freeze({
        ...part,
        left: moved(part.left),
        right: part.right.kind === 'column' ? moved(part.right) : part.right,
      }),
    thereIs: (part) => freeze({ ...part, path: freeze([...way, ...part.path]) }),
  });
};
