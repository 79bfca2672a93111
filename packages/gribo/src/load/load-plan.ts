import type { AnyBody } from '../declare/types/shape-types.js';
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
export const loadPlan = (body: AnyBody, situation: Situation = {}): LoadPlan =>
  planLoad(resolve(body, situation));
