import { UNDECIDED } from '../../plan/undecided.js';
import type { FindingRule } from '../finding.js';

export const undecided: FindingRule = {
  code: 'undecided',
  severity: 'warning',
  editions: 'newest',
  rule: 'A column is sealed because of its name, and nobody has decided about it.',
  advice: 'Say why it is sealed, .sealed("personal"), or let everybody see it by taking the seal away.',
  find: ({ entities }) =>
    entities.flatMap((entity) =>
      entity.columns
        .filter(({ sealed }) => sealed === UNDECIDED)
        .map(({ name }) => ({
          place: `${entity.name}.${name}`,
          message: 'It is sealed because of its name, until somebody decides.',
        })),
    ),
};
