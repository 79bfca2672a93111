import { type Cell, cellsAt } from '../../resolve/matrix.js';
import type { FindingRule, Found, ReviewContext } from '../finding.js';
import { visitFields } from '../visit-fields.js';

const pathsOf = ({ body }: Cell): ReadonlySet<string> => {
  const paths = new Set<string>();
  visitFields(body.content.fields, '', (_field, path) => paths.add(path));
  return paths;
};

/** Members that callers of no audience get at an endpoint, and some audience does not. */
const foundAt = (name: string, cells: readonly Cell[]): readonly Found[] => {
  const open = cells.find(({ audience }) => audience === null);
  if (open === undefined) return [];
  const others = cells.filter((cell) => cell !== open).map((cell) => [cell.audience, pathsOf(cell)] as const);
  return [...pathsOf(open)].flatMap((path): readonly Found[] => {
    const without = others.filter(([, paths]) => !paths.has(path)).map(([audience]) => audience);
    if (without.length === 0) return [];
    const message = `Callers of no audience get it, and ${without.join(', ')} does not.`;
    return [{ place: `${name}/${path}`, message }];
  });
};

const find = ({ api }: ReviewContext): readonly Found[] =>
  api.endpoints.flatMap((endpoint) => foundAt(endpoint.name, cellsAt(api, endpoint)));

export const noAudience: FindingRule = {
  code: 'no-audience',
  severity: 'warning',
  rule: 'Callers of no audience get what an audience does not.',
  advice: 'Name the audiences that get it, instead of those that do not.',
  find: find,
};
