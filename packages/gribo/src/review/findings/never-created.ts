import { audiencesAt } from '../../plan/audiences-at.js';
import { sayAudiences } from '../../plan/say-audience.js';
import { unsetColumns } from '../../resolve/unset-columns.js';
import type { FindingRule } from '../finding.js';

export const neverCreated: FindingRule = {
  code: 'never-created',
  severity: 'warning',
  editions: 'newest',
  rule: 'A create does not set a column without which no row can be made: it always fails, unless a handler sets it.',
  advice:
    'Take the column in the input, mark it .defaulted() where the database sets it, or accept it where a handler does.',
  find: ({ api }) =>
    api.endpoints.flatMap((endpoint) => {
      const all = audiencesAt(endpoint, api);
      const lacking = new Map<string, (string | null)[]>();
      for (const audience of all) {
        const columns = unsetColumns(endpoint, audience).join(', ');
        if (columns !== '') lacking.set(columns, [...(lacking.get(columns) ?? []), audience]);
      }
      return [...lacking].map(([columns, audiences]) => {
        const whom = audiences.length === all.length ? '' : ` for ${sayAudiences(audiences)}`;
        const message = `Its input does not set ${columns}${whom}, without which there is no row of ${endpoint.entity.name}.`;
        return { place: endpoint.name, message };
      });
    }),
};
