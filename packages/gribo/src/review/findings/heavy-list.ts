import { type Cell, matrixOf } from '../../resolve/matrix.js';
import type { FindingRule, Found, ReviewContext } from '../finding.js';
import { visitFields } from '../visit-fields.js';

/** How many values a row of a body has; lists inside count once. */
const valuesOf = ({ body }: Cell): number => {
  let count = 0;
  visitFields(body.content.fields, '', ({ node }) => {
    if (node.kind !== 'group' && node.kind !== 'nested' && node.kind !== 'first') count++;
  });
  return count;
};

/** Lists whose rows say more than the endpoint that reads one of them. */
const find = ({ api }: ReviewContext): readonly Found[] => {
  const cells = matrixOf(api);
  const reading = ({ endpoint, audience }: Cell): Cell | undefined =>
    cells.find(
      (other) =>
        other.endpoint.operation === 'read' &&
        other.endpoint.name === endpoint.name.replace(/list$/, 'read') &&
        other.audience === audience,
    );
  const found = new Map<string, Found>();
  for (const cell of cells.filter(({ endpoint }) => endpoint.operation === 'list')) {
    const sibling = reading(cell);
    const place = cell.endpoint.name;
    if (sibling === undefined || found.has(place) || valuesOf(cell) <= valuesOf(sibling)) continue;
    const [listed, read] = [valuesOf(cell), valuesOf(sibling)];
    const message = `A row of the list has ${listed} values; ${sibling.endpoint.name} sends ${read}.`;
    found.set(place, { place, message });
  }
  return [...found.values()];
};

export const heavyList: FindingRule = {
  code: 'heavy-list',
  severity: 'warning',
  rule: 'A row of a list says more than reading one does.',
  advice: 'Let the list say less: at({ list, read }) makes a member differ, or absent.',
  find: find,
};
