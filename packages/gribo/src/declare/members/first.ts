import { Broken, handOut, handOutBroken, MemberRef, referenceOf } from '../references/member.js';
import { listRef } from '../references/nested-ref.js';
import type { ListRef, Nested } from '../types/member-types.js';
import type { Shape } from '../types/shape-types.js';

/**
 * The first row behind a to-many link, nested. Use `some(v.links, { sort })` to say which is first.
 *
 * @param rows a to-many link
 * @param shape the shape of the nested object
 * @returns an object, or null where there is no row
 * @example
 * first(some(v.portCalls, { sort: ['eta desc'] }), PortCallLine)
 */
export const first = <M, K, F>(
  rows: ListRef<M, K, boolean>,
  shape: Shape<M, K, F>,
): Nested<F, 'oneOrNull'> => {
  const reference = referenceOf(rows);
  if (reference instanceof Broken) return handOutBroken(reference);
  if (reference === null || reference instanceof MemberRef || reference.kind !== 'rows') {
    return handOutBroken('first takes a to-many link and a shape: first(v.links, Shape)');
  }
  const { bound } = reference;
  if (shape.plan.entity !== bound.entity) {
    const over = `${shape.plan.name} is a shape over ${shape.plan.entity.name}`;
    return handOutBroken(`${over}, but the link leads to ${bound.entity.name}`);
  }
  return handOut(listRef('first', reference, shape.plan));
};
