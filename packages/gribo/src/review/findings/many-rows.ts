import type { InputPlan } from '../../plan/input-plan.js';
import type { FindingRule } from '../finding.js';

/** So many rows of one body are stored without anybody waiting for them. */
const MANY = 10_000;

/** The links whose rows a body brings along, at any depth. */
const manyLinks = (
  { fields }: Pick<InputPlan, 'fields'>,
  seen: ReadonlySet<InputPlan> = new Set(),
): readonly string[] =>
  fields.flatMap(({ node }): readonly string[] => {
    if (node.kind === 'set') return [];
    if (node.kind === 'inputGroup') return manyLinks(node, seen);
    const inner = seen.has(node.input) ? [] : manyLinks(node.input, new Set([...seen, node.input]));
    return node.link.kind === 'toMany' ? [node.link.name, ...inner] : inner;
  });

export const manyRows: FindingRule = {
  code: 'many-rows',
  severity: 'warning',
  rule: 'A body may bring very many rows along.',
  advice: 'Set policies.rows to what a caller needs: each row is one in the database, in one transaction.',
  find: ({ api, serving: { rows } }) =>
    rows === undefined || rows <= MANY
      ? []
      : api.endpoints.flatMap(({ name, takes }) => {
          const links = takes === null ? [] : manyLinks(takes);
          if (links.length === 0) return [];
          return [{ place: name, message: `A body may bring up to ${rows} rows of ${links.join(', ')}.` }];
        }),
};
