import type { ListSelection } from './condition.js';
import { conditionText } from './condition-text.js';

/** What tells the counts of a selection from those of others: empty where all rows are counted. */
export const selectionName = ({ where, limit }: Pick<ListSelection<unknown>, 'where' | 'limit'>): string =>
  where.length === 0 && limit === null ? '' : `?${conditionText([where, limit])}`;
