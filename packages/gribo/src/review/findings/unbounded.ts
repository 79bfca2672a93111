import { isAboutMany } from '../../plan/declared.js';
import { matrixOf } from '../../resolve/matrix.js';
import type { FindingRule, Found, ReviewContext } from '../finding.js';
import { visitFields } from '../visit-fields.js';

/** Lists inside the rows of a list that nothing limits. */
const find = ({ api }: ReviewContext): readonly Found[] => {
  const found = new Map<string, Found>();
  for (const { endpoint, body } of matrixOf(api)) {
    if (!isAboutMany(endpoint.returns)) continue;
    visitFields(body.content.fields, '', ({ node }, path) => {
      if (node.kind !== 'nestedList' || node.selection.limit !== null) return;
      const place = `${endpoint.name}/${path}`;
      const message = `Every row of the list carries all of its ${node.link.name}, however many there are.`;
      found.set(place, { place, message });
    });
  }
  return [...found.values()];
};

export const unbounded: FindingRule = {
  code: 'unbounded',
  severity: 'warning',
  rule: 'A list inside the rows of a list has no limit.',
  advice: 'Limit it with some(…, { limit }), count it, or give it an endpoint of its own.',
  find: find,
};
