import { Broken, handOut, handOutBroken, MemberRef, referenceOf } from '../references/member.js';
import { listRef } from '../references/nested-ref.js';
import type { ListRef, ManyRows, Nested } from '../types/member-types.js';
import type { ShapeOf } from '../types/shape-types.js';

/** A shape over the entity of these rows, or the words for one over another. */
type ShapeFor<S, R> =
  S extends ShapeOf<unknown, infer M, infer K>
    ? R extends ListRef<M, K, boolean>
      ? S
      : `this is a shape over ${K & string}, but the link leads elsewhere`
    : 'a shape is expected: first(v.links, Shape)';

/**
 * The first row behind a to-many link, nested. Use `some(v.links, { sort })` to say which is first.
 *
 * @param rows a to-many link
 * @param shape the shape of the nested object
 * @returns an object, or null where there is no row
 * @example
 * first(some(v.portCalls, { sort: ['eta desc'] }), PortCallLine)
 */
export const first = <R, S extends ShapeOf<unknown>>(
  rows: ManyRows<R, 'first takes a to-many link and a shape: first(v.links, Shape)'>,
  shape: ShapeFor<S, R>,
): S extends ShapeOf<infer F> ? Nested<F, 'oneOrNull'> : never => {
  const reference = referenceOf(rows);
  if (reference instanceof Broken) return handOutBroken(reference);
  if (reference === null || reference instanceof MemberRef || reference.kind !== 'rows') {
    return handOutBroken('first takes a to-many link and a shape: first(v.links, Shape)');
  }
  const { bound } = reference;
  // The words stand for a shape that the compiler refuses: what comes all the same is told here.
  const { plan } = shape as ShapeOf<unknown>;
  if (plan.entity !== bound.entity) {
    const over = `${plan.name} is a shape over ${plan.entity.name}`;
    return handOutBroken(`${over}, but the link leads to ${bound.entity.name}`);
  }
  return handOut(listRef('first', reference, plan));
};
