import type { ConditionNode } from './condition.js';

/** A condition that is not made of others. */
type Leaf<C> = Exclude<C, { readonly kind: 'all' | 'any' | 'not' }>;

/** What a condition is made of, without how it is joined. */
export const leavesOf = <C extends ConditionNode>(condition: C): readonly Leaf<C>[] => {
  switch (condition.kind) {
    case 'all':
    case 'any':
      // The parts of a condition are of its own kind.
      return (condition.of as readonly C[]).flatMap((part) => leavesOf(part));
    case 'not':
      return leavesOf(condition.of as C);
    default:
      return [condition as Leaf<C>];
  }
};
