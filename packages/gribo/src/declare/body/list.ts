import type { ListPlan } from '../../plan/declared.js';
import { freeze } from '../../util/freeze.js';
import type { ListBody, ShapeOf } from '../types/shape-types.js';

/**
 * The body of an endpoint that returns many rows: an array of one shape.
 *
 * @param shape the shape of each item
 * @example
 * writer(list(VesselCard)).json(vessels)
 */
export const list = <F>(shape: ShapeOf<F>): ListBody<F> => {
  const plan: ListPlan = freeze({ kind: 'list', shape: shape.plan });
  // The phantom that carries the fields exists for the compiler only.
  return freeze({ plan }) as ListBody<F>;
};
