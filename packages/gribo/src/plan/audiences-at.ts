import type { ApiPlan, EndpointPlan } from './api-plan.js';

/** Everybody whom an endpoint answers: the audiences, and null for callers of none. */
export const audiencesAt = (
  { only }: EndpointPlan,
  { audiences }: Pick<ApiPlan, 'audiences'>,
): readonly (string | null)[] => only ?? [null, ...audiences];
