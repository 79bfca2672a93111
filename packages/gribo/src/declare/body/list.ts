import type { BodyPlan, ListPlan } from '../../plan/declared.js';
import type { InputListPlan, InputPlan } from '../../plan/input-plan.js';
import { freeze } from '../../util/freeze.js';
import type { InputList, InputOf } from '../types/input-types.js';
import type { ListBody, ShapeOf } from '../types/shape-types.js';

/** Makes lists of shapes, which are sent, and of inputs, which are taken. */
interface MakeList {
  <F, M, K>(shape: ShapeOf<F, M, K>): ListBody<F, M, K>;
  <F, A extends boolean, K>(input: InputOf<F, A, K>): InputList<F, K, A>;
}

/**
 * The body of an endpoint that returns many rows, an array of one shape; or that takes many, each by one input.
 *
 * @param of the shape of each item, or its input
 * @example
 * writer(list(VesselCard)).json(vessels)
 */
export const list: MakeList = (of: { readonly plan: BodyPlan | InputPlan }) => {
  // It is a list of whatever it is made of; the phantoms that carry the fields exist for the compiler only.
  const plan = freeze({ kind: 'list', shape: of.plan }) as ListPlan & InputListPlan;
  return freeze({ plan }) as ListBody<never> & InputList<never>;
};
