import type { ApiPlan } from '../plan/api-plan.js';
import type { ShapePlan } from '../plan/declared.js';
import { walkShapes } from '../plan/walk-members.js';

/** Every shape that an API sends, each once. */
export const walkShapesOf = (api: ApiPlan): readonly ShapePlan[] => [
  ...new Set(api.endpoints.flatMap(({ returns }) => (returns === null ? [] : walkShapes(returns)))),
];
