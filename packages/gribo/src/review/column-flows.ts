import type { LinkedEntities } from '../plan/linked-entity.js';
import type { Flow } from './lineage/lineage.js';

/** The column that a flow is about. */
export const columnOf = ({ entity, column }: Pick<Flow, 'entity' | 'column'>): string =>
  `${entity}.${column}`;

/** Each of them once. */
export const unique = <T>(all: readonly T[]): readonly T[] => [...new Set(all)];

/** Some of many names: the rest is counted. */
export const some = (names: readonly string[]): string =>
  names.length <= 4 ? names.join(', ') : `${names.slice(0, 3).join(', ')} and ${names.length - 3} more`;

/** The columns that hold the keys of other rows: links show what is behind them. */
export const referring = (model: LinkedEntities): ReadonlySet<string> => {
  const links = Object.values(model).flatMap((linked) => [...linked.links.values()]);
  const toOne = links.filter(({ kind }) => kind === 'toOne');
  return new Set(toOne.flatMap(({ owner, from }) => from.map((name) => `${owner}.${name}`)));
};
