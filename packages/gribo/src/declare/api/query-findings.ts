import type { Finding } from '../../errors/declaration-error.js';
import type { InputOf } from '../types/input-types.js';

/** What query parameters mean already, at every list. */
export const TAKEN: readonly string[] = ['page', 'size', 'after', 'sort', 'with', 'fields', 'format'];

/** What is wrong with what a query is told: a parameter is one value, or several of one kind. */
export const queryFindings = (route: string, query: InputOf<unknown> | undefined): readonly Finding[] => {
  if (query === undefined) return [];
  if (query.plan?.entity?.kind !== 'values')
    return [{ path: `${route}?`, message: 'expected values(…): what a query is told stands in no table' }];
  return query.plan.fields.flatMap(({ name, node }): readonly Finding[] => {
    const path = `${route}?${name}`;
    if (TAKEN.includes(name))
      return [{ path, message: 'the parameter has a meaning already: call it otherwise' }];
    if (node.kind === 'set') return [];
    return [
      { path, message: 'a parameter is a column, or an array of values: a query has nothing inside others' },
    ];
  });
};
