import { columnOf, referring, some, unique } from '../column-flows.js';
import type { FindingRule, Found, ReviewContext } from '../finding.js';

/** Columns that requests set and no response shows. */
const find = ({ model, flows }: ReviewContext): readonly Found[] => {
  const known = flows.filter((flow) => flow.kind !== 'set').map(columnOf);
  const shown = new Set([...known, ...referring(model)]);
  const set = flows.filter((flow) => flow.kind === 'set' && !shown.has(columnOf(flow)));
  return unique(set.map(columnOf)).map((place): Found => {
    const found = set.filter((flow) => columnOf(flow) === place);
    const where = unique(found.map(({ endpoint, member }) => `${endpoint}/${member}`));
    const verb = where.length === 1 ? 'sets' : 'set';
    const message = `${some(where)} ${verb} it, and no response shows it.`;
    return found[0]?.sealed == null
      ? { place, message }
      : { place, message, severity: 'note', advice: 'It is sealed: that may be just right.' };
  });
};

export const writeOnly: FindingRule = {
  code: 'write-only',
  severity: 'warning',
  editions: 'newest',
  rule: 'A column is set and never shown.',
  advice: 'Show it, so that clients can read what they wrote, or do not take it.',
  find: find,
};
