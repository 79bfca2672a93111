import type { FindingRule } from '../finding.js';

export const noSample: FindingRule = {
  code: 'no-sample',
  severity: 'note',
  editions: 'newest',
  rule: 'There is no sample row to show an endpoint with.',
  advice: 'Ask samples() for rows of it, or bring your own.',
  find: ({ api, samples }) =>
    api.endpoints
      .filter(({ returns }) => returns !== null && samples !== null)
      .filter(({ entity }) => Array.from(samples?.[entity.name] ?? []).length === 0)
      .map(({ name, entity }) => ({
        place: name,
        message: `There is no sample row of ${entity.name} to show it with.`,
      })),
};
