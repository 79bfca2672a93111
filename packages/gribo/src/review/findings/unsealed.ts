import { sayAudience } from '../../plan/say-audience.js';
import { columnOf, some, unique } from '../column-flows.js';
import type { FindingRule, Found, ReviewContext } from '../finding.js';
import type { Flow } from '../lineage/lineage.js';

const isShown = ({ kind }: Flow): boolean => kind === 'sent' || kind === 'converted' || kind === 'computed';

/** Sealed columns that get out, and for whom. What is masked stays unknown. */
const find = ({ flows }: ReviewContext): readonly Found[] => {
  const out = flows.filter((flow) => flow.sealed !== null && isShown(flow) && !flow.lifted);
  return unique(out.map(columnOf)).map((place) => {
    const found = out.filter((flow) => columnOf(flow) === place);
    const whom = unique(found.flatMap(({ audiences }) => audiences)).map(sayAudience);
    const where = unique(found.map(({ endpoint }) => endpoint));
    return {
      place,
      message: `It is sealed (${found[0]?.sealed}), and goes to ${whom.join(', ')} at ${some(where)}.`,
    };
  });
};

export const unsealed: FindingRule = {
  code: 'unsealed',
  severity: 'note',
  rule: 'A sealed column gets out.',
  advice: 'See that each of them may know it; gribo trace shows every way out.',
  find: find,
};
