import type { ListSelection } from './condition.js';
import { conditionText } from './condition-text.js';

/** What tells the figures about a selection from those about others: empty where all rows are selected. */
export const selectionName = ({ where, limit }: Pick<ListSelection<unknown>, 'where' | 'limit'>): string =>
  where.length === 0 && limit === null ? '' : `?${conditionText([where, limit])}`;
