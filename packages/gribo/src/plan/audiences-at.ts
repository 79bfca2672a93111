import type { ApiPlan, EndpointPlan } from './api-plan.js';

/** Everybody whom an endpoint answers: the audiences, and null for callers of none. */
export const audiencesAt = (
  endpoint: EndpointPlan,
  { audiences }: Pick<ApiPlan, 'audiences'>,
): readonly (string | null)[] => endpoint.audiences ?? [null, ...audiences];

/** Whether an endpoint answers a caller: null is one of no audience. */
export const answers = ({ audiences }: Pick<EndpointPlan, 'audiences'>, audience: string | null): boolean =>
  audiences === null || (audience !== null && audiences.includes(audience));
