import { audiencesOf } from '../../plan/audiences-of.js';
import type { FindingRule } from '../finding.js';

export const keptForSome: FindingRule = {
  code: 'kept-for-some',
  severity: 'warning',
  rule: 'A response that differs by audience may be kept.',
  advice: 'Leave it out of cache, or see that a caller who logs out is not shown what was kept before.',
  find: ({ api, serving }) =>
    api.endpoints
      .filter(({ name }) => (serving.cache?.[name] ?? 0) > 0)
      .filter(
        ({ audiences, returns }) =>
          audiences !== null || (returns !== null && audiencesOf(returns).length > 0),
      )
      .map(({ name }) => ({
        place: name,
        message: `It is kept for ${serving.cache?.[name]} seconds, and is not the same for everybody.`,
      })),
};
