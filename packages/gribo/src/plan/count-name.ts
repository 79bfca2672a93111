import type { LinkPlan } from './entity-plan.js';
import type { ListSelection } from './filter.js';

/** Where a row keeps the counts of its to-many links that were counted instead of loaded. */
export const counts: unique symbol = Symbol.for('gribo.counts');

const plain = (value: unknown): unknown => (typeof value === 'bigint' ? `${value}n` : value);

/** The name of a count: the link's, and what was selected of it where that is not all. */
export const countName = (link: LinkPlan, selection: ListSelection): string => {
  const { where, limit } = selection;
  if (where.length === 0 && limit === null) return link.name;
  const filters = where.map(({ column, operator, value }) => [column.name, operator, value]);
  return `${link.name}?${JSON.stringify([filters, limit], (_name, value) => plain(value))}`;
};
