import type { AnyBody } from '../declare/types/shape-types.js';
import type { SituationFor } from '../declare/types/situation-types.js';
import type { Situation } from '../plan/situation.js';
import { resolve } from '../resolve/resolve.js';
import { type LoadPlan, planLoad } from './plan-load.js';

/**
 * What has to be loaded to write a body: exactly the columns that its members read in this
 * situation, the keys that join and identify rows, and the links, each with the same of its own.
 *
 * @param body a shape, `list(shape)`, `page(shape)` or one of these wrapped
 * @param situation as for `writer`
 * @example
 * loadPlan(VesselCard).columns.map((column) => column.stored) // ['id', 'name', 'call_sign', 'operator_id']
 */
export const loadPlan = <
  B extends AnyBody,
  const A extends string | null,
  const E extends string,
  const N extends string,
  const P extends string,
>(
  body: B,
  situation: SituationFor<B, A, E, N, P> = {},
): LoadPlan => planLoad(resolve(body, situation as Situation));
