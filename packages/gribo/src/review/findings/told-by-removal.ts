import { audiencesAt } from '../../plan/audiences-at.js';
import { rulesFor } from '../../resolve/rules-for.js';
import type { FindingRule } from '../finding.js';

export const toldByRemoval: FindingRule = {
  code: 'told-by-removal',
  severity: 'note',
  rule: 'A row that cannot be removed tells that others need it, also those that its caller does not see.',
  advice:
    'Let only those remove it who see what needs it, set a column that says that it is gone, or let the database remove them together.',
  find: ({ api, model }) =>
    api.endpoints.flatMap((endpoint) => {
      if (endpoint.operation !== 'remove') return [];
      const hidden = new Set<string>();
      for (const audience of audiencesAt(endpoint, api))
        for (const [name, { see }] of rulesFor(api, audience)) {
          if (see === null) continue;
          const needs = [...(model[name]?.links.values() ?? [])].some(
            ({ reference, target }) => reference === 'here' && target === endpoint.entity,
          );
          if (needs) hidden.add(name);
        }
      if (hidden.size === 0) return [];
      const message = `409 tells that there are rows of ${[...hidden].join(', ')} that need it, which some of its callers do not see.`;
      return [{ place: endpoint.name, message }];
    }),
};
