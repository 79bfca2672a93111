import { unsetColumns } from '../../plan/unset-columns.js';
import type { FindingRule } from '../finding.js';

export const neverCreated: FindingRule = {
  code: 'never-created',
  severity: 'warning',
  rule: 'A create does not set a column without which no row can be made: it always fails, unless a handler sets it.',
  advice:
    'Take the column in the input, mark it .defaulted() where the database sets it, or accept it where a handler does.',
  find: ({ api }) =>
    api.endpoints.flatMap((endpoint) => {
      const columns = unsetColumns(endpoint);
      if (columns.length === 0) return [];
      const message = `Its input does not set ${columns.join(', ')}, without which there is no row of ${endpoint.entity.name}.`;
      return [{ place: endpoint.name, message }];
    }),
};
