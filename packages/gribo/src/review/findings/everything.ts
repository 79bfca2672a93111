import type { FindingRule } from '../finding.js';
import { walkShapesOf } from '../shapes-of.js';

export const everything: FindingRule = {
  code: 'everything',
  severity: 'warning',
  rule: 'A shape takes every column.',
  advice: 'List the columns: gribo draft writes such a list.',
  find: ({ api }) =>
    walkShapesOf(api)
      .filter(({ fields }) => fields.some(({ node }) => node.kind === 'column' && node.unnamed === true))
      .map(({ name, entity }) => ({
        place: name,
        message: `It takes every column of ${entity.name} that is not sealed: one that is added goes out too.`,
      })),
};
