import type { Situation } from 'gribo';
import type { EndpointPlan } from 'gribo/kit';
import type { Query } from './query.js';

/** What a response is resolved for: its endpoint, whom it is for, and what the query asks. */
export const situationOf = (
  { name }: EndpointPlan,
  audience: string | null,
  { asked, fields }: Pick<Query, 'asked' | 'fields'> = { asked: null, fields: null },
): Situation => ({
  endpoint: name,
  audience,
  ...(asked === null ? {} : { asked }),
  ...(fields === null ? {} : { fields }),
});
